package ferry.stone.server.crossing;

import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.scene.Scene;
import ferry.stone.server.web.ConflictException;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The steps of a crossing: saved at once, with undo and redo that survive a restart. */
@Service
public class HandlingService {
  private static final int MOST_STEPS = 200;

  private final CrossingService crossings;
  private final CrossingRepository repository;
  private final HandlingRepository handlings;

  public HandlingService(
      CrossingService crossings, CrossingRepository repository, HandlingRepository handlings) {
    this.crossings = crossings;
    this.repository = repository;
    this.handlings = handlings;
  }

  /**
   * The steps with what came of them.
   *
   * @param revision place in the history; a change must name the one it starts from
   */
  public record HandlingState(
      int revision, boolean canUndo, boolean canRedo, List<StepState> steps) {}

  /**
   * @param figure what the step changed
   * @param failure why it was passed over
   * @param notes what it met and did, one by one
   */
  public record StepState(
      Step step, String figure, @Schema(nullable = true) String failure, List<StepNote> notes) {}

  /** Something that a step met or did: a name that it changed, a part that it left out. */
  public record StepNote(String code, String where, String message) {}

  public List<Step> steps(String id) {
    return handlings.at(id, crossings.get(id).history());
  }

  public HandlingState state(String id) throws IOException, FormatException {
    Crossing crossing = crossings.get(id);
    List<Handling.Stage> stages = crossings.scenes(id).handle(steps(id));
    return new HandlingState(
        crossing.history(),
        crossing.history() > 0,
        crossing.history() < handlings.last(id),
        stages.stream().map(HandlingService::stepState).toList());
  }

  private static StepState stepState(Handling.Stage s) {
    return new StepState(
        s.step(),
        s.figure(),
        s.failure(),
        s.findings().stream()
            .filter(f -> !f.code().equals("step-failed"))
            .map(f -> new StepNote(f.code(), f.where(), f.message()))
            .toList());
  }

  @Transactional
  public HandlingState change(String id, int revision, List<Step> steps)
      throws IOException, FormatException {
    Crossing crossing = crossings.get(id);
    if (crossing.history() != revision) {
      throw new ConflictException(
          "The handling was changed in another window. It was loaded again; repeat your change.");
    }
    validate(steps);
    handlings.put(id, revision + 1, steps);
    repository.history(id, revision + 1);
    return summarised(id);
  }

  private static void validate(List<Step> steps) {
    if (steps.size() > MOST_STEPS) {
      throw new IllegalArgumentException("A handling has at most 200 steps.");
    }
    Set<String> ids = new HashSet<>();
    for (Step step : steps) {
      if (step.id() == null || step.id().isBlank() || !ids.add(step.id())) {
        throw new IllegalArgumentException("Every step needs an id of its own.");
      }
      Steps.validate(step);
    }
  }

  @Transactional
  public HandlingState undo(String id) throws IOException, FormatException {
    int place = crossings.get(id).history();
    if (place > 0) {
      repository.history(id, place - 1);
    }
    return summarised(id);
  }

  @Transactional
  public HandlingState redo(String id) throws IOException, FormatException {
    int place = crossings.get(id).history();
    if (place < handlings.last(id)) {
      repository.history(id, place + 1);
    }
    return summarised(id);
  }

  private HandlingState summarised(String id) throws IOException, FormatException {
    HandlingState state = state(id);
    LoadedCrossing loaded = crossings.scenes(id);
    Scene far = Handling.result(loaded.near(), loaded.handle(steps(id)));
    Crossing crossing = crossings.get(id);
    if (crossing.summary() != null) {
      Set<String> kinds = new HashSet<>();
      state.steps().stream()
          .filter(s -> s.step().enabled() && s.failure() == null)
          .forEach(s -> kinds.add(s.step().kind()));
      repository.summary(
          id,
          crossing
              .summary()
              .withSide(
                  SideView.heightText(far),
                  FindingView.open(loaded.survey(), Severity.FIX, kinds),
                  FindingView.open(loaded.survey(), Severity.LOOK, kinds)));
    }
    return state;
  }
}
