package ferry.stone.server.routine;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.routine.RunRecord;
import ferry.stone.server.crossing.Crossing;
import ferry.stone.server.routine.BatchRepository.AssetRow;
import ferry.stone.server.routine.BatchRepository.BatchRow;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Batches: begin, bring assets, run, open, take. */
@RestController
@RequestMapping("/api/batches")
public class BatchController {
  private final BatchService batches;
  private final BatchFiles files;

  public BatchController(BatchService batches, BatchFiles files) {
    this.batches = batches;
    this.files = files;
  }

  /** A routine and a name; the routine's name when left out. */
  public record BatchRequest(String routine, String name) {}

  /** A name for an asset. */
  public record AssetRequest(String name) {}

  /**
   * A batch.
   *
   * @param trouble assets to look at
   */
  public record BatchView(
      String id,
      String name,
      String routine,
      int version,
      String createdAt,
      int assets,
      int done,
      int trouble,
      boolean working) {}

  /**
   * An asset of a batch.
   *
   * @param verdict {@code kept} … {@code refused}; {@code null} while there is none
   * @param told what there is to be known, in a line
   * @param foretold facts that the forecasts told as changed or lost
   * @param lostFacts what was lost, in words
   * @param hasPicture whether its crossing has a small picture
   */
  public record AssetView(
      String crossingId,
      String name,
      String state,
      boolean opened,
      @Schema(nullable = true) String verdict,
      boolean trouble,
      String told,
      int foretold,
      int kept,
      int changed,
      int lost,
      List<String> lostFacts,
      List<String> landings,
      boolean hasPicture) {}

  /** A batch with its assets. */
  public record BatchDetail(BatchView batch, List<AssetView> assets) {}

  private BatchView view(BatchRow batch) {
    List<AssetRow> assets = batches.assets(batch.id());
    return new BatchView(
        batch.id(),
        batch.name(),
        batch.routine().name(),
        batch.routine().version(),
        batch.createdAt(),
        assets.size(),
        (int) assets.stream().filter(a -> a.record() != null).count(),
        (int)
            assets.stream()
                .filter(a -> a.record() != null && a.record().verdict().isTrouble())
                .count(),
        assets.stream().anyMatch(BatchController::works));
  }

  private static boolean works(AssetRow asset) {
    return asset.state().equals("waiting") || asset.state().equals("running");
  }

  private AssetView view(AssetRow asset) {
    RunRecord record = works(asset) ? null : asset.record();
    List<RunRecord.LandingFact> landed = record == null ? List.of() : record.landings();
    return new AssetView(
        asset.crossingId(),
        asset.name(),
        asset.state(),
        asset.opened(),
        record == null ? null : record.verdict().word(),
        record != null && record.verdict().isTrouble(),
        record == null ? "" : record.line(),
        landed.stream().mapToInt(RunRecord.LandingFact::foretold).sum(),
        landed.stream().mapToInt(RunRecord.LandingFact::kept).sum(),
        landed.stream().mapToInt(RunRecord.LandingFact::changed).sum(),
        landed.stream().mapToInt(RunRecord.LandingFact::lost).sum(),
        landed.stream().flatMap(l -> l.lostFacts().stream()).toList(),
        asset.landings(),
        files.hasPicture(asset));
  }

  @GetMapping
  public List<BatchView> list() {
    return batches.all().stream().map(this::view).toList();
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  public BatchView create(@RequestBody BatchRequest request) {
    return view(batches.create(request.routine(), request.name()));
  }

  @GetMapping("/{id}")
  public BatchDetail get(@PathVariable String id) {
    return new BatchDetail(
        view(batches.get(id)), batches.assets(id).stream().map(this::view).toList());
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  public void delete(@PathVariable String id) {
    batches.delete(id);
  }

  /** One more asset; its files are put to its crossing, then it is run. */
  @PostMapping("/{id}/assets")
  @ResponseStatus(HttpStatus.CREATED)
  public AssetView add(@PathVariable String id, @RequestBody AssetRequest request) {
    return view(batches.add(id, request.name()));
  }

  @PostMapping("/{id}/assets/{crossing}/run")
  @ResponseStatus(HttpStatus.ACCEPTED)
  public AssetView run(@PathVariable String id, @PathVariable String crossing) {
    return view(batches.run(id, crossing));
  }

  /** Puts an asset on the quay, to be opened as a crossing. */
  @PostMapping("/{id}/assets/{crossing}/open")
  public Crossing open(@PathVariable String id, @PathVariable String crossing) {
    return batches.open(id, crossing);
  }

  /** Sends again what was refused or cancelled. */
  @PostMapping("/{id}/retry")
  @ResponseStatus(HttpStatus.ACCEPTED)
  public BatchDetail retry(@PathVariable String id) {
    batches.retry(id);
    return get(id);
  }

  @PostMapping("/{id}/cancel")
  public BatchDetail cancel(@PathVariable String id) {
    batches.cancel(id);
    return get(id);
  }

  /** One report of all assets. */
  @GetMapping(path = "/{id}/report.html", produces = "text/html;charset=UTF-8")
  public ResponseEntity<byte[]> report(@PathVariable String id) throws IOException {
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, attachment("batch.html"))
        .contentType(MediaType.parseMediaType("text/html;charset=UTF-8"))
        .body(files.report(batches.get(id)).html(files::picture).getBytes(StandardCharsets.UTF_8));
  }

  @GetMapping(path = "/{id}/report.json", produces = MediaType.APPLICATION_JSON_VALUE)
  public ResponseEntity<byte[]> json(@PathVariable String id) {
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, attachment("batch.json"))
        .body(files.report(batches.get(id)).json().getBytes(StandardCharsets.UTF_8));
  }

  /** All landed files, proofs and pages in a zip, written as it is read. */
  @GetMapping("/{id}/download")
  public void download(@PathVariable String id, HttpServletResponse response)
      throws IOException, FormatException {
    BatchRow batch = batches.get(id);
    response.setContentType("application/zip");
    response.setHeader(HttpHeaders.CONTENT_DISPOSITION, attachment(batch.name() + ".zip"));
    files.zip(batch, response.getOutputStream());
  }

  private static String attachment(String name) {
    return ContentDisposition.attachment()
        .filename(name, StandardCharsets.UTF_8)
        .build()
        .toString();
  }
}
