package ferry.stone.core.proof;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** What a proof says as JSON, held against {@code docs/schema/proof.schema.json}. */
class ProofSchemaTest {
  private static final ObjectMapper JSON = new ObjectMapper();

  private static JsonNode schema() throws Exception {
    return JSON.readTree(Path.of("..", "docs", "schema", "proof.schema.json").toFile());
  }

  private static JsonNode proof(String format) throws Exception {
    Scene scene = FaultScene.with(FaultScene.Fault.NONE);
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of(format);
    TestFiles cargo = new TestFiles();
    Landing landing = Landing.write(scene, options, "buoy", cargo, out, Progress.NONE);
    return JSON.valueToTree(
        Proof.of(scene, scene, landing.landed(options, out), cargo, Progress.NONE));
  }

  private static Set<String> names(JsonNode object) {
    Set<String> names = new TreeSet<>();
    object.fieldNames().forEachRemaining(names::add);
    return names;
  }

  /** What of an object is not as its schema says; the words of schemas that are used here. */
  private static void check(
      JsonNode value, JsonNode wanted, JsonNode whole, String where, List<String> wrong) {
    if (wanted.has("$ref")) {
      String name = wanted.path("$ref").asText().substring("#/$defs/".length());
      check(value, whole.path("$defs").path(name), whole, where, wrong);
      return;
    }
    if (wanted.has("anyOf")) {
      boolean any = false;
      for (JsonNode each : wanted.path("anyOf")) {
        List<String> own = new ArrayList<>();
        check(value, each, whole, where, own);
        any |= own.isEmpty();
      }
      if (!any) {
        wrong.add(where + " is none of what it may be: " + value);
      }
      return;
    }
    if (wanted.has("const") && !wanted.path("const").equals(value)) {
      wrong.add(where + " is " + value);
    }
    if (wanted.has("enum")) {
      boolean one = false;
      for (JsonNode each : wanted.path("enum")) {
        one |= each.equals(value);
      }
      if (!one) {
        wrong.add(where + " is " + value);
      }
    }
    if (wanted.has("type") && !isType(value, wanted.path("type"))) {
      wrong.add(where + " is no " + wanted.path("type") + ": " + value);
    }
    if (wanted.has("minimum") && value.asDouble() < wanted.path("minimum").asDouble()) {
      wrong.add(where + " is less than it may be: " + value);
    }
    wanted
        .path("required")
        .forEach(
            name -> {
              if (!value.has(name.asText())) {
                wrong.add(where + " has no " + name.asText());
              }
            });
    for (String name : names(wanted.path("properties"))) {
      if (value.has(name)) {
        check(value.path(name), wanted.path("properties").path(name), whole, name, wrong);
      }
    }
    for (int i = 0; wanted.has("items") && i < value.size(); i++) {
      check(value.path(i), wanted.path("items"), whole, where + " " + i, wrong);
    }
  }

  private static boolean isType(JsonNode value, JsonNode type) {
    if (type.isArray()) {
      boolean any = false;
      for (JsonNode each : type) {
        any |= isType(value, each);
      }
      return any;
    }
    return switch (type.asText()) {
      case "object" -> value.isObject();
      case "array" -> value.isArray();
      case "string" -> value.isTextual();
      case "integer" -> value.isIntegralNumber();
      case "number" -> value.isNumber();
      case "null" -> value.isNull();
      default -> false;
    };
  }

  @Test
  void proofsOfEveryKindOfLandingAreAsTheSchemaSays() throws Exception {
    JsonNode schema = schema();
    for (String format : List.of("glb", "fbx", "usdc", "obj", "stl", "abc")) {
      List<String> wrong = new ArrayList<>();
      check(proof(format), schema, schema, "proof", wrong);
      assertThat(wrong).as(format).isEmpty();
    }
  }

  @Test
  void theSchemaNamesEveryMemberThatThereIs() throws Exception {
    JsonNode schema = schema();
    JsonNode proof = proof("glb");
    assertThat(names(schema.path("properties"))).containsAll(names(proof));
    JsonNode row = schema.path("$defs").path("row").path("properties");
    assertThat(names(row)).isEqualTo(names(proof.path("rows").path(0)));
    Set<String> measure = new TreeSet<>();
    Arrays.stream(Measure.class.getRecordComponents()).forEach(c -> measure.add(c.getName()));
    assertThat(names(schema.path("$defs").path("measure").path("properties"))).isEqualTo(measure);
    assertThat(schema.path("properties").path("schema").path("const").asInt())
        .isEqualTo(Proof.SCHEMA);
  }

  @Test
  void aProofThatIsNoneIsSeen() throws Exception {
    JsonNode schema = schema();
    JsonNode bad = JSON.readTree("{\"schema\":2,\"file\":7,\"rows\":[{\"verdict\":\"MAYBE\"}]}");
    List<String> wrong = new ArrayList<>();
    check(bad, schema, schema, "proof", wrong);
    assertThat(wrong)
        .anyMatch(w -> w.contains("file is no"))
        .anyMatch(w -> w.contains("verdict is \"MAYBE\""))
        .anyMatch(w -> w.contains("has no kept"));
  }
}
