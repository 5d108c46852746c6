package ferry.stone.core.motion;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.List;
import java.util.Random;
import org.joml.Quaterniond;
import org.junit.jupiter.api.Test;

class CurvesTest {
  private static double[] at(Track track, double t) {
    double[] out = new double[4];
    Curves.sample(track, t, out);
    return out;
  }

  /**
   * glTF 2.0 appendix C.5, worked by hand: from (1, 0, 2) at 1 s to (3, 4, −2) at 3 s, out slope
   * (1, 0, 0), in slope (0, 2, 0), at 1.5 s. t = 0.25, td = 2: 0.84375·v0 + 2·0.140625·b0 +
   * 0.15625·v1 − 2·0.046875·a1.
   */
  @Test
  void cubicSplineAsTheStandardHasIt() {
    Track track =
        new Track(
            1,
            Clip.TRANSLATION,
            Interpolation.CUBIC,
            3,
            new double[] {1, 3},
            new double[] {1, 0, 2, 3, 4, -2},
            new double[] {9, 9, 9, 0, 2, 0},
            new double[] {1, 0, 0, 9, 9, 9});
    double[] v = at(track, 1.5);
    assertEquals(0.84375 * 1 + 2 * 0.140625 * 1 + 0.15625 * 3, v[0], 1e-12);
    assertEquals(0.15625 * 4 - 2 * 0.046875 * 2, v[1], 1e-12);
    assertEquals(0.84375 * 2 - 0.15625 * 2, v[2], 1e-12);
    assertArrayEquals(new double[] {1, 0, 2, 0}, at(track, 0), 1e-12);
    assertArrayEquals(new double[] {3, 4, -2, 0}, at(track, 7), 1e-12);
  }

  @Test
  void stepsHoldUntilTheNextKey() {
    Track track =
        new Track(
            1,
            Clip.MORPH + "a",
            Interpolation.STEP,
            1,
            new double[] {0, 1},
            new double[] {2, 5},
            null,
            null);
    assertEquals(2, at(track, 0.999)[0]);
    assertEquals(5, at(track, 1)[0]);
  }

  /** Against joml's slerp, the short way round. */
  @Test
  void rotationsRunAlongTheGreatCircle() {
    Random random = new Random(4);
    for (int i = 0; i < 500; i++) {
      Quaterniond a = quaternion(random);
      Quaterniond b = i % 10 == 0 ? new Quaterniond(a).rotateX(1e-7) : quaternion(random);
      Track track =
          new Track(
              1,
              Clip.ROTATION,
              Interpolation.LINEAR,
              4,
              new double[] {0, 2},
              new double[] {a.x, a.y, a.z, a.w, b.x, b.y, b.z, b.w},
              null,
              null);
      double t = random.nextDouble();
      double[] v = at(track, 2 * t);
      Quaterniond wanted = a.slerp(b, t, new Quaterniond());
      double same = Math.abs(wanted.x * v[0] + wanted.y * v[1] + wanted.z * v[2] + wanted.w * v[3]);
      assertEquals(1, same, 1e-9);
    }
  }

  private static Quaterniond quaternion(Random random) {
    return new Quaterniond(
            random.nextGaussian(),
            random.nextGaussian(),
            random.nextGaussian(),
            random.nextGaussian())
        .normalize();
  }

  @Test
  void joinedMorphTracksSayTheSameAtEveryTime() {
    PolygonMesh mesh =
        PolygonMesh.of(
                1, "m", Coordinates.of(new float[9]), Polygons.triangles(new int[] {0, 1, 2}))
            .toBuilder()
            .morphs(List.of(morph("a", 0), morph("b", 0), morph("still", 0.3)))
            .build();
    Node node = Node.of(7, "n", -1, Node.Content.MeshContent.of(1));
    Track a =
        new Track(
            7,
            Clip.MORPH + "a",
            Interpolation.CUBIC,
            1,
            new double[] {0, 0.7, 2},
            new double[] {0, 1, 0.2},
            new double[] {0, 0.5, -1},
            new double[] {2, -0.5, 0});
    Track b =
        new Track(
            7,
            Clip.MORPH + "b",
            Interpolation.LINEAR,
            1,
            new double[] {0, 1, 2},
            new double[] {0, 1, 0},
            null,
            null);
    Track joined = MorphTracks.join(node, mesh, List.of(a, b));
    double[] out = new double[3];
    for (double t = 0; t <= 2; t += 0.05) {
      Curves.sample(joined, t, out);
      assertEquals(at(a, t)[0], out[0], 1e-9, "a at " + t);
      assertEquals(at(b, t)[0], out[1], 1e-9, "b at " + t);
      assertEquals(0.3, out[2], 1e-12);
    }
  }

  private static MorphTarget morph(String name, double weight) {
    return new MorphTarget(
        name, weight, List.of(new MorphTarget.Shape(1, new int[0], new float[0], null)));
  }
}
