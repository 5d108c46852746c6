package ferry.stone.server.shore;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.format.Formats;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.shore.Shore;
import ferry.stone.server.web.NotFoundException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Shores: list, make, copy, change, bring and take as JSON. */
@RestController
@RequestMapping("/api/shores")
public class ShoreController {
  private final ShoreService shores;
  private final ObjectMapper json;

  public ShoreController(ShoreService shores, ObjectMapper json) {
    this.shores = shores;
    this.json = json;
  }

  /**
   * @param builtIn whether it comes with the program and cannot be changed
   * @param frameLabel its frame in words
   */
  public record ShoreView(Shore shore, boolean builtIn, String frameLabel) {}

  private ShoreView view(Shore shore) {
    return new ShoreView(shore, shores.isBuiltIn(shore.id()), shore.frame().label());
  }

  @GetMapping
  public List<ShoreView> list() {
    return shores.all().stream().map(this::view).toList();
  }

  @GetMapping("/{id}")
  public ShoreView get(@PathVariable String id) {
    return view(shores.get(id));
  }

  /** A shore as a file to hand on. */
  @GetMapping(path = "/{id}/file", produces = MediaType.APPLICATION_JSON_VALUE)
  public ResponseEntity<Shore> file(@PathVariable String id) {
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(id + ".shore.json", StandardCharsets.UTF_8)
                .build()
                .toString())
        .body(shores.get(id));
  }

  /** A new shore: made, copied or brought from a file. */
  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  public ShoreView add(@RequestBody Shore shore) {
    return view(shores.add(shore));
  }

  @PutMapping("/{id}")
  public ShoreView change(@PathVariable String id, @RequestBody Shore shore) {
    return view(shores.change(id, shore));
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  public void delete(@PathVariable String id) {
    shores.delete(id);
  }

  /** What a shore's file looks like. */
  @GetMapping(path = "/schema", produces = MediaType.APPLICATION_JSON_VALUE)
  public String schema() throws IOException {
    ClassPathResource schema = new ClassPathResource("shore.schema.json");
    if (!schema.exists()) {
      throw new NotFoundException("The schema is not part of this build.");
    }
    try (InputStream in = schema.getInputStream()) {
      ObjectNode root = (ObjectNode) json.readTree(in);
      ArrayNode keys = ((ObjectNode) root.at("/properties/formats/items")).putArray("enum");
      Formats.written().forEach(f -> keys.add(f.key()));
      return root.toPrettyString();
    }
  }

  /** The landing in a format as the shore asks for it. */
  @GetMapping("/{id}/landing")
  public LandingOptions landing(@PathVariable String id, @RequestParam String format) {
    return LandingOptions.on(shores.get(id), format);
  }
}
