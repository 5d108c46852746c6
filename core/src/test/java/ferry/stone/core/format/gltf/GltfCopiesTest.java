package ferry.stone.core.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.CopiedScene;
import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.assertj.core.api.Assertions;
import org.assertj.core.data.Percentage;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Copies that a file lists as places (EXT_mesh_gpu_instancing) land as such a list again. */
class GltfCopiesTest {
  private static final String INSTANCING = "EXT_mesh_gpu_instancing";

  private final TestFiles out = new TestFiles();
  private Proof proof;

  private JsonNode land(Scene far, LandingOptions options) throws Exception {
    TestFiles cargo = new TestFiles();
    Landing landing = Landing.write(far, options, "a", cargo, out, Progress.NONE);
    proof = Proof.of(far, far, landing.landed(options, out), cargo, Progress.NONE);
    return new ObjectMapper().readTree(out.bytes("a.gltf"));
  }

  private static LandingOptions separate() {
    return LandingOptions.of("gltf");
  }

  private Scene back() throws Exception {
    return CargoReader.read("a", ReadContext.of(out));
  }

  private static long lists(JsonNode json) {
    long lists = 0;
    for (JsonNode node : json.path("nodes")) {
      lists += node.path("extensions").has(INSTANCING) ? 1 : 0;
    }
    return lists;
  }

  private static List<Matrix4d> world(Scene scene) {
    return scene.shownMeshes().stream().map(s -> new Matrix4d(s.world())).toList();
  }

  private List<LedgerRow> lost() {
    return proof.rows().stream().filter(r -> r.verdict() == LedgerRow.Verdict.LOST).toList();
  }

  @Test
  void aListIsWrittenAsOneNodeAndReadAsItsParts() throws Exception {
    Scene far = CapabilityScenes.of(Capability.LISTED_COPIES);
    JsonNode json = land(far, separate());
    assertThat(json.path("nodes")).hasSize(1);
    assertThat(json.at("/nodes/0/name").asText()).isEqualTo("row");
    assertThat(json.path("extensionsUsed").toString()).contains(INSTANCING);
    assertThat(json.path("extensionsRequired").toString()).contains(INSTANCING);
    Scene back = back();
    assertThat(back.nodes()).extracting(Node::name).containsExactly("row", "row_1", "row_2");
    assertThat(Copies.listed(back)).hasSize(1);
    assertThat(proof.rows())
        .filteredOn(r -> r.verdict() != LedgerRow.Verdict.KEPT)
        .as("other programs show the copies as one part, which is told, and nothing else changes")
        .isNotEmpty()
        .allMatch(r -> r.about() == Capability.LISTED_COPIES)
        .allMatch(r -> r.verdict() == LedgerRow.Verdict.CHANGED);
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9})
  void randomListsStandWhereTheyStood(int seed) throws Exception {
    Scene far = CopiedScene.of(new Random(seed));
    JsonNode json = land(far, separate());
    assertThat(lists(json)).isEqualTo(Copies.listed(far).size());
    Scene back = back();
    double unit = far.frame().metresPerUnit();
    List<Matrix4d> before = world(far);
    List<Matrix4d> after = world(back);
    assertThat(after).hasSameSizeAs(before);
    assertThat(back.bounds().diagonal())
        .isCloseTo(far.bounds().diagonal() * unit, Percentage.withPercentage(1));
    assertThat(lost()).noneMatch(r -> r.fact().contains("Nodes") || r.fact().contains("Names"));
    // Landed once more, nothing changes any more.
    TestFiles again = new TestFiles();
    Landing.write(back, separate(), "a", new TestFiles(), again, Progress.NONE);
    JsonNode second = new ObjectMapper().readTree(again.bytes("a.gltf"));
    assertThat(lists(second)).isEqualTo(lists(json));
    assertThat(second.path("nodes")).hasSameSizeAs(json.path("nodes"));
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void packingChoicesGoTogetherWithLists(boolean gather) throws Exception {
    Scene far = CopiedScene.of(new Random(3));
    LandingOptions options =
        separate().with("quantize", true).with("compress", true).with("gatherCopies", gather);
    land(far, options);
    assertThat(lost()).isEmpty();
    assertThat(back().shownMeshes()).hasSameSizeAs(far.shownMeshes());
  }

  private static Scene after(Scene near, Step step) {
    var stages = Handling.run(near, List.of(step), Progress.NONE);
    assertThat(stages.get(0).failure()).isNull();
    return Handling.result(near, stages);
  }

  private static Step step(String kind, Map<String, Object> params, Integer... nodeIds) {
    return new Step("s", kind, params, true, List.of(nodeIds));
  }

  @Test
  void whatChangesTheMeshOfAllLeavesThemAList() throws Exception {
    Scene near = CapabilityScenes.of(Capability.LISTED_COPIES);
    Scene far = after(near, step("triangulate", Map.of()));
    assertThat(lists(land(far, separate()))).isEqualTo(1);
  }

  @Test
  void aCopyThatIsHungElsewhereMakesThemPartsOfTheirOwn() throws Exception {
    Scene near = CapabilityScenes.of(Capability.LISTED_COPIES);
    Scene far = after(near, step("remove", Map.of("what", "parts"), 9));
    assertThat(lists(land(far, separate()))).isZero();
    assertThat(back().nodes()).extracting(Node::name).containsExactly("row", "row_2");
    assertThat(lost()).isEmpty();
  }

  @Test
  void aDamagedListIsRefusedInASentence() throws Exception {
    land(CapabilityScenes.of(Capability.LISTED_COPIES), separate());
    String text = new String(out.bytes("a.gltf"), StandardCharsets.UTF_8);
    JsonNode root = new ObjectMapper().readTree(text);
    JsonNode attributes = root.at("/nodes/0/extensions/" + INSTANCING + "/attributes");
    for (JsonNode accessor : attributes) {
      var broken = (ObjectNode) root.at("/accessors/" + accessor.asInt());
      broken.put("count", 1);
      break;
    }
    out.with("a.gltf", root.toString());
    assertThat(Assertions.catchThrowable(this::back))
        .hasMessageContaining("a.gltf")
        .hasMessageContaining("not of one length");
  }
}
