package ferry.stone.core.geometry.frame;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.PoseDifference;
import ferry.stone.core.RandomRig;
import ferry.stone.core.RandomScene;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class RebaseTest {
  private static final double TOLERANCE = 2e-6;

  /** All 24 axis frames in both hands, in five units. */
  static Stream<Frame> frames() {
    return Stream.of(SignedAxis.values())
        .flatMap(
            up ->
                Stream.of(SignedAxis.values())
                    .filter(front -> front.index() != up.index())
                    .flatMap(
                        front ->
                            Stream.of(Handedness.values())
                                .flatMap(
                                    hand ->
                                        Stream.of(1.0, 0.01, 0.001, 0.0254, 0.3048)
                                            .map(unit -> new Frame(unit, up, front, hand)))));
  }

  @ParameterizedTest
  @MethodSource("frames")
  void rigsMorphsClipsCamerasAndLightsStandWhereTheyStood(Frame frame) {
    Scene near =
        RandomRig.of(new Random(frame.hashCode() % 40), 5).toBuilder()
            .frame(frame, FrameSource.CHOSEN, FrameSource.CHOSEN)
            .placement(new Matrix4d().translation(1, 2, 3).rotateX(Math.PI / 2))
            .build();
    Matrix4d carry = frame.matrixTo(Frame.Y_UP_METRE);
    Scene data = Rebase.intoData(near, Frame.Y_UP_METRE);
    Scene root = Rebase.onRoot(near, Frame.Y_UP_METRE);
    assertEquals(near.nodes().size(), data.nodes().size());
    assertEquals(0, PoseDifference.of(near, data, carry, frame.label()), TOLERANCE);
    assertEquals(0, PoseDifference.of(near, root, carry, frame.label()), TOLERANCE);
  }

  @Test
  void anOddTurnOfMovingPartsGoesOnARoot() {
    for (int seed = 0; seed < 20; seed++) {
      Scene near =
          RandomRig.of(new Random(seed), 5).toBuilder()
              .placement(new Matrix4d().rotateY(0.7))
              .build();
      Scene moved = Rebase.intoData(near, Frame.Y_UP_METRE);
      assertEquals(0, PoseDifference.of(near, moved, new Matrix4d(), "seed " + seed), TOLERANCE);
    }
  }

  @ParameterizedTest
  @MethodSource("frames")
  void everythingStandsWhereItStood(Frame frame) {
    Scene scene = nested(new Random(7), frame);
    Matrix4d whole = scene.frame().matrixTo(Frame.Y_UP_METRE);
    for (Scene moved :
        new Scene[] {
          Rebase.intoData(scene, Frame.Y_UP_METRE), Rebase.onRoot(scene, Frame.Y_UP_METRE)
        }) {
      assertEquals(Frame.Y_UP_METRE, moved.frame());
      var before = scene.shownMeshes();
      var after = moved.shownMeshes();
      double size = scene.bounds().transform(whole).diagonal();
      for (int i = 0; i < before.size(); i++) {
        same(before.get(i), after.get(i), whole, size);
      }
    }
  }

  /** Every corner of every face at its place; a mirror may only turn faces round. */
  private static void same(
      Scene.ShownMesh before, Scene.ShownMesh after, Matrix4d whole, double size) {
    PolygonMesh a = before.mesh();
    PolygonMesh b = after.mesh();
    boolean turned = b.faces().vertex(1) != a.faces().vertex(1);
    double handBefore = new Matrix4d(whole).mul(before.world()).determinant3x3();
    double handAfter = after.world().determinant3x3() * (turned ? -1 : 1);
    assertEquals(Math.signum(handBefore), Math.signum(handAfter), "faces look the wrong way");
    for (int v = 0; v < a.points().count(); v++) {
      Vector3d p = new Vector3d(a.points().x(v), a.points().y(v), a.points().z(v));
      whole.transformPosition(before.world().transformPosition(p));
      Vector3d q = new Vector3d(b.points().x(v), b.points().y(v), b.points().z(v));
      after.world().transformPosition(q);
      assertTrue(p.distance(q) <= TOLERANCE * size, p + " became " + q);
    }
  }

  private static Scene nested(Random random, Frame frame) {
    Scene flat = RandomScene.of(random);
    SceneBuilder scene = flat.toBuilder();
    scene.frame(frame, FrameSource.STATED, FrameSource.STATED);
    scene.placement(new Matrix4d().translation(1, 2, 3).rotateY(0.4).scale(1.5));
    java.util.List<Node> nodes = new java.util.ArrayList<>();
    nodes.add(
        Node.of(scene.newId(), "arm", -1, Node.Content.GROUP)
            .withTransform(
                LocalTransform.Trs.of(
                    new Vector3d(3, -1, 2),
                    new Quaterniond().rotateXYZ(0.3, 0.8, -0.2),
                    new Vector3d(1, 1, 1))));
    for (Node node : flat.nodes()) {
      nodes.add(
          node.withParent(nodes.size() - 1)
              .withTransform(
                  LocalTransform.Trs.of(
                      new Vector3d(0.5, 0, 1),
                      new Quaterniond().rotateZ(0.7),
                      new Vector3d(1, 2, -0.5)))
              .withGeometric(
                  new LocalTransform.MatrixTransform(new Matrix4d().rotateX(0.2).scale(1, 2, 1))));
    }
    return scene.nodes(nodes).build();
  }

  @Test
  void aFlatSceneStaysCleanAndComesBackTheSame() {
    Frame zUp = new Frame(0.01, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT);
    Scene scene =
        RandomScene.of(new Random(3)).toBuilder()
            .frame(zUp, FrameSource.STATED, FrameSource.STATED)
            .build();
    Scene there = Rebase.intoData(scene, Frame.Y_UP_METRE);
    assertTrue(there.nodes().stream().allMatch(n -> n.transform() == LocalTransform.IDENTITY));
    Scene back = Rebase.intoData(there, zUp);
    for (int m = 0; m < scene.meshes().size(); m++) {
      RandomScene.assertSame(scene.meshes().get(m), back.meshes().get(m), 1e-6, "round trip");
    }
  }

  @Test
  void nothingToDoChangesNoArray() {
    Scene scene = RandomScene.of(new Random(4));
    Scene same = Rebase.intoData(scene, Frame.Y_UP_METRE);
    assertTrue(scene.meshes().get(0) == same.meshes().get(0));
  }

  /** Positions of doubles and of caches in every frame, and back again to the same numbers. */
  @ParameterizedTest
  @MethodSource("frames")
  void doublesAndCachesGoThereAndBack(Frame frame) throws Exception {
    Random random = new Random(7);
    double[] xyz = random.doubles(30, -50, 50).toArray();
    float[][] samples = new float[3][30];
    for (float[] sample : samples) {
      for (int i = 0; i < sample.length; i++) {
        sample[i] = random.nextFloat() * 100 - 50;
      }
    }
    PolygonMesh mesh =
        PolygonMesh.of(
            5,
            "pennant",
            Coordinates.of(xyz),
            Polygons.triangles(new int[] {0, 1, 2, 3, 4, 5, 6, 7, 8}));
    SceneBuilder builder = new SceneBuilder("pennant");
    builder.frame(frame, FrameSource.STATED, FrameSource.STATED).add(mesh);
    builder.add(Node.of(6, "pennant", -1, Node.Content.MeshContent.of(5)));
    builder.caches(List.of(new Samples(samples)));
    Scene near = builder.build();
    Matrix4d carry = frame.matrixTo(Frame.Y_UP_METRE);
    Scene there = Rebase.intoData(near, Frame.Y_UP_METRE);
    double size = 100 * frame.metresPerUnit();
    Vector3d p = new Vector3d();
    float[] read = new float[15];
    for (int sample = 0; sample < samples.length; sample++) {
      there.caches().get(0).read(sample, 3, 5, read);
      for (int i = 0; i < 5; i++) {
        int at = 3 * (i + 3);
        carry.transformPosition(
            p.set(samples[sample][at], samples[sample][at + 1], samples[sample][at + 2]));
        assertEquals(0, p.distance(read[3 * i], read[3 * i + 1], read[3 * i + 2]), 1e-6 * size);
      }
    }
    for (int v = 0; v < 10; v++) {
      carry.transformPosition(p.set(xyz[3 * v], xyz[3 * v + 1], xyz[3 * v + 2]));
      Coordinates found = there.meshes().get(0).points();
      assertEquals(0, p.distance(found.x(v), found.y(v), found.z(v)), 1e-12 * size);
    }
    Scene back = Rebase.intoData(there, frame);
    for (int i = 0; i < xyz.length; i++) {
      assertEquals(xyz[i], back.meshes().get(0).points().at(i), 1e-13 * 50);
    }
    back.caches().get(0).read(1, 0, 5, read);
    for (int i = 0; i < read.length; i++) {
      // A float that was scaled and scaled back is off by its last digit at most.
      assertEquals(samples[1][i], read[i], 2 * Math.ulp(samples[1][i]));
    }
  }

  private record Samples(float[][] values) implements PointCache {
    @Override
    public int id() {
      return 9;
    }

    @Override
    public String name() {
      return "wind";
    }

    @Override
    public int meshId() {
      return 5;
    }

    @Override
    public int sampleCount() {
      return values.length;
    }

    @Override
    public int pointCount() {
      return values[0].length / 3;
    }

    @Override
    public double timeSeconds(int sample) {
      return sample / 24.0;
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      System.arraycopy(values[sample], 3 * from, target, 0, 3 * count);
    }
  }
}
