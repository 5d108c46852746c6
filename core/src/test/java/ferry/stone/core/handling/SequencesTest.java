package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What steps do to meshes that change over time. */
class SequencesTest {
  private final Scene near = CapabilityScenes.of(Capability.CHANGING_MESHES);

  private Handling.Stage run(String kind, Map<String, Object> params) {
    return Handling.run(near, List.of(new Step("s", kind, params, true, List.of())), Progress.NONE)
        .get(0);
  }

  @ParameterizedTest
  @CsvSource({"triangulate", "flip", "unify"})
  void aStepOnTheSurfaceStillsTheMeshAndSaysSo(String kind) {
    Handling.Stage stage = run(kind, Map.of());
    assertThat(stage.failure()).isNull();
    boolean changed = stage.scene().meshes().get(0).faces() != near.meshes().get(0).faces();
    assertThat(stage.scene().sequences()).hasSize(changed ? 0 : 1);
    assertThat(stage.findings().stream().anyMatch(f -> f.code().equals("changing-mesh-stilled")))
        .isEqualTo(changed);
  }

  @Test
  void aStepThatPlacesKeepsTheMotion() throws Exception {
    Handling.Stage stage = run("centre", Map.of());
    assertThat(stage.failure()).isNull();
    assertThat(stage.scene().sequences()).hasSize(1);
    assertThat(stage.scene().sequences().get(0).mesh(2).points().y(0))
        .isEqualTo(near.sequences().get(0).mesh(2).points().y(0));
  }

  @Test
  void bakedPlacesGoIntoEverySample() throws Exception {
    Scene moved =
        near.toBuilder()
            .nodes(
                near.nodes().stream()
                    .map(
                        n ->
                            n.withTransform(
                                LocalTransform.Trs.of(
                                    new Vector3d(0, 0, 7), new Quaterniond(), new Vector3d(2))))
                    .toList())
            .build();
    Step bake = new Step("s", "reset", Map.of("what", "all"), true, List.of());
    Handling.Stage stage = Handling.run(moved, List.of(bake), Progress.NONE).get(0);
    assertThat(stage.failure()).isNull();
    PolygonMesh before = near.sequences().get(0).mesh(2);
    PolygonMesh after = stage.scene().sequences().get(0).mesh(2);
    assertThat(after.points().y(0)).isEqualTo(2 * before.points().y(0));
    assertThat(after.points().z(0)).isEqualTo(2 * before.points().z(0) + 7);
  }

  @Test
  void aMeshThatGoesTakesItsMotionAlong() {
    int part = near.nodes().get(0).id();
    Step remove = new Step("s", "remove", Map.of("what", "parts"), true, List.of(part));
    Handling.Stage stage = Handling.run(near, List.of(remove), Progress.NONE).get(0);
    assertThat(stage.failure()).isNull();
    assertThat(stage.scene().sequences()).isEmpty();
    assertThat(stage.findings()).noneMatch(f -> f.code().equals("changing-mesh-stilled"));
  }

  @Test
  void whatOnlyDressesTheMeshLeavesItMoving() {
    Handling.Stage sides = run("materialFlags", Map.of());
    assertThat(sides.failure()).isNull();
    assertThat(sides.scene().sequences()).hasSize(1);
    Handling.Stage named = run("rename", Map.of());
    assertThat(named.failure()).isNull();
    assertThat(named.scene().sequences()).hasSize(1);
  }
}
