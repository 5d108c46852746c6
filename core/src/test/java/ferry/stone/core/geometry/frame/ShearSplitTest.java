package ferry.stone.core.geometry.frame;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomShear;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.joml.Matrix3d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

class ShearSplitTest {
  /** All points of all parts, in the order of the parts. */
  private static List<double[]> points(Scene scene, Clip clip, double t) {
    Pose pose = Pose.at(scene, clip, t);
    List<double[]> all = new ArrayList<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      double[] p = Deform.world(scene, pose, i);
      if (p.length > 0) {
        all.add(p);
      }
    }
    return all;
  }

  private static void same(List<double[]> a, List<double[]> b, String what) {
    assertEquals(a.size(), b.size(), what);
    for (int i = 0; i < a.size(); i++) {
      for (int k = 0; k < a.get(i).length; k++) {
        assertEquals(a.get(i)[k], b.get(i)[k], 2e-5, what + ", mesh " + i);
      }
    }
  }

  @Test
  void nothingMovesAndNothingIsSheared() {
    int split = 0;
    int added = 0;
    for (int seed = 0; seed < 200; seed++) {
      Scene scene = RandomShear.of(new Random(seed));
      Scene folded = GeometricFold.fold(scene);
      ShearSplit result = ShearSplit.of(folded, n -> true);
      split += result.nodeIds().isEmpty() ? 0 : 1;
      added += result.added();
      for (Node node : result.scene().nodes()) {
        assertTrue(ShearSplit.isPlain(node.transform().toMatrix()), seed + " " + node.name());
        assertSame(LocalTransform.IDENTITY, node.geometric(), seed + " " + node.name());
      }
      same(points(scene, null, 0), points(result.scene(), null, 0), "seed " + seed);
      for (int c = 0; c < scene.clips().size(); c++) {
        for (double t : new double[] {0, 0.3, 0.5, 1}) {
          same(
              points(scene, scene.clips().get(c), t),
              points(result.scene(), result.scene().clips().get(c), t),
              "seed " + seed + " at " + t);
        }
      }
      origins(scene, result.scene(), "seed " + seed);
    }
    assertTrue(split > 100 && added > 50, split + " split, " + added + " added");
  }

  /** Parts keep their names, and their origins keep their place. */
  private static void origins(Scene before, Scene after, String what) {
    for (int i = 0; i < before.nodes().size(); i++) {
      String name = before.nodes().get(i).name();
      int there = -1;
      for (int j = 0; j < after.nodes().size(); j++) {
        there = after.nodes().get(j).name().equals(name) ? j : there;
      }
      Vector3d a = before.worldMatrices()[i].getTranslation(new Vector3d());
      Vector3d b = after.worldMatrices()[there].getTranslation(new Vector3d());
      assertEquals(0, a.distance(b), 1e-9, what + " " + name);
    }
  }

  @Test
  void aStillPartOfItsOwnKeepsTheTree() {
    for (int seed = 0; seed < 100; seed++) {
      Scene scene = RandomShear.of(new Random(seed));
      boolean shared =
          scene.meshes().stream()
              .anyMatch(
                  m ->
                      scene.nodes().stream()
                              .filter(
                                  n ->
                                      n.content() instanceof Node.Content.MeshContent c
                                          && c.meshId() == m.id())
                              .count()
                          > 1);
      if (!shared && scene.clips().isEmpty()) {
        ShearSplit split = ShearSplit.of(GeometricFold.fold(scene), n -> true);
        assertEquals(scene.paths(), split.scene().paths(), "seed " + seed);
      }
    }
  }

  /**
   * U and V turn, Σ scales, and the product is the matrix: by definition of the singular values.
   */
  @Test
  void singularValuesMakeTheMatrixAgain() {
    Random random = new Random(5);
    for (int i = 0; i < 500; i++) {
      Matrix3d a = new Matrix3d();
      for (int k = 0; k < 9; k++) {
        a.set(k / 3, k % 3, random.nextGaussian());
      }
      if (i % 5 == 0) {
        a.setColumn(1, a.getColumn(0, new Vector3d()).mul(i % 10 == 0 ? 0 : 2));
      }
      SingularValues s = SingularValues.of(a);
      Matrix3d product =
          new Matrix3d(s.u())
              .scale(s.scale().x, s.scale().y, s.scale().z)
              .mul(s.v().transpose(new Matrix3d()));
      assertTrue(product.equals(a, 1e-9), i + ": " + product + a);
      for (Matrix3d turn : List.of(s.u(), s.v())) {
        assertEquals(1, turn.determinant(), 1e-9, "matrix " + i);
        assertTrue(
            new Matrix3d(turn).mul(turn.transpose(new Matrix3d())).equals(new Matrix3d(), 1e-9));
      }
    }
  }
}
