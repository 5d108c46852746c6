package ferry.stone.server.bench;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.texture.match.TextureBindings;
import ferry.stone.core.view.MaterialBench;
import ferry.stone.server.crossing.HandlingService;
import ferry.stone.server.crossing.LoadedCrossing;
import ferry.stone.server.crossing.SceneService;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Materials and the images on their channels. What is put by hand is kept in a step. */
@RestController
@RequestMapping("/api/crossings/{id}/bench")
public class BenchController {
  private static final String STEP = "textures";
  private static final int MOST_PUTS = 2000;

  private final SceneService scenes;
  private final HandlingService handlings;
  private final MaterialCopies copies;

  public BenchController(SceneService scenes, HandlingService handlings, MaterialCopies copies) {
    this.scenes = scenes;
    this.handlings = handlings;
    this.copies = copies;
  }

  /**
   * @param crossing id of the crossing that they come from
   * @param materials names of those that are copied; all of its far side when empty
   */
  public record CopyRequest(String crossing, List<String> materials) {}

  /** Copies materials of another crossing's far side, and reads the cargo anew with them. */
  @PostMapping("/copies")
  @ResponseStatus(HttpStatus.ACCEPTED)
  public MaterialCopies.Copied copy(@PathVariable String id, @RequestBody CopyRequest request)
      throws IOException, FormatException {
    if (request.crossing() == null || request.crossing().isBlank()) {
      throw new IllegalArgumentException("crossing says which crossing the materials come from.");
    }
    List<String> names = request.materials() == null ? List.of() : request.materials();
    return copies.copy(id, request.crossing(), names);
  }

  /** Both sides of all materials, and loose images. */
  @GetMapping
  public MaterialBench bench(@PathVariable String id) throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    Scene far = Handling.result(loaded.near(), loaded.handle(handlings.steps(id)));
    return MaterialBench.of(loaded.near(), far, loaded.cargo(), loaded);
  }

  /**
   * An image for a channel.
   *
   * @param image as a binding names it, with the part that is read in brackets; {@code -} to take
   *     away what is there, {@code null} to take back what was said by hand
   */
  public record BenchPut(String material, Channel channel, String image) {}

  /**
   * @param revision of the handling that they start from
   */
  public record BenchPutRequest(int revision, List<BenchPut> puts) {}

  /**
   * Puts images by hand: the last step that puts textures on takes them, a new one when there is
   * none.
   */
  @PutMapping
  public HandlingService.HandlingState put(
      @PathVariable String id, @RequestBody BenchPutRequest request)
      throws IOException, FormatException {
    if (request.puts() == null || request.puts().isEmpty() || request.puts().size() > MOST_PUTS) {
      throw new IllegalArgumentException("puts holds 1 to " + MOST_PUTS + " images.");
    }
    List<Step> steps = new ArrayList<>(handlings.steps(id));
    int at = -1;
    for (int i = 0; i < steps.size(); i++) {
      at = steps.get(i).kind().equals(STEP) && steps.get(i).enabled() ? i : at;
    }
    if (at < 0) {
      at = steps.size();
      String stepId = UUID.randomUUID().toString().substring(0, 8);
      steps.add(new Step(stepId, STEP, Map.of("find", "none"), true, List.of()));
    }
    Step step = steps.get(at);
    Map<String, Object> params = new HashMap<>(step.params());
    String bindings = String.valueOf(params.getOrDefault("bindings", ""));
    for (BenchPut put : request.puts()) {
      if (put.material() == null || put.channel() == null) {
        throw new IllegalArgumentException("An image is put on a channel of a material.");
      }
      bindings = TextureBindings.with(bindings, put.channel(), put.material(), put.image());
    }
    params.put("bindings", bindings);
    steps.set(at, step.withParams(params));
    return handlings.change(id, request.revision(), steps);
  }
}
