package ferry.stone.core.routine;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.exc.UnrecognizedPropertyException;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** Routines as JSON, and those that come with the application. */
public final class Routines {
  private static final List<String> NAMES =
      List.of("web-room", "sculpt-ready", "detail-levels", "parts-at-origin");

  private static final ObjectMapper JSON =
      JsonMapper.builder()
          .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .enable(JsonParser.Feature.STRICT_DUPLICATE_DETECTION)
          .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
          .build();

  private static final List<Routine> BUILT_IN = NAMES.stream().map(Routines::resource).toList();

  private Routines() {}

  /** The schema of their JSON. */
  public static String schema() {
    return text("/ferry/schema/routine.schema.json");
  }

  private static Routine resource(String name) {
    return read(text("/ferry/routines/" + name + ".json"));
  }

  private static String text(String resource) {
    try (InputStream in = Routines.class.getResourceAsStream(resource)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Starting routines, by purpose. */
  public static List<Routine> builtIn() {
    return BUILT_IN;
  }

  public static Optional<Routine> builtIn(String id) {
    return BUILT_IN.stream().filter(r -> r.id().equals(id)).findFirst();
  }

  /**
   * A routine of its JSON.
   *
   * @throws IllegalArgumentException in a sentence without its full stop: what does not fit, where
   */
  public static Routine read(String json) {
    try {
      JsonNode tree = JSON.readTree(json);
      if (!(tree instanceof ObjectNode object)) {
        throw new IllegalArgumentException("a routine is a JSON object");
      }
      if (object.path("shore").isTextual()) {
        String id = object.get("shore").asText();
        Shore shore =
            Shores.builtIn(id)
                .orElseThrow(
                    () ->
                        new IllegalArgumentException(
                            "\"shore\" is \""
                                + id
                                + "\": it is a shore as an object, or one of "
                                + Shores.builtIn().stream()
                                    .map(Shore::id)
                                    .collect(Collectors.joining(", "))));
        object.set("shore", JSON.valueToTree(shore));
      }
      return JSON.treeToValue(object, Routine.class);
    } catch (JsonProcessingException e) {
      throw new IllegalArgumentException(problem(e), e);
    }
  }

  private static String problem(JsonProcessingException e) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof IllegalArgumentException && cause.getMessage() != null) {
        return cause.getMessage().replaceAll("\\.$", "");
      }
    }
    if (e instanceof UnrecognizedPropertyException unknown) {
      return "there is no member \"" + unknown.getPropertyName() + "\"";
    }
    String where =
        e.getLocation() == null || e.getLocation().getLineNr() < 1
            ? ""
            : "line " + e.getLocation().getLineNr() + ": ";
    return where + e.getOriginalMessage().lines().findFirst().orElse("it is no JSON");
  }

  /** The JSON of a routine, always the same for the same routine; a built-in shore by its id. */
  public static String write(Routine routine) {
    ObjectNode tree = JSON.valueToTree(routine);
    Shores.builtIn(routine.shore().id())
        .filter(s -> s.equals(routine.shore()))
        .ifPresent(s -> tree.put("shore", s.id()));
    try {
      return JSON.writerWithDefaultPrettyPrinter().writeValueAsString(tree) + "\n";
    } catch (JsonProcessingException e) {
      throw new IllegalStateException(e);
    }
  }

  /** What a routine does as a hash: two with one hash do the same, whatever they are called. */
  public static String hash(Routine routine) {
    Routine bare =
        new Routine(
            routine.schema(),
            "x",
            "x",
            "",
            1,
            routine.reading(),
            routine.unit(),
            routine.up(),
            routine.shore(),
            routine.accept(),
            routine.steps(),
            routine.landings());
    try {
      byte[] text = write(bare).getBytes(StandardCharsets.UTF_8);
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(text));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
