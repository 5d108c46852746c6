package ferry.stone.core.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Faults put into the JSON of a sound rig: each is told by its code, and the rest is read. */
class GltfFaultsTest {
  private static final ObjectMapper JSON = new ObjectMapper();

  /** A landed rig that has a skin, a morph target and a clip. */
  private static ObjectNode rig(TestFiles out) throws Exception {
    for (int seed = 0; ; seed++) {
      Scene scene = RandomRig.of(new Random(seed), 4);
      Landing.write(scene, LandingOptions.of("gltf"), "a", new TestFiles(), out, Progress.NONE);
      ObjectNode root = (ObjectNode) JSON.readTree(out.bytes("a.gltf"));
      if (root.path("skins").size() > 0
          && root.path("animations").size() > 0
          && root.findPath("targets").size() > 0
          && skinned(root) != null) {
        return root;
      }
    }
  }

  private static ObjectNode skinned(JsonNode root) {
    for (JsonNode node : root.path("nodes")) {
      if (node.has("skin")) {
        return (ObjectNode) node;
      }
    }
    return null;
  }

  private static JsonNode meshOf(JsonNode root, JsonNode node) {
    return root.path("meshes").path(node.path("mesh").asInt());
  }

  private static Arguments fault(String code, Consumer<ObjectNode> change) {
    return Arguments.of(code, change);
  }

  static Stream<Arguments> faults() {
    return Stream.of(
        fault(
            "skin-without-weights",
            root -> {
              for (JsonNode primitive : meshOf(root, skinned(root)).path("primitives")) {
                ObjectNode attributes = (ObjectNode) primitive.path("attributes");
                attributes.remove(List.of("JOINTS_0", "WEIGHTS_0", "JOINTS_1", "WEIGHTS_1"));
              }
            }),
        fault(
            "joint-outside-scene",
            root -> {
              int joint = root.at("/skins/0/joints/0").asInt();
              ArrayNode tops = (ArrayNode) root.at("/scenes/0/nodes");
              int top = joint;
              for (boolean found = true; found; ) {
                found = false;
                for (int n = 0; n < root.path("nodes").size(); n++) {
                  for (JsonNode child : root.path("nodes").get(n).path("children")) {
                    if (child.asInt() == top) {
                      top = n;
                      found = true;
                    }
                  }
                }
              }
              for (int i = tops.size() - 1; i >= 0; i--) {
                if (tops.get(i).asInt() == top) {
                  tops.remove(i);
                }
              }
            }),
        fault(
            "clip-without-motion",
            root -> ((ObjectNode) root.at("/animations/0")).putArray("channels")),
        fault(
            "morph-of-other-values",
            root -> {
              ObjectNode target = (ObjectNode) root.findPath("targets").get(0);
              target.put("TEXCOORD_0", target.path("POSITION").asInt());
            }),
        fault(
            "layer-not-read",
            root -> {
              JsonNode primitive = root.at("/meshes/0/primitives/0");
              int position = primitive.at("/attributes/POSITION").asInt();
              int count = root.at("/accessors/" + position + "/count").asInt();
              ArrayNode accessors = (ArrayNode) root.path("accessors");
              ((ObjectNode) primitive.path("attributes")).put("_FRAME", accessors.size());
              accessors
                  .addObject()
                  .put("componentType", 5121)
                  .put("type", "MAT4")
                  .put("count", count);
            }));
  }

  private static Scene read(TestFiles files, JsonNode root, Findings findings) throws Exception {
    files.with("a.gltf", JSON.writeValueAsBytes(root));
    return GltfReader.read("a.gltf", new ReadContext(files, Map.of(), findings, Progress.NONE));
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("faults")
  void theFaultIsToldWithItsPlaceAndTheRestIsRead(String code, Consumer<ObjectNode> change)
      throws Exception {
    TestFiles files = new TestFiles();
    ObjectNode root = rig(files);
    int nodes = root.path("nodes").size();
    change.accept(root);
    Findings findings = new Findings();
    Scene scene = read(files, root, findings);
    List<Finding> told = findings.list().stream().filter(f -> f.code().equals(code)).toList();
    assertThat(told)
        .as(findings.list().stream().map(Finding::code).toList().toString())
        .isNotEmpty();
    assertThat(told.get(0).where()).as("a path into the JSON").contains("/");
    assertThat(told.get(0).message()).endsWith(".");
    assertThat(scene.nodes().size()).isGreaterThanOrEqualTo(nodes / 2);
  }

  @Test
  void aSoundRigTellsNothing() throws Exception {
    TestFiles files = new TestFiles();
    Findings findings = new Findings();
    read(files, rig(files), findings);
    assertThat(findings.list()).isEmpty();
  }

  @Test
  void aSkinWithoutWeightsMovesNothing() throws Exception {
    TestFiles files = new TestFiles();
    ObjectNode root = rig(files);
    String name = skinned(root).path("name").asText();
    @SuppressWarnings("unchecked")
    Consumer<ObjectNode> strip = (Consumer<ObjectNode>) faults().findFirst().get().get()[1];
    strip.accept(root);
    Scene scene = read(files, root, new Findings());
    assertThat(scene.nodes())
        .filteredOn(n -> n.name().equals(name))
        .allMatch(n -> n.content() instanceof Node.Content.MeshContent c && c.skinId() < 0);
  }
}
