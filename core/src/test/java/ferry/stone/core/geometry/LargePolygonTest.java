package ferry.stone.core.geometry;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.StoppedProgress;
import ferry.stone.core.geometry.triangle.MonotoneCut;
import ferry.stone.core.geometry.triangle.Triangulation;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.work.Cancel;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Progress;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Faces of very many corners, after O'Rourke's combs, stars and spirals as hard shapes. */
class LargePolygonTest {
  private static double[][] star(Random random, int n) {
    double[][] p = new double[2][n];
    for (int i = 0; i < n; i++) {
      double angle = 2 * Math.PI * i / n;
      double r = 0.2 + random.nextDouble();
      p[0][i] = r * Math.cos(angle);
      p[1][i] = r * Math.sin(angle);
    }
    return p;
  }

  /** Teeth that hang down from a beam. */
  private static double[][] comb(int teeth) {
    int n = 2 * teeth + 2;
    double[][] p = new double[2][n];
    for (int i = 0; i < 2 * teeth; i++) {
      p[0][i] = i;
      p[1][i] = i % 2 == 0 ? 0 : 9 + 0.001 * (i % 7);
    }
    p[0][2 * teeth] = 2 * teeth;
    p[1][2 * teeth] = 10;
    p[0][2 * teeth + 1] = -1;
    p[1][2 * teeth + 1] = 10;
    return p;
  }

  private static double[][] spiral(int n) {
    double[][] p = new double[2][n];
    int half = n / 2;
    for (int i = 0; i < n; i++) {
      int k = i < half ? i : n - 1 - i;
      double angle = 0.05 * k;
      double r = 1 + 0.02 * k + (i < half ? 0.3 : 0);
      p[0][i] = r * Math.cos(angle);
      p[1][i] = r * Math.sin(angle);
    }
    return p;
  }

  private static double area(double[][] p) {
    double twice = 0;
    int n = p[0].length;
    for (int i = 0; i < n; i++) {
      int j = (i + 1) % n;
      twice += p[0][i] * p[1][j] - p[0][j] * p[1][i];
    }
    return twice / 2;
  }

  private static void covers(double[][] p, int[] triangles, String what) {
    assertNotNull(triangles, what);
    assertEquals(3 * (p[0].length - 2), triangles.length, what);
    double sum = 0;
    for (int t = 0; t < triangles.length; t += 3) {
      double[][] one = new double[2][3];
      for (int k = 0; k < 3; k++) {
        one[0][k] = p[0][triangles[t + k]];
        one[1][k] = p[1][triangles[t + k]];
      }
      double own = area(one);
      assertTrue(own >= -1e-12, what + ": a triangle is turned round");
      sum += own;
    }
    // Triangles that face one way and have the area in all do not overlap.
    assertEquals(area(p), sum, 1e-9 * Math.abs(area(p)), what);
  }

  @Test
  void simplePolygonsAreCoveredOnce() {
    Random random = new Random(3);
    for (int i = 0; i < 200; i++) {
      int n = 4 + random.nextInt(400);
      double[][] p = star(random, n);
      covers(p, MonotoneCut.of(p[0], p[1], n), "star " + i);
    }
    for (int teeth : new int[] {3, 50, 700}) {
      double[][] p = comb(teeth);
      covers(p, MonotoneCut.of(p[0], p[1], p[0].length), "comb " + teeth);
    }
    double[][] p = spiral(1200);
    covers(p, MonotoneCut.of(p[0], p[1], 1200), "spiral");
  }

  private static int[] cut(double[][] p) {
    int n = p[0].length;
    float[] points = new float[3 * n];
    int[] corners = new int[n];
    for (int i = 0; i < n; i++) {
      points[3 * i] = (float) p[0][i];
      points[3 * i + 1] = (float) p[1][i];
      corners[i] = i;
    }
    int[] out = new int[3 * (n - 2)];
    int end =
        new Triangulation(Coordinates.of(points))
            .cut(Polygons.of(corners, new int[] {0, n}), 0, out, 0);
    assertEquals(out.length, end);
    return out;
  }

  @Test
  void aFaceOfManyCornersIsCut() {
    double[][] p = star(new Random(1), 50_000);
    double sum = 0;
    int[] out = cut(p);
    for (int t = 0; t < out.length; t += 3) {
      double[][] one = new double[2][3];
      for (int k = 0; k < 3; k++) {
        one[0][k] = (float) p[0][out[t + k]];
        one[1][k] = (float) p[1][out[t + k]];
      }
      sum += Math.abs(area(one));
    }
    assertEquals(area(p), sum, 1e-4 * area(p));
  }

  @Test
  void onesThatCrossThemselvesStillGiveAllTriangles() {
    Random random = new Random(8);
    double[][] p = new double[2][5000];
    for (int i = 0; i < 5000; i++) {
      p[0][i] = random.nextDouble();
      p[1][i] = random.nextDouble();
    }
    cut(p);
    double[][] none = new double[2][1000];
    cut(none);
    double[][] line = new double[2][1000];
    for (int i = 0; i < 1000; i++) {
      line[0][i] = i;
    }
    cut(line);
    double[][] nowhere = star(random, 1000);
    nowhere[0][500] = Double.NaN;
    cut(nowhere);
  }

  @Test
  void cuttingCanBeCancelled() {
    Progress cancelled = new StoppedProgress();
    double[][] p = star(new Random(1), 5000);
    assertThrows(CancelledException.class, () -> Cancel.during(cancelled, () -> cut(p)));
    cut(p);
  }
}
