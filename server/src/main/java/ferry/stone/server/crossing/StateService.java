package ferry.stone.server.crossing;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.view.SideView;
import ferry.stone.server.web.NotFoundException;
import java.io.IOException;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * States of a crossing that can be shown and compared: {@code near}; {@code now}, the far side;
 * {@code after:3}, after three steps; {@code named:…}, a state that was kept under a name.
 */
@Service
public class StateService {
  private static final int MOST_STATES = 100;
  private static final int LONGEST_NAME = 80;

  private final CrossingService crossings;
  private final SceneService scenes;
  private final HandlingService handlings;
  private final StateRepository states;

  public StateService(
      CrossingService crossings,
      SceneService scenes,
      HandlingService handlings,
      StateRepository states) {
    this.crossings = crossings;
    this.scenes = scenes;
    this.handlings = handlings;
    this.states = states;
  }

  public List<StateRepository.NamedState> list(String id) {
    crossings.get(id);
    return states.of(id);
  }

  /** Keeps the handling as it is now. */
  @Transactional
  public List<StateRepository.NamedState> keep(String id, String name) {
    String clean = name == null ? "" : name.strip();
    if (clean.isEmpty() || clean.length() > LONGEST_NAME) {
      throw new IllegalArgumentException("A state's name has 1 to 80 characters.");
    }
    if (states.of(id).size() >= MOST_STATES) {
      throw new IllegalArgumentException("At most 100 states are kept. Delete some first.");
    }
    if (states.of(id).stream().anyMatch(s -> s.name().equals(clean))) {
      throw new IllegalArgumentException(
          "A state \"" + clean + "\" is kept already. Choose another name or delete it first.");
    }
    states.insert(id, UUID.randomUUID().toString().substring(0, 8), clean, handlings.steps(id));
    return states.of(id);
  }

  @Transactional
  public List<StateRepository.NamedState> delete(String id, String state) {
    find(id, state);
    states.delete(id, state);
    return states.of(id);
  }

  /** Makes a kept state the handling again; that can be undone. */
  public HandlingService.HandlingState restore(String id, String state)
      throws IOException, FormatException {
    List<Step> steps = find(id, state).steps();
    return handlings.change(id, crossings.get(id).history(), steps);
  }

  private StateRepository.NamedState find(String id, String state) {
    return states
        .find(id, state)
        .orElseThrow(() -> new NotFoundException("There is no such state; it may be deleted."));
  }

  /** The scene of a state. */
  public Scene scene(String id, String ref) throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    if (ref.equals("near")) {
      return loaded.near();
    }
    if (ref.startsWith("named:")) {
      return loaded.state(find(id, ref.substring("named:".length())).steps());
    }
    List<Handling.Stage> stages = loaded.handle(handlings.steps(id));
    if (ref.startsWith("after:") && ref.matches("after:\\d{1,3}")) {
      int count = Integer.parseInt(ref.substring("after:".length()));
      return Handling.result(loaded.near(), stages.subList(0, Math.min(count, stages.size())));
    }
    if (!ref.equals("now")) {
      throw new IllegalArgumentException(
          "A state is near, now, after:3 or named:…, not \"" + ref + "\".");
    }
    return Handling.result(loaded.near(), stages);
  }

  public SideView view(String id, String ref) throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    Scene scene = scene(id, ref);
    return ref.equals("near")
        ? SideView.near(loaded.near(), loaded)
        : SideView.far(scene, crossings.farShore(id).frame(), loaded);
  }
}
