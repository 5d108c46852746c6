package ferry.stone.core.landing;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.LandedContents.What;
import ferry.stone.core.proof.FaultScene;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What is chosen lands and nothing else, and the proof compares with that. */
class LandedContentsTest {
  private static final Scene BUOY = FaultScene.with(FaultScene.Fault.NONE);

  private record Result(Scene landed, Proof proof) {}

  private static Result landed(String format, LandedContents contents) throws Exception {
    LandingOptions options = LandingOptions.of(format).withContents(contents);
    TestFiles out = new TestFiles();
    TestFiles cargo = new TestFiles();
    Landings landings = Landings.write(BUOY, options, "buoy", cargo, out, Progress.NONE);
    Proof proof = landings.proof(BUOY, BUOY, options, out, cargo, Progress.NONE);
    return new Result(
        CargoReader.read("buoy", List.of(landings.mainFile()), ReadContext.of(out)), proof);
  }

  private static List<String> lost(Proof proof) {
    return proof.rows().stream()
        .filter(r -> r.verdict() == ferry.stone.core.proof.LedgerRow.Verdict.LOST)
        .map(r -> r.group() + ", " + r.fact() + ": " + r.note())
        .toList();
  }

  @ParameterizedTest
  @EnumSource(What.class)
  void whatStaysBehindIsNotThereAndNotLost(What what) throws Exception {
    for (String format : List.of("glb", "fbx", "usda")) {
      Result result = landed(format, new LandedContents("", Set.of(what)));
      Scene there = result.landed();
      assertThat(lost(result.proof())).as(format).isEmpty();
      switch (what) {
        case SHAPES -> {
          assertThat(there.meshes()).isEmpty();
          assertThat(there.clips()).isNotEmpty();
        }
        case MATERIALS ->
            assertThat(there.meshes())
                .allMatch(m -> m.usedMaterials().allMatch(id -> plain(there, id)));
        case CLIPS -> assertThat(there.clips()).isEmpty();
        case CAMERAS -> assertThat(there.cameras()).isEmpty();
        case LIGHTS -> assertThat(there.lights()).isEmpty();
        default -> assertThat(there.nodes()).allMatch(n -> n.properties().isEmpty());
      }
    }
  }

  /** Some formats dress bare faces. */
  private static boolean plain(Scene scene, int id) {
    return scene.material(id).map(Material::channels).orElseThrow().values().stream()
        .allMatch(v -> v.texture() == null);
  }

  @ParameterizedTest
  @ValueSource(strings = {"glb", "fbx", "usda", "obj"})
  void onlyChosenPartsLandWithTheJointsThatMoveThem(String format) throws Exception {
    Result result = landed(format, new LandedContents("flag", Set.of()));
    assertThat(lost(result.proof()).stream().filter(l -> !l.startsWith("What the format")))
        .isEmpty();
    List<String> shown = result.landed().shownMeshes().stream().map(s -> s.node().name()).toList();
    assertThat(shown).hasSize(1);
    assertThat(shown.get(0)).contains("flag");
    if (!format.equals("obj")) {
      assertThat(result.landed().skins()).hasSize(1);
    }
  }

  @Test
  void everythingIsTheVerySceneAndNothingIsAnEmptyLanding() {
    assertThat(LandedContents.ALL.of(BUOY)).isSameAs(BUOY);
    Scene none = new LandedContents("", EnumSet.allOf(What.class)).of(BUOY);
    assertThat(none.meshes()).isEmpty();
    assertThat(none.materials()).isEmpty();
    assertThat(none.clips()).isEmpty();
    assertThat(none.nodes()).extracting(Node::name).contains("flag");
  }
}
