package ferry.stone.core.proof;

import ferry.stone.core.geometry.triangle.TriangleTree;
import ferry.stone.core.math.DoubleList;
import java.util.Arrays;

/**
 * How far one surface lies from another: from corners and middles of evenly picked triangles to the
 * nearest point of the other. Lengths are in metres.
 *
 * @param most the largest distance
 * @param mean of all samples, each counted once whatever its triangle's size
 * @param most95 the distance that 95 of 100 samples do not exceed
 * @param where the sample that lies farthest: x, y, z
 */
record SurfaceDistance(double most, double mean, double most95, double[] where) {
  /** Points that are looked at. */
  private static final int SAMPLES = 20_000;

  /**
   * @param from nine numbers a triangle
   */
  static SurfaceDistance of(double[] from, TriangleTree to) {
    int triangles = from.length / 9;
    int stride = Math.max(1, triangles * 4 / SAMPLES);
    DoubleList all = new DoubleList(Math.min(SAMPLES, 4 * triangles));
    double[] where = new double[3];
    double[] mid = new double[3];
    double most = 0;
    double sum = 0;
    for (int t = 0; t < triangles; t += stride) {
      int first = 9 * t;
      Arrays.fill(mid, 0);
      for (int i = 0; i < 9; i++) {
        mid[i % 3] += from[first + i] / 3;
      }
      if (!Double.isFinite(mid[0] + mid[1] + mid[2])) {
        continue;
      }
      for (int k = 0; k < 4; k++) {
        double x = k < 3 ? from[first + 3 * k] : mid[0];
        double y = k < 3 ? from[first + 3 * k + 1] : mid[1];
        double z = k < 3 ? from[first + 3 * k + 2] : mid[2];
        double off = to.distance(x, y, z);
        all.add(off);
        sum += off;
        // What has no distance makes the whole not measurable.
        if (!(off <= most) && !Double.isNaN(most)) {
          most = off;
          where[0] = x;
          where[1] = y;
          where[2] = z;
        }
      }
    }
    double[] sorted = all.toArray();
    Arrays.sort(sorted);
    int place = (int) Math.ceil(0.95 * sorted.length) - 1;
    return new SurfaceDistance(
        most,
        sorted.length == 0 ? 0 : sum / sorted.length,
        sorted.length == 0 ? 0 : sorted[Math.max(0, place)],
        where);
  }

  /** For people. */
  String words() {
    return "mean "
        + Proof.millimetres(mean)
        + ", 95 % within "
        + Proof.millimetres(most95)
        + ", largest "
        + Proof.millimetres(most)
        + " at "
        + Proof.vector(where[0], where[1], where[2], " m");
  }
}
