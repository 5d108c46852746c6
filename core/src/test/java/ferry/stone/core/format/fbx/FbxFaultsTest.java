package ferry.stone.core.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Faults put into sound text files: each is told by its code, and the rest is read. */
class FbxFaultsTest {
  private static String text(Scene scene) {
    try {
      TestFiles out = new TestFiles();
      LandingOptions options = LandingOptions.of("fbx").with("form", "text");
      Landing.write(scene, options, "a", new TestFiles(), out, Progress.NONE);
      return new String(out.bytes("a.fbx"), StandardCharsets.UTF_8);
    } catch (Exception e) {
      throw new AssertionError(e);
    }
  }

  private static String plate() {
    return text(CapabilityScenes.of(Capability.SEAMS));
  }

  /** The first record of a kind with all that is in it. */
  private static String record(String text, String start) {
    int from = text.indexOf(start);
    assertThat(from).as(start).isGreaterThan(0);
    int depth = 0;
    for (int i = from; ; i++) {
      depth += text.charAt(i) == '{' ? 1 : text.charAt(i) == '}' ? -1 : 0;
      if (depth == 0 && text.charAt(i) == '}') {
        return text.substring(from, i + 1);
      }
    }
  }

  private static Arguments fault(String code, UnaryOperator<String> change) {
    return Arguments.of(code, change);
  }

  private static String first(String text, String regex, String by) {
    String changed = text.replaceFirst(regex, by);
    assertThat(changed.equals(text)).as(regex + " is in the file").isFalse();
    return changed;
  }

  static Stream<Arguments> faults() {
    return Stream.of(
        fault(
            "geometry-not-read",
            t -> first(t, "(Geometry: \\d+, \"Geometry::[^\"]*\", )\"Mesh\"", "$1\"Patch\"")),
        fault(
            "ids-twice",
            t -> t.replace("\tGeometry: ", "\t" + record(t, "Geometry: ") + "\n\tGeometry: ")),
        fault("model-without-parent", t -> first(t, "\\tC: \"OO\",(\\d+),0\\n", "")),
        fault(
            "polygon-not-closed",
            t ->
                first(
                    t,
                    "(PolygonVertexIndex: \\*\\d+ \\{\\s*a: [-0-9,]*,)-(\\d+)(\\s)",
                    "$1" + 1 + "$3")),
        fault(
            "layer-index-out-of-range",
            t -> {
              String layer = record(t, "LayerElementUV: ");
              String indexed =
                  first(layer, "(ReferenceInformationType: )\"Direct\"", "$1\"IndexToDirect\"");
              return t.replace(
                  layer, first(indexed, "\\}\\s*$", "\tUVIndex: *6 {\n a: 0,1,2,3,4,99\n}\n}"));
            }),
        fault(
            "layer-too-short",
            t -> {
              String layer = record(t, "LayerElementUV: ");
              return t.replace(
                  layer, first(layer, "UV: \\*\\d+ \\{\\s*a: [^}]*\\}", "UV: *2 {\n a: 0,0\n}"));
            }));
  }

  private static Scene read(String text, Findings findings) throws Exception {
    TestFiles files = new TestFiles().with("a.fbx", text);
    return FbxReader.read("a.fbx", new ReadContext(files, Map.of(), findings, Progress.NONE));
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("faults")
  void theFaultIsToldAndTheRestIsRead(String code, UnaryOperator<String> change) throws Exception {
    Findings findings = new Findings();
    Scene scene = read(change.apply(plate()), findings);
    List<Finding> told = findings.list().stream().filter(f -> f.code().equals(code)).toList();
    assertThat(told).as(findings.list().stream().map(Finding::code).toList().toString()).hasSize(1);
    assertThat(told.get(0).where()).isNotBlank();
    assertThat(told.get(0).message()).endsWith(".");
    assertThat(scene.nodes()).extracting(Node::name).contains("plate");
  }

  @Test
  void aSoundFileTellsNothing() throws Exception {
    Findings findings = new Findings();
    read(plate(), findings);
    assertThat(findings.list()).isEmpty();
  }

  @Test
  void theFirstOfTwoWithOneIdCounts() throws Exception {
    String sound = plate();
    String own = record(sound, "Geometry: ");
    String other = own.replace("Geometry::", "Geometry::other_");
    Scene first = read(sound.replace(own, own + "\n\t" + other), new Findings());
    assertThat(first.meshes().get(0).name())
        .isEqualTo(read(sound, new Findings()).meshes().get(0).name());
  }

  @Test
  void aModelThatHangsOnNothingIsARoot() throws Exception {
    Scene scene = read(first(plate(), "\\tC: \"OO\",(\\d+),0\\n", ""), new Findings());
    assertThat(scene.nodes().get(0).parent()).isEqualTo(-1);
    assertThat(scene.shownMeshes()).hasSize(1);
  }

  @Test
  void layersOfATakeAreBlendedAndSaidOnce() throws Exception {
    for (int seed = 0; seed < 12; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 4);
      String text = text(rig);
      if (!text.contains("AnimationLayer: ")) {
        continue;
      }
      String layer = record(text, "AnimationLayer: ");
      String id = layer.replaceFirst("(?s)AnimationLayer: (\\d+).*", "$1");
      String second = layer.replaceFirst(id, "987654321");
      String more =
          text.replace(layer, layer + "\n\t" + second)
              .replaceAll("(\\tC: \"OO\",)" + id + "(,\\d+\\n)", "$1" + id + "$2$1987654321$2");
      // Every curve node of the first layer hangs on the second as well.
      more = more.replaceAll("(\\tC: \"OO\",\\d+,)" + id + "\\n", "$1" + id + "\n$1987654321\n");
      Findings findings = new Findings();
      Scene blended = read(more, findings);
      assertThat(blended.clips()).hasSameSizeAs(read(text, new Findings()).clips());
      boolean moves = text.contains("\"Lcl ");
      assertThat(findings.list().stream().filter(f -> f.code().equals("layers-blended")).count())
          .as("seed " + seed)
          .isLessThanOrEqualTo(blended.clips().size());
      if (moves && findings.list().stream().anyMatch(f -> f.code().equals("layers-blended"))) {
        return;
      }
    }
    throw new AssertionError("no file had two layers that move one part");
  }
}
