package ferry.stone.core.geometry.cache;

import ferry.stone.core.geometry.frame.SingularValues;
import org.joml.Matrix3d;
import org.joml.Vector3d;

/**
 * Sums over points that belong together, from which the best of many maps is found without looking
 * at a point again. O(n) to fill, O(1) to ask. Points that are nowhere are left out.
 */
final class PointPairs {
  private final Vector3d fromMean = new Vector3d();
  private final Vector3d toMean = new Vector3d();

  /** Sum of (to − mean)(from − mean)ᵀ. */
  private final Matrix3d both = new Matrix3d().zero();

  private double fromSpread;
  private double toSpread;
  private int count;

  /**
   * @param from {@code float[3*n]}
   * @param to {@code double[3*n]}
   */
  PointPairs(float[] from, double[] to) {
    double[] means = new double[6];
    for (int i = 0; i < from.length; i += 3) {
      if (isSomewhere(from, to, i)) {
        for (int c = 0; c < 3; c++) {
          means[c] += from[i + c];
          means[3 + c] += to[i + c];
        }
        count++;
      }
    }
    if (count == 0) {
      return;
    }
    fromMean.set(means[0], means[1], means[2]).div(count);
    toMean.set(means[3], means[4], means[5]).div(count);
    double[] c = new double[9];
    for (int i = 0; i < from.length; i += 3) {
      if (isSomewhere(from, to, i)) {
        double x = from[i] - fromMean.x;
        double y = from[i + 1] - fromMean.y;
        double z = from[i + 2] - fromMean.z;
        double u = to[i] - toMean.x;
        double v = to[i + 1] - toMean.y;
        double w = to[i + 2] - toMean.z;
        fromSpread += x * x + y * y + z * z;
        toSpread += u * u + v * v + w * w;
        c[0] += u * x;
        c[1] += v * x;
        c[2] += w * x;
        c[3] += u * y;
        c[4] += v * y;
        c[5] += w * y;
        c[6] += u * z;
        c[7] += v * z;
        c[8] += w * z;
      }
    }
    both.set(c);
  }

  private static boolean isSomewhere(float[] from, double[] to, int i) {
    return Double.isFinite(from[i] + from[i + 1] + from[i + 2] + to[i] + to[i + 1] + to[i + 2]);
  }

  int count() {
    return count;
  }

  /** The mean distance squared that is left by a map and the best move after it. */
  double left(Matrix3d map, double scale) {
    double off = scale * scale * fromSpread - 2 * scale * product(map, both) + toSpread;
    return Math.max(0, off) / count;
  }

  /** The sum of the products of what stands at the same places: the trace of aᵀb. */
  static double product(Matrix3d a, Matrix3d b) {
    double product = 0;
    for (int column = 0; column < 3; column++) {
      for (int row = 0; row < 3; row++) {
        product += a.get(column, row) * b.get(column, row);
      }
    }
    return product;
  }

  /** The same without a move. */
  double leftInPlace(Matrix3d map, double scale) {
    return left(map, scale) + move(map, scale).lengthSquared();
  }

  /** The best move after a map. */
  Vector3d move(Matrix3d map, double scale) {
    return new Vector3d(toMean).sub(map.transform(fromMean, new Vector3d()).mul(scale));
  }

  /**
   * The turn that leaves least, after Kabsch 1976, "A solution for the best rotation to relate two
   * sets of vectors", with the sign of Umeyama 1991, "Least-squares estimation of transformation
   * parameters between two point patterns", eq. 40–43.
   *
   * @param mirror whether it has to mirror too
   */
  Matrix3d turn(boolean mirror) {
    SingularValues s = SingularValues.of(both);
    double[] sizes = {Math.abs(s.scale().x), Math.abs(s.scale().y), Math.abs(s.scale().z)};
    double[] signs = {1, 1, s.scale().z < 0 ? -1 : 1};
    boolean isMirror = signs[2] < 0;
    int smallest = 0;
    for (int i = 1; i < 3; i++) {
      smallest = sizes[i] <= sizes[smallest] ? i : smallest;
    }
    if (isMirror != mirror) {
      signs[smallest] = -signs[smallest];
    }
    Matrix3d turned = new Matrix3d(s.u()).scale(signs[0], signs[1], signs[2]);
    return turned.mul(new Matrix3d(s.v()).transpose());
  }

  /** The scale that leaves least with a turn: Umeyama's eq. 42. */
  double scale(Matrix3d turn) {
    return fromSpread > 0 ? product(turn, both) / fromSpread : 1;
  }

  /** Root of the mean square distance of the second points from their middle. */
  double size() {
    return Math.sqrt(toSpread / Math.max(1, count));
  }

  /** Whether the second points lie in a plane, so that a mirror at it cannot be told. */
  boolean isFlat() {
    SingularValues s = SingularValues.of(both);
    double most =
        Math.max(Math.abs(s.scale().x), Math.max(Math.abs(s.scale().y), Math.abs(s.scale().z)));
    double least =
        Math.min(Math.abs(s.scale().x), Math.min(Math.abs(s.scale().y), Math.abs(s.scale().z)));
    return least <= 1e-9 * most;
  }
}
