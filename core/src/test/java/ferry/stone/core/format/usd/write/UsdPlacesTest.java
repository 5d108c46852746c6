package ferry.stone.core.format.usd.write;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.CopiedScene;
import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Places that a list has for one shape land as a point instancer and come back as that list. */
class UsdPlacesTest {
  private final TestFiles out = new TestFiles();
  private Proof proof;

  private Scene landed(Scene far, String format) throws Exception {
    TestFiles cargo = new TestFiles();
    LandingOptions options = LandingOptions.of(format);
    Landing landing = Landing.write(far, options, "a", cargo, out, Progress.NONE);
    proof = Proof.of(far, far, landing.landed(options, out), cargo, Progress.NONE);
    return CargoReader.read("a", ReadContext.of(out));
  }

  private static List<Matrix4d> world(Scene scene) {
    return scene.shownMeshes().stream().map(s -> new Matrix4d(s.world())).toList();
  }

  @Test
  void aListIsOneInstancerWithItsPrototypeBelow() throws Exception {
    Scene far = CapabilityScenes.of(Capability.LISTED_COPIES);
    Scene back = landed(far, "usda");
    String text = new String(out.bytes("a.usda"), StandardCharsets.UTF_8);
    assertThat(text)
        .contains("def PointInstancer \"row\"")
        .contains("int[] protoIndices = [0, 0]")
        .containsPattern("rel prototypes = </row/[^>]+>")
        .contains("quatf[] orientationsf")
        .contains("quath[] orientations");
    assertThat(back.nodes()).extracting(Node::name).containsExactly("row", "row_1", "row_2");
    assertThat(Copies.listed(back)).hasSize(1);
    assertThat(proof.rows())
        .filteredOn(r -> r.verdict() != LedgerRow.Verdict.KEPT)
        .as("others list one part with its prototype, which is told, and nothing else changes")
        .isNotEmpty()
        .allMatch(r -> r.about() == Capability.LISTED_COPIES)
        .allMatch(r -> r.verdict() == LedgerRow.Verdict.CHANGED);
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9})
  void randomListsStandWhereTheyStood(int seed) throws Exception {
    Scene far = CopiedScene.of(new Random(seed));
    Scene back = landed(far, "usdc");
    assertThat(Copies.listed(back)).hasSameSizeAs(Copies.listed(far));
    List<Matrix4d> before = world(far);
    List<Matrix4d> after = world(back);
    assertThat(after).hasSameSizeAs(before);
    for (int i = 0; i < before.size(); i++) {
      assertThat(after.get(i).equals(before.get(i), 1e-4)).as("part " + i).isTrue();
    }
    assertThat(proof.rows()).noneMatch(r -> r.verdict() == LedgerRow.Verdict.LOST);
  }

  private static final String SHORE =
      """
      #usda 1.0
      (
        upAxis = "Y"
        metersPerUnit = 1
        timeCodesPerSecond = 24
      )
      def PointInstancer "shore" {
        int[] protoIndices = [0, 1, 0, 2]
        point3f[] positions = [(0, 0, 0), (1, 0, 0), (2, 0, 0), (3, 0, 0)]
        %s
        float3[] scales = [(1, 1, 1), (2, 2, 2), (1, 1, 1), (0.5, 0.5, 0.5)]
        rel prototypes = [</shore/post>, </shore/stone>, </shore/reed>]
        def Xform "post" {
          double3 xformOp:translate = (0, 0.5, 0)
          uniform token[] xformOpOrder = ["xformOp:translate"]
          def Xform "arm" {
            def Cube "lamp" { double size = 0.25 }
          }
        }
        def Sphere "stone" { double radius = 0.1 }
        def Cone "reed" { double height = 1 }
      }
      """;

  private Scene shore(String more) throws Exception {
    TestFiles cargo = new TestFiles().with("a.usda", SHORE.formatted(more));
    return CargoReader.read("a", ReadContext.of(cargo));
  }

  @Test
  void branchesOfSeveralKindsAreOneInstancerAgain() throws Exception {
    Scene far = shore("");
    Scene back = landed(far, "usda");
    String text = new String(out.bytes("a.usda"), StandardCharsets.UTF_8);
    assertThat(text)
        .containsOnlyOnce("def PointInstancer \"shore\"")
        .contains("int[] protoIndices = [0, 1, 0, 2]")
        .contains("rel prototypes = [</shore/post>, </shore/stone>, </shore/reed>]")
        .containsOnlyOnce("\"lamp\"")
        .doesNotContain("instanceable");
    assertThat(back.paths()).isEqualTo(far.paths());
    for (int i = 0; i < back.nodes().size(); i++) {
      Matrix4d was = far.worldMatrices()[i];
      assertThat(back.worldMatrices()[i].equals(was, 1e-6)).as(back.paths().get(i)).isTrue();
    }
    assertThat(proof.rows()).noneMatch(r -> r.verdict() == LedgerRow.Verdict.LOST);
    assertThat(proof.rows())
        .filteredOn(r -> r.about() == Capability.LISTED_COPIES)
        .as("others show it as one part, which is told")
        .isNotEmpty();
  }

  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void placesThatMoveLandAsMovingPlaces(boolean oneShape) throws Exception {
    String positions =
        "point3f[] positions.timeSamples = {"
            + " 0: [(0, 0, 0), (1, 0, 0), (2, 0, 0), (3, 0, 0)],"
            + " 24: [(0, 4, 0), (1, 0, 0), (2, 0, 5), (3, 0, 0)] }";
    String kinds = oneShape ? "[1, 1, 1, 1]" : "[0, 1, 0, 2]";
    String stage = SHORE.formatted(positions).replace("[0, 1, 0, 2]", kinds);
    if (oneShape) {
      stage = stage.replaceAll("rel prototypes = .*", "rel prototypes = </shore/stone>");
      stage = stage.replace("[1, 1, 1, 1]", "[0, 0, 0, 0]");
    }
    TestFiles cargo = new TestFiles().with("a.usda", stage);
    Scene far = CargoReader.read("a", ReadContext.of(cargo));
    Scene back = landed(far, "usdc");
    assertThat(back.paths()).isEqualTo(far.paths());
    for (double second : new double[] {0, 0.25, 1}) {
      Pose was = Pose.at(far, far.clips().get(0), second);
      Pose is = Pose.at(back, back.clips().get(0), second);
      for (int i = 0; i < was.world().length; i++) {
        assertThat(is.world()[i].equals(was.world()[i], 1e-6)).as(far.paths().get(i)).isTrue();
      }
    }
    assertThat(back.copies()).isNotEmpty();
    assertThat(proof.rows()).noneMatch(r -> r.verdict() == LedgerRow.Verdict.LOST);
    TestFiles text = new TestFiles();
    Landing.write(far, LandingOptions.of("usda"), "a", cargo, text, Progress.NONE);
    assertThat(new String(text.bytes("a.usda"), StandardCharsets.UTF_8))
        .containsOnlyOnce("def PointInstancer")
        .contains("point3f[] positions.timeSamples")
        .contains("float3[] extent.timeSamples")
        .contains("24: [(0, 4, 0), (1, 0, 0), (2, 0, 5), (3, 0, 0)]");
  }

  @Test
  void anInstancerWithAPartThatWasRenamedLandsAsParts() throws Exception {
    Scene far = shore("");
    Node second = far.nodes().get(5);
    Scene renamed =
        far.toBuilder()
            .nodes(far.nodes().stream().map(n -> n == second ? n.withName("gull") : n).toList())
            .build();
    Scene back = landed(renamed, "usda");
    assertThat(back.paths()).isEqualTo(renamed.paths());
    assertThat(new String(out.bytes("a.usda"), StandardCharsets.UTF_8))
        .doesNotContain("PointInstancer");
    assertThat(proof.rows()).noneMatch(r -> r.verdict() == LedgerRow.Verdict.LOST);
  }
}
