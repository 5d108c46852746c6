package ferry.stone.core.view;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.RandomScene;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Distances of one state's surface from another's, as the heat map shows them. */
class DeviationTest {
  private static final Scene PLATE = CapabilityScenes.of(Capability.UVS);

  private static float[] of(Scene scene, Scene other, boolean sameSpot, int nodeId) {
    byte[] bytes = Deviation.between(scene, other, sameSpot).of(nodeId, Progress.NONE);
    float[] values = new float[bytes.length / 4];
    ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN).asFloatBuffer().get(values);
    return values;
  }

  private static Scene moved(Scene scene, double x, double y, double z) {
    Trs away = Trs.of(new Vector3d(x, y, z), new Quaterniond(), new Vector3d(1));
    return scene.toBuilder()
        .nodes(scene.nodes().stream().map(n -> n.withTransform(away)).toList())
        .build();
  }

  private static int id(Scene scene) {
    return scene.nodes().get(0).id();
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5})
  void aStateIsNowhereOffItself(int seed) {
    Scene scene = RandomScene.of(new Random(seed));
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      if (shown.mesh().faces().triangleCount() == 0) {
        continue;
      }
      for (float off : of(scene, scene, false, shown.node().id())) {
        assertThat((double) off).isCloseTo(0, within(1e-6 * (1 + scene.bounds().diagonal())));
      }
    }
  }

  @Test
  void aPlateLiftedOffItsPlaneIsOffByTheLift() {
    // Across its plane every vertex has the other plate straight below it.
    PolygonMesh mesh = PLATE.meshes().get(0);
    Vector3d across = normal(mesh);
    Scene lifted = moved(PLATE, 0.25 * across.x, 0.25 * across.y, 0.25 * across.z);
    for (float off : of(lifted, PLATE, false, id(PLATE))) {
      assertThat(off).isCloseTo(0.25f * unit(), within(1e-5f));
    }
    for (float off : of(PLATE, lifted, false, id(PLATE))) {
      assertThat(off).isCloseTo(0.25f * unit(), within(1e-5f));
    }
  }

  private static float unit() {
    return (float) PLATE.frame().metresPerUnit();
  }

  private static Vector3d normal(PolygonMesh mesh) {
    Vector3d[] p = new Vector3d[3];
    for (int i = 0; i < 3; i++) {
      int v = mesh.faces().vertex(i);
      p[i] = new Vector3d(mesh.points().x(v), mesh.points().y(v), mesh.points().z(v));
    }
    return p[1].sub(p[0]).cross(p[2].sub(p[0])).normalize();
  }

  @Test
  void onOneSpotAMovedStateIsNoOther() {
    Scene away = moved(PLATE, 40, 3, -7);
    for (float off : of(away, PLATE, true, id(PLATE))) {
      assertThat(off).isCloseTo(0, within(1e-4f));
    }
    float[] apart = of(away, PLATE, false, id(PLATE));
    assertThat(apart[0]).isGreaterThan(30 * unit());
  }

  @Test
  void distancesAreInMetresWhateverTheUnitsAndAxesAre() {
    Frame inches = Frame.Y_UP_METRE.withMetresPerUnit(0.0254).withUp(SignedAxis.PLUS_Z);
    Scene other = Rebase.intoData(PLATE, inches);
    for (float off : of(other, PLATE, false, id(PLATE))) {
      assertThat(off).isCloseTo(0, within(1e-5f));
    }
    Scene lie =
        PLATE.toBuilder()
            .frame(
                PLATE.frame().withMetresPerUnit(2 * PLATE.frame().metresPerUnit()),
                FrameSource.CHOSEN,
                FrameSource.CHOSEN)
            .build();
    float most = 0;
    for (float off : of(lie, PLATE, false, id(PLATE))) {
      most = Math.max(most, off);
    }
    assertThat(most).as("twice as large").isGreaterThan(0.1f * unit());
  }

  @Test
  void aPartThatIsGoneIsHeldAgainstEverything() {
    Node own = PLATE.nodes().get(0);
    Scene renamed =
        PLATE.toBuilder().nodes(List.of(own.withId(own.id() + 500))).nextId(own.id() + 600).build();
    for (float off : of(renamed, PLATE, false, own.id() + 500)) {
      assertThat(off).isCloseTo(0, within(1e-6f));
    }
    Scene empty = PLATE.toBuilder().nodes(List.of()).build();
    for (float off : of(PLATE, empty, false, own.id())) {
      assertThat(off).as("there is nothing to be near to").isEqualTo(Float.POSITIVE_INFINITY);
    }
  }

  @Test
  void aPartThatShowsNothingHasNone() {
    assertThat(of(PLATE, PLATE, false, 987_654)).isEmpty();
  }

  @Test
  void aVertexThatIsNowhereIsSaidToBeOffByNoNumber() {
    Scene broken = CapabilityScenes.of(Capability.NOT_NUMBERS);
    float[] off = of(broken, broken, false, id(broken));
    for (float value : off) {
      assertThat(value).isNotNaN();
    }
  }

  @Test
  void theSameMeshThroughAMatrixIsMeasuredInTheWorld() {
    PolygonMesh mesh = PLATE.meshes().get(0);
    Scene twice =
        PLATE.toBuilder()
            .meshes(List.of(mesh.withPoints(mesh.points().transform(new Matrix4d().scale(0.5)))))
            .nodes(
                PLATE.nodes().stream()
                    .map(
                        n ->
                            n.withTransform(
                                Trs.of(new Vector3d(), new Quaterniond(), new Vector3d(2))))
                    .toList())
            .build();
    for (float off : of(twice, PLATE, false, id(PLATE))) {
      assertThat(off).isCloseTo(0, within(1e-6f));
    }
  }
}
