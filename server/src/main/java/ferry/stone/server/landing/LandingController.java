package ferry.stone.server.landing;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerExport;
import ferry.stone.core.proof.LedgerPage;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.store.BlobStore;
import ferry.stone.server.web.Attachments;
import ferry.stone.server.web.ConflictException;
import ferry.stone.server.web.NotFoundException;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
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
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Landings, their files and proofs. */
@RestController
@RequestMapping("/api")
public class LandingController {
  private final LandingService landings;
  private final CrossingService crossings;
  private final BlobStore blobs;
  private final ReportService reports;
  private final PageService pages;

  public LandingController(
      LandingService landings,
      CrossingService crossings,
      BlobStore blobs,
      ReportService reports,
      PageService pages) {
    this.reports = reports;
    this.pages = pages;
    this.landings = landings;
    this.crossings = crossings;
    this.blobs = blobs;
  }

  @GetMapping("/crossings/{id}/landings")
  public List<LandingView> list(@PathVariable String id) {
    return landings.views(id);
  }

  @PostMapping("/crossings/{id}/landings")
  @ResponseStatus(HttpStatus.ACCEPTED)
  public LandingRecord land(@PathVariable String id, @RequestBody LandingOptions options)
      throws IOException, FormatException {
    return landings.start(id, options);
  }

  @GetMapping("/landings/{id}")
  public LandingRecord get(@PathVariable String id) {
    return landings.get(id);
  }

  @DeleteMapping("/landings/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  public void delete(@PathVariable String id) {
    landings.delete(id);
  }

  /** The only file, or all files in a zip; written as it is read, however large. */
  @GetMapping("/landings/{id}/download")
  public void download(@PathVariable String id, HttpServletResponse response) throws IOException {
    LandingRecord landing = done(id);
    boolean one = landing.files().size() == 1;
    String main = landing.mainFile();
    String name =
        landing.options().parts().isSeveral()
            ? landing.options().stem(crossings.get(landing.crossingId()).name())
            : CargoPath.stem(main);
    response.setContentType(one ? mediaType(main) : "application/zip");
    response.setHeader(
        HttpHeaders.CONTENT_DISPOSITION,
        ContentDisposition.attachment()
            .filename(one ? CargoPath.name(main) : name + ".zip", StandardCharsets.UTF_8)
            .build()
            .toString());
    if (one) {
      LandingRecord.LandedFile file = landing.files().get(0);
      response.setContentLengthLong(file.size());
      Files.copy(blobs.path(file.blob()), response.getOutputStream());
      return;
    }
    try (ZipOutputStream entries = new ZipOutputStream(response.getOutputStream())) {
      for (LandingRecord.LandedFile file : landing.files()) {
        entries.putNextEntry(new ZipEntry(file.path()));
        Files.copy(blobs.path(file.blob()), entries);
        entries.closeEntry();
      }
    }
  }

  /**
   * The first rows of a landing's proof that fit.
   *
   * @param find what group, fact or note holds
   * @param count how many at most
   */
  @GetMapping("/landings/{id}/rows")
  public LedgerPage rows(
      @PathVariable String id,
      @RequestParam(required = false) LedgerRow.Verdict verdict,
      @RequestParam(defaultValue = "") String find,
      @RequestParam(defaultValue = "500") int count) {
    return LedgerPage.of(landings.rows(id), verdict, find, count);
  }

  @GetMapping(path = "/landings/{id}/ledger.csv", produces = "text/csv;charset=UTF-8")
  public ResponseEntity<byte[]> csv(@PathVariable String id) {
    Proof proof = done(id).proof();
    return attachment(stem(proof) + ".proof.csv", "text/csv;charset=UTF-8")
        .body(LedgerExport.csv(proof.rows()).getBytes(StandardCharsets.UTF_8));
  }

  @GetMapping(path = "/landings/{id}/ledger.html", produces = "text/html;charset=UTF-8")
  public ResponseEntity<byte[]> html(@PathVariable String id) {
    LandingRecord landing = done(id);
    String title = crossings.get(landing.crossingId()).name();
    return attachment(stem(landing.proof()) + ".proof.html", "text/html;charset=UTF-8")
        .body(LedgerExport.html(title, landing.proof()).getBytes(StandardCharsets.UTF_8));
  }

  /** A page to hand over: pictures of both sides, all facts, hashes, settings. */
  @GetMapping(path = "/landings/{id}/report.html", produces = "text/html;charset=UTF-8")
  public ResponseEntity<byte[]> report(@PathVariable String id)
      throws IOException, FormatException {
    LandingRecord landing = done(id);
    byte[] page = reports.page(landing).getBytes(StandardCharsets.UTF_8);
    return attachment(stem(landing.proof()) + ".report.html", "text/html;charset=UTF-8").body(page);
  }

  /** What a page to hand over shows. */
  public enum Shown {
    /** What landed. */
    ASSET,
    /** The near side and what landed, with the seam between them and the proof. */
    PROOF
  }

  /** One HTML file with the asset inside: to be turned, played, looked at without a server. */
  @GetMapping(path = "/landings/{id}/page.html", produces = "text/html;charset=UTF-8")
  public void page(
      @PathVariable String id,
      @RequestParam(defaultValue = "ASSET") Shown of,
      HttpServletResponse response)
      throws IOException, FormatException {
    LandingRecord landing = done(id);
    String end = of == Shown.PROOF ? ".seam.html" : ".page.html";
    pages.write(
        landing, of == Shown.PROOF, () -> Attachments.html(response, stem(landing.proof()) + end));
  }

  @GetMapping(path = "/landings/{id}/ledger.json", produces = MediaType.APPLICATION_JSON_VALUE)
  public ResponseEntity<Proof> json(@PathVariable String id) {
    Proof proof = done(id).proof();
    return attachment(stem(proof) + ".proof.json", MediaType.APPLICATION_JSON_VALUE).body(proof);
  }

  private LandingRecord done(String id) {
    LandingRecord landing = landings.get(id);
    if (!landing.state().equals("done")) {
      throw new ConflictException("This landing is not done: there is nothing to download yet.");
    }
    if (landing.files().isEmpty()) {
      throw new NotFoundException("This landing has no files.");
    }
    return landing;
  }

  private static String stem(Proof proof) {
    return CargoPath.stem(proof.file());
  }

  private static String mediaType(String path) {
    return path.endsWith(".glb")
        ? "model/gltf-binary"
        : path.endsWith(".gltf") ? "model/gltf+json" : "application/octet-stream";
  }

  private static ResponseEntity.BodyBuilder attachment(String name, String type) {
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(name, StandardCharsets.UTF_8)
                .build()
                .toString())
        .contentType(MediaType.parseMediaType(type));
  }
}
