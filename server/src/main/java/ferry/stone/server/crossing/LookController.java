package ferry.stone.server.crossing;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.handling.step.look.LookBindings;
import ferry.stone.core.handling.step.look.LookRow;
import ferry.stone.core.handling.step.look.PutLook;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.sheet.Sheet;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.PbrTranslation;
import ferry.stone.server.web.NotFoundException;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What a step that puts a look on binds to what, to see, to correct and to take along. */
@RestController
@RequestMapping("/api/crossings/{id}/looks/{step}")
public class LookController {
  private static final PutLook KIND = new PutLook();

  private final CrossingService crossings;
  private final SceneService scenes;
  private final HandlingService handlings;

  public LookController(CrossingService crossings, SceneService scenes, HandlingService handlings) {
    this.crossings = crossings;
    this.scenes = scenes;
    this.handlings = handlings;
  }

  /**
   * Faces of one part with their material.
   *
   * @param key what the faces are called where they are bound by hand
   * @param set name of their set, empty for faces that are in none
   * @param faces how many
   * @param materialId −1 where they keep what they have
   * @param confidence 0 to 1
   * @param how in words: as found, by hand, not bound, not as said
   * @param hand whether the user said it
   */
  public record RowView(
      int nodeId,
      String path,
      String key,
      String set,
      int faces,
      int materialId,
      String material,
      double confidence,
      List<String> reasons,
      String how,
      boolean hand) {
    static RowView of(LookRow row) {
      return new RowView(
          row.nodeId(),
          row.path(),
          row.key(),
          row.set(),
          row.faces().length,
          row.materialId(),
          row.material(),
          row.confidence(),
          row.reasons(),
          row.how().words(),
          row.how() == LookRow.How.BY_HAND || row.how() == LookRow.How.UNKNOWN);
    }
  }

  /**
   * A material of the look.
   *
   * @param colour sRGB, {@code #rrggbb}
   */
  public record LookMaterial(int id, String name, String colour) {}

  /** All bindings of a step, and what can be bound. */
  public record LookTable(List<RowView> rows, List<LookMaterial> materials) {}

  /**
   * A binding by hand.
   *
   * @param revision of the handling that it starts from
   * @param material its name; {@code -} to leave what there is; {@code null} for what is found
   */
  public record BindRequest(
      int revision, String key, String path, @Schema(nullable = true) String material) {}

  /** A step with the scene that it works on. */
  private record Found(Step step, Scene before) {
    PutLook.Params params() {
      return Steps.params(KIND, step.params());
    }

    LookBindings bindings() {
      return LookBindings.of(before, step.selection(), params());
    }
  }

  private Found find(String id, String stepId) throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    Scene before = loaded.near();
    for (Handling.Stage stage : loaded.handle(handlings.steps(id))) {
      if (stage.step().id().equals(stepId) && stage.step().kind().equals(KIND.kind())) {
        return new Found(stage.resolved(), before);
      }
      before = stage.scene();
    }
    throw new NotFoundException("This step is not there any more, or puts no look on.");
  }

  @GetMapping
  public LookTable table(@PathVariable String id, @PathVariable String step)
      throws IOException, FormatException {
    Found found = find(id, step);
    LookBindings bindings = found.bindings();
    boolean linear = found.before().linearColours();
    List<LookMaterial> materials =
        bindings.materials().entrySet().stream()
            .map(
                e ->
                    new LookMaterial(
                        e.getValue(),
                        e.getKey(),
                        ColourSpace.hex(
                            PbrTranslation.translate(
                                    found.before().material(e.getValue()).orElseThrow(), linear)
                                .baseColour())))
            .toList();
    return new LookTable(bindings.rows().stream().map(RowView::of).toList(), materials);
  }

  /** Place in the table of the faces that one face is among; −1 for none. */
  @GetMapping("/row")
  public int row(
      @PathVariable String id,
      @PathVariable String step,
      @RequestParam int node,
      @RequestParam int face)
      throws IOException, FormatException {
    Found found = find(id, step);
    return found.bindings().rowOf(found.before(), node, face);
  }

  /** Binds faces of one part by hand; the step keeps it. */
  @PutMapping
  public HandlingService.HandlingState bind(
      @PathVariable String id, @PathVariable String step, @RequestBody BindRequest request)
      throws IOException, FormatException {
    if (request.key() == null || request.path() == null) {
      throw new IllegalArgumentException("A binding names its faces (key) and their part (path).");
    }
    String bound = find(id, step).params().bound(request.key(), request.path(), request.material());
    List<Step> steps =
        handlings.steps(id).stream()
            .map(s -> s.id().equals(step) ? s.withParams(with(s.params(), bound)) : s)
            .toList();
    return handlings.change(id, request.revision(), steps);
  }

  private static Map<String, Object> with(Map<String, Object> params, String bindings) {
    Map<String, Object> changed = new HashMap<>(params);
    changed.put("bindings", bindings);
    return changed;
  }

  /**
   * The table as a file.
   *
   * @param kind {@code csv} or {@code html}
   */
  @GetMapping("/table.{kind}")
  public ResponseEntity<byte[]> file(
      @PathVariable String id, @PathVariable String step, @PathVariable String kind)
      throws IOException, FormatException {
    if (!kind.equals("csv") && !kind.equals("html")) {
      throw new NotFoundException("A table is csv or html, not " + kind + ".");
    }
    String name = crossings.get(id).name();
    Sheet sheet = find(id, step).bindings().sheet(name);
    String text = kind.equals("csv") ? sheet.csv() : sheet.html();
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(Landing.stem(name) + ".bindings." + kind, StandardCharsets.UTF_8)
                .build()
                .toString())
        .contentType(MediaType.parseMediaType("text/" + kind + ";charset=UTF-8"))
        .body(text.getBytes(StandardCharsets.UTF_8));
  }
}
