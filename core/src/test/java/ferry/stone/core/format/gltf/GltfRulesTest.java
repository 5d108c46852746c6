package ferry.stone.core.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.gltf.read.GltfRules;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.FaultScene;
import ferry.stone.core.proof.FaultScene.Fault;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Rules of glTF 2.0 (Khronos Group, "glTF 2.0 Specification", 2021; sections beside each), broken
 * one by one in a file that keeps them all.
 */
class GltfRulesTest {
  private static final ObjectMapper JSON = new ObjectMapper();

  /** A landed file that can be changed. */
  private static final class Work {
    private final Scene scene = FaultScene.with(Fault.NONE);
    private final TestFiles files = new TestFiles();
    private final LandingOptions options =
        LandingOptions.of("gltf").with("embedTextures", true).with("embedGeometry", false);
    private final Landing landing;
    private final ObjectNode root;
    private final String bin;
    private final ByteBuffer bytes;

    Work() throws Exception {
      landing = Landing.write(scene, options, "a", new TestFiles(), files, Progress.NONE);
      root = (ObjectNode) JSON.readTree(files.bytes(landing.mainFile()));
      bin = files.paths().stream().filter(p -> p.endsWith(".bin")).findFirst().orElseThrow();
      bytes = ByteBuffer.wrap(files.bytes(bin).clone()).order(ByteOrder.LITTLE_ENDIAN);
    }

    /** The first attribute of a name, as the number of its accessor. */
    int attribute(String name) {
      for (JsonNode mesh : root.path("meshes")) {
        for (JsonNode primitive : mesh.path("primitives")) {
          if (primitive.path("attributes").has(name)) {
            return primitive.path("attributes").path(name).asInt();
          }
        }
      }
      throw new AssertionError("no " + name);
    }

    ObjectNode accessor(int index) {
      return (ObjectNode) root.path("accessors").get(index);
    }

    /** Where the numbers of an accessor begin. */
    int start(int index) {
      JsonNode view = root.path("bufferViews").get(accessor(index).path("bufferView").asInt());
      return view.path("byteOffset").asInt(0) + accessor(index).path("byteOffset").asInt(0);
    }

    ObjectNode sampler() {
      return (ObjectNode) root.at("/animations/0/samplers/0");
    }

    List<Finding> told() throws Exception {
      files.with(landing.mainFile(), JSON.writeValueAsBytes(root));
      files.with(bin, bytes.array());
      Findings findings = new Findings();
      GltfRules.check(landing.mainFile(), files, findings);
      return findings.list();
    }
  }

  private interface Breaking {
    void in(Work work) throws Exception;
  }

  private static Arguments broken(String words, Breaking breaking) {
    return Arguments.of(words, breaking);
  }

  static Stream<Arguments> rules() {
    return Stream.of(
        broken(
            "do not say their least and largest values (3.7.2.1)",
            w -> w.accessor(w.attribute("POSITION")).remove("max")),
        broken(
            "say other least or largest values than they have (3.6.2.5)",
            w ->
                ((ArrayNode) w.accessor(w.attribute("POSITION")).path("min"))
                    .set(1, JSON.getNodeFactory().numberNode(-77))),
        broken(
            "A direction has not the length 1 (3.7.2.1)",
            w ->
                ((ObjectNode) w.root.at("/meshes/0/primitives/0/attributes"))
                    .put(
                        "NORMAL", w.root.at("/meshes/0/primitives/0/attributes/POSITION").asInt())),
        broken(
            "weights of a vertex are not 1 together (3.7.3.3)",
            w -> w.bytes.putFloat(w.start(w.attribute("WEIGHTS_0")), 0.25f)),
        broken(
            "names a joint that its skin does not have (3.7.3.3)",
            w -> w.bytes.put(w.start(w.attribute("JOINTS_0")), (byte) 99)),
        broken(
            "The last row of an inverse bind matrix is not",
            w ->
                w.bytes.putFloat(
                    w.start(w.root.at("/skins/0/inverseBindMatrices").asInt()) + 12, 1)),
        broken(
            "A rotation of a key has not the length 1 (3.11)",
            w -> w.bytes.putFloat(w.start(w.sampler().path("output").asInt()), 2)),
        broken(
            "times of keys do not rise from 0 or more (3.11)",
            w -> w.bytes.putFloat(w.start(w.sampler().path("input").asInt()) + 4, -1)),
        broken(
            "A rotation has not the length 1 (3.5.3)",
            w ->
                ((ObjectNode) w.root.path("nodes").get(0))
                    .putArray("rotation")
                    .add(0)
                    .add(0)
                    .add(0)
                    .add(2)),
        broken(
            "A node has a matrix and other transforms beside it (3.5.3)",
            w -> {
              ObjectNode node = (ObjectNode) w.root.path("nodes").get(0);
              node.putArray("translation").add(0).add(0).add(0);
              ArrayNode matrix = node.putArray("matrix");
              for (int i = 0; i < 16; i++) {
                matrix.add(i % 5 == 0 ? 1 : 0);
              }
            }),
        broken(
            "not listed as used (3.12)",
            w ->
                ((ObjectNode) w.root.path("nodes").get(0))
                    .putObject("extensions")
                    .putObject("YARD_rope")),
        broken(
            "not begin at a multiple of their size (3.6.2.4)",
            w -> {
              ObjectNode accessor = w.accessor(w.attribute("POSITION"));
              accessor.put("byteOffset", 2).put("count", accessor.path("count").asInt() - 1);
            }));
  }

  @Test
  void whatWeWriteKeepsThemAll() throws Exception {
    assertThat(new Work().told()).isEmpty();
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("rules")
  void eachIsToldWithItsPlace(String words, Breaking breaking) throws Exception {
    Work work = new Work();
    breaking.in(work);
    assertThat(work.told())
        .anySatisfy(
            finding -> {
              assertThat(finding.message()).contains(words);
              assertThat(finding.where()).startsWith(work.landing.mainFile() + " /");
            });
  }

  /** Other readers may take such a file otherwise: its proof is not all kept. */
  @Test
  void theProofTellsOfIt() throws Exception {
    Work work = new Work();
    work.accessor(work.attribute("POSITION")).remove("max");
    assertThat(work.told()).isNotEmpty();
    Proof proof =
        Proof.of(
            work.scene,
            work.scene,
            work.landing.landed(work.options, work.files),
            new TestFiles(),
            Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(r -> r.group().startsWith("Where the file is not as its standard says"))
        .singleElement()
        .extracting(LedgerRow::verdict)
        .isEqualTo(LedgerRow.Verdict.CHANGED);
  }
}
