package ferry.stone.core.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.geometry.triangle.TriangleTree;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Distances of surfaces whose distance is known by hand. */
class SurfaceDistanceTest {
  /** A square of side 1 in 2 n² triangles at a height. */
  private static double[] square(int n, double height) {
    double[] all = new double[18 * n * n];
    int at = 0;
    for (int i = 0; i < n * n; i++) {
      double x = i % n / (double) n;
      double z = i / n / (double) n;
      double s = 1.0 / n;
      double[] corners = {x, z, x + s, z, x + s, z + s, x, z, x + s, z + s, x, z + s};
      for (int c = 0; c < 12; c += 2) {
        all[at++] = corners[c];
        all[at++] = height;
        all[at++] = corners[c + 1];
      }
    }
    return all;
  }

  @Test
  void parallelSquaresLieApartEverywhereAlike() {
    SurfaceDistance d = SurfaceDistance.of(square(10, 0.25), new TriangleTree(square(7, 0)));
    assertThat(d.most()).isCloseTo(0.25, within(1e-12));
    assertThat(d.mean()).isCloseTo(0.25, within(1e-12));
    assertThat(d.most95()).isCloseTo(0.25, within(1e-12));
  }

  @Test
  void oneCornerThatStandsOutIsTheLargestAndSaysWhere() {
    double[] bent = square(20, 0);
    // The first corner of the first triangle, and no other.
    bent[1] = 0.5;
    SurfaceDistance d = SurfaceDistance.of(bent, new TriangleTree(square(3, 0)));
    assertThat(d.most()).isCloseTo(0.5, within(1e-12));
    assertThat(d.where()).containsExactly(0, 0.5, 0);
    assertThat(d.most95()).isCloseTo(0, within(1e-12));
    // Its own half metre, and a third of it at the middle of the triangle, over 3,200 samples.
    assertThat(d.mean()).isCloseTo((0.5 + 0.5 / 3) / 3200, within(1e-12));
    assertThat(d.words()).contains("largest 500.000 mm at 0, 0.5, 0 m");
  }

  @Test
  void bothWaysDiffer() {
    // A square against one of twice its side: from the small one nothing is far.
    double[] large = square(8, 0);
    double[] small = large.clone();
    for (int i = 0; i < small.length; i++) {
      small[i] /= 2;
    }
    assertThat(SurfaceDistance.of(small, new TriangleTree(large)).most())
        .isCloseTo(0, within(1e-9));
    SurfaceDistance back = SurfaceDistance.of(large, new TriangleTree(small));
    assertThat(back.most()).isCloseTo(Math.sqrt(0.5), within(1e-12));
    assertThat(back.where()).containsExactly(1, 0, 1);
  }

  @Test
  void whatIsNoNumberHasNoDistance() {
    double[] broken = square(4, 1);
    Random random = new Random(1);
    for (int i = 0; i < 6; i++) {
      broken[9 * random.nextInt(32) + random.nextInt(9)] = Double.NaN;
    }
    SurfaceDistance d = SurfaceDistance.of(broken, new TriangleTree(square(4, 0)));
    assertThat(d.most()).isCloseTo(1, within(1e-12));
    assertThat(SurfaceDistance.of(new double[0], new TriangleTree(square(1, 0))).mean()).isZero();
  }
}
