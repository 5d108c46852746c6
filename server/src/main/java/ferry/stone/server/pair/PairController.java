package ferry.stone.server.pair;

import com.fasterxml.jackson.core.type.TypeReference;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.proof.pair.PairProof.Together;
import ferry.stone.server.pair.PairService.Compared;
import ferry.stone.server.pair.PairService.How;
import ferry.stone.server.pair.PairService.Side;
import ferry.stone.server.store.Json;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Two assets held against each other. */
@RestController
@RequestMapping("/api/pairs")
public class PairController {
  private final PairService pairs;
  private final Json json;

  public PairController(PairService pairs, Json json) {
    this.pairs = pairs;
    this.json = json;
  }

  private How how(Together together, String match) {
    try {
      return new How(
          together,
          match.isEmpty()
              ? Map.of()
              : json.read(match, new TypeReference<Map<String, String>>() {}));
    } catch (IllegalStateException e) {
      throw new IllegalArgumentException(
          "match is a JSON object of paths, like {\"first/part\": \"second/part\"}.", e);
    }
  }

  /**
   * All facts.
   *
   * @param first id of a crossing
   * @param firstState {@code near} as it was read, {@code now} with its steps, or another state
   * @param match parts of the first and those of the second that they are, as a JSON object
   */
  @GetMapping
  public Compared compare(
      @RequestParam String first,
      @RequestParam(defaultValue = "near") String firstState,
      @RequestParam String second,
      @RequestParam(defaultValue = "near") String secondState,
      @RequestParam(defaultValue = "AS_THEY_ARE") Together together,
      @RequestParam(defaultValue = "") String match)
      throws IOException, FormatException {
    return pairs.compare(
        new Side(first, firstState), new Side(second, secondState), how(together, match));
  }

  /** The same as a page with pictures of both. */
  @GetMapping(path = "/report.html", produces = "text/html;charset=UTF-8")
  public ResponseEntity<byte[]> report(
      @RequestParam String first,
      @RequestParam(defaultValue = "near") String firstState,
      @RequestParam String second,
      @RequestParam(defaultValue = "near") String secondState,
      @RequestParam(defaultValue = "AS_THEY_ARE") Together together,
      @RequestParam(defaultValue = "") String match)
      throws IOException, FormatException {
    String page =
        pairs.page(
            new Side(first, firstState), new Side(second, secondState), how(together, match));
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename("compared.report.html", StandardCharsets.UTF_8)
                .build()
                .toString())
        .contentType(MediaType.parseMediaType("text/html;charset=UTF-8"))
        .body(page.getBytes(StandardCharsets.UTF_8));
  }
}
