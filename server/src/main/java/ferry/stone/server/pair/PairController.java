package ferry.stone.server.pair;

import com.fasterxml.jackson.core.type.TypeReference;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.proof.pair.PairProof.How;
import ferry.stone.core.proof.pair.PairProof.Together;
import ferry.stone.core.shore.Tolerances;
import ferry.stone.core.view.picture.ViewFrom;
import ferry.stone.server.pair.PairService.Compared;
import ferry.stone.server.pair.PairService.Side;
import ferry.stone.server.shore.ShoreService;
import ferry.stone.server.store.Json;
import ferry.stone.server.web.Attachments;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.springdoc.core.annotations.ParameterObject;
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
  private final ShoreService shores;
  private final Json json;

  public PairController(PairService pairs, ShoreService shores, Json json) {
    this.pairs = pairs;
    this.shores = shores;
    this.json = json;
  }

  private How how(Asked asked) {
    if (asked.first() == null || asked.second() == null) {
      throw new IllegalArgumentException("first and second are ids of crossings.");
    }
    String shore = asked.shore();
    Map<String, String> match = asked.match().isEmpty() ? Map.of() : match(asked.match());
    return new How(
        asked.together(),
        match,
        shore.isEmpty() ? Tolerances.NONE : shores.get(shore).tolerances(),
        asked.firstClip(),
        asked.secondClip());
  }

  private Map<String, String> match(String text) {
    try {
      return json.read(text, new TypeReference<Map<String, String>>() {});
    } catch (IllegalStateException e) {
      throw new IllegalArgumentException(
          "match is a JSON object of paths, like {\"first/part\": \"second/part\"}.", e);
    }
  }

  /**
   * What is compared, and how.
   *
   * @param first id of a crossing
   * @param firstState {@code near} as it was read, {@code now} with its steps, or another state
   * @param match parts of the first and those of the second that they are, as a JSON object
   * @param shore id of the shore whose tolerances they are held to; none when left out
   * @param firstClip the clip of the first that is held against {@code secondClip}; all clips by
   *     their names when left out
   */
  public record Asked(
      String first,
      String firstState,
      String second,
      String secondState,
      Together together,
      String match,
      String shore,
      String firstClip,
      String secondClip) {
    public Asked {
      firstState = firstState == null ? "near" : firstState;
      secondState = secondState == null ? "near" : secondState;
      together = together == null ? Together.AS_THEY_ARE : together;
      match = match == null ? "" : match;
      shore = shore == null ? "" : shore;
      firstClip = firstClip == null ? "" : firstClip;
      secondClip = secondClip == null ? "" : secondClip;
    }

    private Side one() {
      return new Side(first, firstState);
    }

    private Side other() {
      return new Side(second, secondState);
    }
  }

  /** All facts. */
  @GetMapping
  public Compared compare(@ParameterObject Asked asked) throws IOException, FormatException {
    return pairs.compare(asked.one(), asked.other(), how(asked));
  }

  /**
   * A picture of the second in the colours of how far it lies from the first.
   *
   * @param part path of a part of the first, shown alone; all when left out
   */
  @GetMapping(path = "/apart.png", produces = MediaType.IMAGE_PNG_VALUE)
  public byte[] apart(
      @ParameterObject Asked asked,
      @RequestParam(defaultValue = "") String part,
      @RequestParam(defaultValue = "CORNER") ViewFrom from,
      @RequestParam(defaultValue = "480") int width,
      @RequestParam(defaultValue = "360") int height)
      throws IOException, FormatException {
    return pairs.apart(asked.one(), asked.other(), how(asked), part, from, width, height);
  }

  /** The same as a page with pictures of both. */
  @GetMapping(path = "/report.html", produces = "text/html;charset=UTF-8")
  public ResponseEntity<byte[]> report(@ParameterObject Asked asked)
      throws IOException, FormatException {
    String page = pairs.page(asked.one(), asked.other(), how(asked));
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

  /** Both in one page that needs no server, with the seam between them and what differs. */
  @GetMapping(path = "/page.html", produces = "text/html;charset=UTF-8")
  public void page(@ParameterObject Asked asked, HttpServletResponse response)
      throws IOException, FormatException {
    pairs.seam(
        asked.one(),
        asked.other(),
        how(asked),
        () -> Attachments.html(response, "compared.seam.html"));
  }
}
