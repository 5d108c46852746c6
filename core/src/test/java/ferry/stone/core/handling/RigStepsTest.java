package ferry.stone.core.handling;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.WorldSurface;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Steps on skins, joints and morph targets. */
class RigStepsTest {
  private static final double EXACT = 2e-5;

  private static Handling.Stage run(Scene scene, String kind, Map<String, Object> params) {
    return Handling.run(scene, List.of(new Step("1", kind, params, true, List.of())), Progress.NONE)
        .get(0);
  }

  /** A strip of squares from x = 0 to 4, and one lone triangle above its far end. */
  private static PolygonMesh strip() {
    float[] points = new float[39];
    for (int i = 0; i < 5; i++) {
      points[6 * i] = i;
      points[6 * i + 3] = i;
      points[6 * i + 5] = 1;
    }
    float[] lone = {4, 3, 0, 4.5f, 3, 0, 4, 3, 1};
    System.arraycopy(lone, 0, points, 30, 9);
    int[] corners = {0, 1, 3, 2, 2, 3, 5, 4, 4, 5, 7, 6, 6, 7, 9, 8, 10, 11, 12};
    return PolygonMesh.of(
        1, "strip", Coordinates.of(points), Polygons.of(corners, new int[] {0, 4, 8, 12, 16, 19}));
  }

  /** Joints in a chain, each with its scale; a skin on the strip with some weights. */
  private static Scene rig(double[] scales, int[] offsets, int[] joints, float[] weights) {
    SceneBuilder scene = new SceneBuilder("rig").nextId(100);
    scene.add(strip());
    int[] ids = new int[scales.length];
    double[] binds = new double[16 * ids.length];
    Matrix4d world = new Matrix4d();
    for (int j = 0; j < ids.length; j++) {
      ids[j] = 10 + j;
      LocalTransform.Trs own =
          LocalTransform.Trs.of(
              new Vector3d(j == 0 ? 0 : 1, 0.2, 0),
              new Quaterniond().rotateZ(0.3 * j),
              new Vector3d(scales[j]));
      scene.add(
          Node.of(ids[j], "joint_" + j, j - 1, new Node.Content.Joint(0.1)).withTransform(own));
      world.mul(own.toMatrix());
      new Matrix4d(world).invert().get(binds, 16 * j);
    }
    scene.add(new Skin(7, "skin", 1, ids, binds, offsets, joints, weights, "linear"));
    scene.add(Node.of(2, "strip", -1, new Node.Content.MeshContent(1, 7, null, null)));
    int last = ids.length - 1;
    scene.add(
        new Clip(
            50,
            "bend",
            0,
            1,
            List.of(
                track(ids[last], Clip.ROTATION, 4, 0, 0, 0, 1, 0, 0, 0.6, 0.8),
                track(ids[last], Clip.TRANSLATION, 3, 1, 0.2, 0, 2, 1, 0),
                track(ids[0], Clip.SCALE, 3, 2, 2, 2, 3, 3, 3))));
    return scene.build();
  }

  private static Clip.Track track(int id, String property, int components, double... values) {
    return new Clip.Track(
        id,
        property,
        Clip.Interpolation.LINEAR,
        components,
        new double[] {0, 1},
        values,
        null,
        null);
  }

  private static int[] one(int n) {
    int[] offsets = new int[n + 1];
    for (int i = 0; i <= n; i++) {
      offsets[i] = i;
    }
    return offsets;
  }

  private static float[] ones(int n) {
    float[] weights = new float[n];
    java.util.Arrays.fill(weights, 1);
    return weights;
  }

  @Test
  void scalesGoOutOfJointsAndThePictureStaysAtEveryMoment() {
    int[] joints = {0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 2, 2, 2};
    Scene near = rig(new double[] {2, 0.5, 3}, one(13), joints, ones(13));
    var stage = run(near, "reset", Map.of("what", "scale"));
    assertNull(stage.failure());
    for (Node node : stage.scene().nodes()) {
      Vector3d scale = node.transform().toMatrix().getScale(new Vector3d());
      assertEquals(0, scale.distance(1, 1, 1), 1e-9, node.name());
    }
    assertTrue(WorldSurface.difference(near, stage.scene()) <= EXACT);
    // The clip scaled the root from 2 to 3; it does so from 1 to 1.5 now.
    Clip.Track scaled =
        stage.scene().clips().get(0).tracks().stream()
            .filter(t -> t.property().equals(Clip.SCALE))
            .findFirst()
            .orElseThrow();
    assertArrayEquals(new double[] {1, 1, 1, 1.5, 1.5, 1.5}, scaled.values(), 1e-12);
  }

  @Test
  void strayVerticesGoWithTheSurfaceNotWithWhatIsNearerInSpace() {
    // The first four are bound to joint 0, the far end to joint 1, the rest to nothing.
    int[] offsets = {0, 1, 2, 3, 4, 4, 4, 4, 4, 5, 6, 6, 6, 6};
    Scene near = rig(new double[] {1, 1}, offsets, new int[] {0, 0, 0, 0, 1, 1}, ones(6));
    Scene far = run(near, "strays", Map.of("to", "near")).scene();
    Skin skin = far.skins().get(0);
    assertArrayEquals(one(13), skin.offsets());
    // 4 and 5 lie beside 2 and 3, 6 and 7 beside 8 and 9; the lone triangle is above the far end.
    assertArrayEquals(new int[] {0, 0, 0, 0, 0, 0, 1, 1, 1, 1, 1, 1, 1}, skin.joints());
    Skin first = run(near, "strays", Map.of("to", "first")).scene().skins().get(0);
    assertArrayEquals(new int[] {0, 0, 0, 0, 0, 0, 0, 0, 1, 1, 0, 0, 0}, first.joints());
  }

  @Test
  void jointsOverALimitGiveTheirWeightsToTheJointAbove() {
    int[] joints = {0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 2, 3, 3};
    Scene near = rig(new double[] {1, 1, 1, 1}, one(13), joints, ones(13));
    Skin skin = run(near, "joints", Map.of("keep", "most", "most", 2)).scene().skins().get(0);
    assertArrayEquals(new int[] {10, 11}, skin.jointNodeIds());
    assertArrayEquals(new int[] {0, 0, 0, 0, 1, 1, 1, 1, 1, 1, 1, 1, 1}, skin.joints());
    assertArrayEquals(ones(13), skin.weights());
    for (int seed = 0; seed < 20; seed++) {
      Scene rig = RandomRig.of(new Random(seed), 4);
      var stage = run(rig, "joints", Map.of("keep", "most", "most", 3));
      if (stage.failure() != null) {
        assertTrue(stage.failure().contains("Split the mesh"), stage.failure());
        continue;
      }
      for (Skin each : stage.scene().skins()) {
        assertTrue(each.jointNodeIds().length <= 3);
        for (int v = 0; v + 1 < each.offsets().length; v++) {
          double sum = 0;
          for (int i = each.offsets()[v]; i < each.offsets()[v + 1]; i++) {
            sum += each.weights()[i];
          }
          assertEquals(1, sum, 1e-5);
        }
      }
    }
  }

  /** A target that is half on at rest and that a clip takes to fully on. */
  private static Scene morphing() {
    SceneBuilder scene = new SceneBuilder("morph").nextId(100);
    MorphTarget up =
        new MorphTarget(
            "up",
            0.5,
            List.of(new MorphTarget.Shape(1, new int[] {0}, new float[] {0, 2, 0}, null)));
    scene.add(strip().toBuilder().morphs(List.of(up)).build());
    scene.add(
        Node.of(2, "strip", -1, new Node.Content.MeshContent(1, -1, null, new double[] {0.5})));
    scene.add(new Clip(50, "rise", 0, 1, List.of(track(2, Clip.MORPH + "up", 1, 0.5, 1))));
    return scene.build();
  }

  @Test
  void aMorphTargetAtRestIsSetToZeroOrBakedIn() {
    Scene near = morphing();
    Scene zero = run(near, "morphRest", Map.of("how", "zero")).scene();
    assertEquals(0, zero.meshes().get(0).points().y(0), 0);
    assertEquals(0, ((Node.Content.MeshContent) zero.nodes().get(0).content()).morphWeights()[0]);
    assertArrayEquals(
        new double[] {0.5, 1}, zero.clips().get(0).tracks().get(0).values(), "the clip stays");
    Scene baked = run(near, "morphRest", Map.of("how", "bake", "named", "up")).scene();
    assertEquals(1, baked.meshes().get(0).points().y(0), 1e-7);
    assertArrayEquals(new double[] {0, 0.5}, baked.clips().get(0).tracks().get(0).values(), 1e-12);
    assertTrue(WorldSurface.difference(near, baked) <= EXACT);
    Scene other = run(near, "morphRest", Map.of("how", "bake", "named", "down")).scene();
    assertEquals(0, other.meshes().get(0).points().y(0), 0);
  }
}
