package ferry.stone.core.proof;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.SchemaCheck;
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

  @Test
  void proofsOfEveryKindOfLandingAreAsTheSchemaSays() throws Exception {
    JsonNode schema = schema();
    for (String format : List.of("glb", "fbx", "usdc", "obj", "stl", "abc")) {
      List<String> wrong = new ArrayList<>();
      SchemaCheck.check(proof(format), schema, schema, "proof", wrong);
      assertThat(wrong).as(format).isEmpty();
    }
  }

  @Test
  void theSchemaNamesEveryMemberThatThereIs() throws Exception {
    JsonNode schema = schema();
    JsonNode proof = proof("glb");
    assertThat(SchemaCheck.names(schema.path("properties"))).containsAll(SchemaCheck.names(proof));
    JsonNode row = schema.path("$defs").path("row").path("properties");
    assertThat(SchemaCheck.names(row)).isEqualTo(SchemaCheck.names(proof.path("rows").path(0)));
    Set<String> measure = new TreeSet<>();
    Arrays.stream(Measure.class.getRecordComponents()).forEach(c -> measure.add(c.getName()));
    assertThat(SchemaCheck.names(schema.path("$defs").path("measure").path("properties")))
        .isEqualTo(measure);
    assertThat(schema.path("properties").path("schema").path("const").asInt())
        .isEqualTo(Proof.SCHEMA);
  }

  @Test
  void aProofThatIsNoneIsSeen() throws Exception {
    JsonNode schema = schema();
    JsonNode bad = JSON.readTree("{\"schema\":2,\"file\":7,\"rows\":[{\"verdict\":\"MAYBE\"}]}");
    List<String> wrong = new ArrayList<>();
    SchemaCheck.check(bad, schema, schema, "proof", wrong);
    assertThat(wrong)
        .anyMatch(w -> w.contains("file is no"))
        .anyMatch(w -> w.contains("verdict is \"MAYBE\""))
        .anyMatch(w -> w.contains("has no kept"));
  }
}
