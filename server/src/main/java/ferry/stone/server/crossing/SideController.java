package ferry.stone.server.crossing;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.proof.LedgerExport;
import ferry.stone.core.proof.LedgerPage;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.pair.SideLedger;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.view.PartView;
import ferry.stone.core.view.Preview;
import ferry.stone.core.view.SideView;
import ferry.stone.server.side.FarChanges;
import ferry.stone.server.web.NotFoundException;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.function.Function;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Near and far sides, the steps between them, and what the views draw. */
@RestController
@RequestMapping("/api")
public class SideController {
  private static final int MOST_MESHES = 200;

  private final CrossingService crossings;
  private final SceneService scenes;
  private final HandlingService handlings;

  public SideController(CrossingService crossings, SceneService scenes, HandlingService handlings) {
    this.crossings = crossings;
    this.scenes = scenes;
    this.handlings = handlings;
  }

  /** A kind of step as forms need it. */
  public record StepKindView(
      String kind,
      String label,
      String help,
      String group,
      boolean takesSelection,
      List<Field> fields) {}

  /**
   * New steps.
   *
   * @param revision the one they start from
   */
  public record HandlingRequest(int revision, List<Step> steps) {}

  @GetMapping("/steps")
  public List<StepKindView> kinds() {
    return Steps.all().stream()
        .map(
            k ->
                new StepKindView(
                    k.kind(),
                    k.label(),
                    k.help(),
                    k.group().label(),
                    k.takesSelection(),
                    k.fields()))
        .toList();
  }

  @GetMapping("/crossings/{id}/handling")
  public HandlingService.HandlingState handling(@PathVariable String id)
      throws IOException, FormatException {
    return handlings.state(id);
  }

  @PutMapping("/crossings/{id}/handling")
  public HandlingService.HandlingState change(
      @PathVariable String id, @RequestBody HandlingRequest request)
      throws IOException, FormatException {
    return handlings.change(id, request.revision(), request.steps());
  }

  /** Offers to accept on top of the steps of a revision. */
  public record OffersRequest(int revision, List<Offer> offers) {}

  /** Accepts offers of the survey: which steps they become is the core's. */
  @PostMapping("/crossings/{id}/handling/offers")
  public HandlingService.HandlingState accept(
      @PathVariable String id, @RequestBody OffersRequest request)
      throws IOException, FormatException {
    return handlings.accept(id, request.revision(), request.offers());
  }

  @PostMapping("/crossings/{id}/handling/undo")
  public HandlingService.HandlingState undo(@PathVariable String id)
      throws IOException, FormatException {
    return handlings.undo(id);
  }

  @PostMapping("/crossings/{id}/handling/redo")
  public HandlingService.HandlingState redo(@PathVariable String id)
      throws IOException, FormatException {
    return handlings.redo(id);
  }

  @GetMapping("/crossings/{id}/near")
  public SideView near(@PathVariable String id) throws IOException, FormatException {
    return near(scenes.scenes(id));
  }

  /**
   * @param after how many steps are in effect; all when left out
   */
  @GetMapping("/crossings/{id}/far")
  public SideView far(@PathVariable String id, @RequestParam(required = false) Integer after)
      throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    List<Handling.Stage> stages = loaded.handle(handlings.steps(id));
    int count = after == null ? stages.size() : Math.max(0, Math.min(after, stages.size()));
    Scene far = Handling.result(loaded.near(), stages.subList(0, count));
    return SideView.far(far, crossings.farShore(id).frame(), loaded);
  }

  /**
   * The same against a far side that the page has.
   *
   * @param known the key that it came with
   */
  @GetMapping("/crossings/{id}/far-changes")
  public FarChanges farChanges(
      @PathVariable String id,
      @RequestParam(required = false) Integer after,
      @RequestParam(defaultValue = "") String known)
      throws IOException, FormatException {
    return scenes.scenes(id).changes(far(id, after), known);
  }

  /**
   * Meshes for the views, one after another: uint32 length (little-endian), then the block of
   * {@link Preview}. A mesh that is no longer shown has length 0.
   *
   * @param keys as the sides name them, separated by commas; at most {@value #MOST_MESHES}
   */
  @GetMapping(path = "/crossings/{id}/meshes", produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  public void meshes(
      @PathVariable String id, @RequestParam List<String> keys, HttpServletResponse response)
      throws IOException, FormatException {
    writeBlocks(id, keys, shown -> Preview.of(shown.mesh(), shown.scene()), response);
  }

  /**
   * The piece of each vertex of meshes that {@link #meshes} gave, in the same order and form, each
   * block as {@link Preview#pieces} says.
   */
  @GetMapping(path = "/crossings/{id}/pieces", produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  public void pieces(
      @PathVariable String id, @RequestParam List<String> keys, HttpServletResponse response)
      throws IOException, FormatException {
    writeBlocks(id, keys, shown -> Preview.pieces(shown.mesh()), response);
  }

  /**
   * The face set of each triangle of meshes that {@link #meshes} gave, in the same order and form,
   * each block as {@link Preview#faceSets} says.
   */
  @GetMapping(
      path = "/crossings/{id}/facesets",
      produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  public void faceSets(
      @PathVariable String id, @RequestParam List<String> keys, HttpServletResponse response)
      throws IOException, FormatException {
    writeBlocks(id, keys, shown -> Preview.faceSets(shown.mesh()), response);
  }

  private void writeBlocks(
      String id,
      List<String> keys,
      Function<LoadedCrossing.Shown, byte[]> toBlock,
      HttpServletResponse response)
      throws IOException, FormatException {
    if (keys.size() > MOST_MESHES) {
      throw new IllegalArgumentException("At most " + MOST_MESHES + " meshes at once.");
    }
    LoadedCrossing loaded = scenes.scenes(id);
    response.setContentType(MediaType.APPLICATION_OCTET_STREAM_VALUE);
    OutputStream out = response.getOutputStream();
    for (String key : keys) {
      LoadedCrossing.Shown shown = loaded.shown(key);
      byte[] block = shown == null ? new byte[0] : toBlock.apply(shown);
      out.write(ByteBuffer.allocate(4).order(ByteOrder.LITTLE_ENDIAN).putInt(block.length).array());
      out.write(block);
    }
  }

  /**
   * Near and far side, fact by fact, before anything has landed: the first rows that fit.
   *
   * @param find what group, fact or note holds
   * @param count how many at most
   */
  @GetMapping("/crossings/{id}/ledger")
  public LedgerPage ledger(
      @PathVariable String id,
      @RequestParam(required = false) LedgerRow.Verdict verdict,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "500") int count)
      throws IOException, FormatException {
    return LedgerPage.of(rows(id), verdict, find, count);
  }

  private List<LedgerRow> rows(String id) throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    Scene far = Handling.result(loaded.near(), loaded.handle(handlings.steps(id)));
    return SideLedger.of(loaded.near(), far);
  }

  /**
   * The same ledger as a file.
   *
   * @param kind {@code html}, {@code csv} or {@code json}
   */
  @GetMapping("/crossings/{id}/ledger.{kind}")
  public ResponseEntity<?> ledgerFile(@PathVariable String id, @PathVariable String kind)
      throws IOException, FormatException {
    List<LedgerRow> rows = rows(id);
    String name = crossings.get(id).name();
    ResponseEntity.BodyBuilder answer =
        ResponseEntity.ok()
            .header(
                HttpHeaders.CONTENT_DISPOSITION,
                ContentDisposition.attachment()
                    .filename(Landing.stem(name) + ".ledger." + kind, StandardCharsets.UTF_8)
                    .build()
                    .toString());
    return switch (kind) {
      case "csv" ->
          answer
              .contentType(MediaType.parseMediaType("text/csv;charset=UTF-8"))
              .body(LedgerExport.csv(rows).getBytes(StandardCharsets.UTF_8));
      case "html" ->
          answer
              .contentType(MediaType.parseMediaType("text/html;charset=UTF-8"))
              .body(
                  LedgerExport.html(name, "Near side and far side, before the landing.", rows)
                      .getBytes(StandardCharsets.UTF_8));
      case "json" -> answer.contentType(MediaType.APPLICATION_JSON).body(rows);
      default -> throw new NotFoundException("A ledger is html, csv or json, not " + kind + ".");
    };
  }

  /** Facts of one part of the near side. */
  @GetMapping("/crossings/{id}/parts/{nodeId}")
  public PartView part(@PathVariable String id, @PathVariable int nodeId)
      throws IOException, FormatException {
    return PartView.of(scenes.scenes(id).near(), nodeId)
        .orElseThrow(() -> new NotFoundException("This part is not there any more."));
  }

  private static SideView near(LoadedCrossing loaded) {
    return SideView.near(loaded.near(), loaded);
  }
}
