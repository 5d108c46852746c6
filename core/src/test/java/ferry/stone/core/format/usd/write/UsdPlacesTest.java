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
}
