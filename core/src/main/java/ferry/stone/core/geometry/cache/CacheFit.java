package ferry.stone.core.geometry.cache;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * How the numbers of a cache become those of its mesh: found over all axis frames and usual units,
 * and a turn where no axes will do. Compared at the sample that comes nearest to the mesh at rest.
 *
 * @param scale of the cache's numbers, a ratio of two usual units where one fits
 * @param axes the axis frame
 * @param turn what is left after it, as a rotation; none where the axes do
 * @param move after all, in numbers of the mesh
 * @param sample that was compared
 * @param asIs root of the mean square distance as it stands
 * @param left the same after it
 * @param size root of the mean square distance of the mesh's points from their middle
 * @param flat whether the mesh lies in a plane, so that a mirror at it cannot be told
 */
public record CacheFit(
    double scale,
    AxisFrame axes,
    Quaterniond turn,
    Vector3d move,
    int sample,
    double asIs,
    double left,
    double size,
    boolean flat) {
  private static final int SAMPLES = 9;

  /** A part of the size that counts as the same place. */
  private static final double SAME = 1e-3;

  /** What is off by so much of the size is in other numbers; by less, another pose may be it. */
  private static final double GROSS = 0.5;

  private static final double EXACT = 0.02;

  /** How much better a fit with more freedom must be. */
  private static final double BETTER = 0.5;

  /** Numbers of the cache to those of the mesh. */
  public Matrix4d matrix() {
    return new Matrix4d().translation(move).rotate(turn).mul(axes.matrix(scale));
  }

  /** Whether nothing has to change. */
  public boolean isAsItIs() {
    boolean gross = asIs > GROSS * size;
    boolean exact = left <= EXACT * size;
    return asIs <= SAME * size || left > BETTER * asIs || !gross && !exact;
  }

  /** Whether the points come to lie where those of the mesh do, and not only nearer. */
  public boolean isClose() {
    return left <= 0.05 * size;
  }

  /**
   * @return {@code null} where no point is anywhere on both sides
   */
  public static CacheFit of(PointCache cache, Coordinates mesh) throws IOException {
    int points = Math.min(cache.pointCount(), mesh.count());
    double[] to = new double[3 * points];
    for (int i = 0; i < to.length; i++) {
      to[i] = mesh.at(i);
    }
    float[] from = new float[to.length];
    CacheFit best = null;
    int last = cache.sampleCount() - 1;
    int before = -1;
    for (int k = 0; k < SAMPLES; k++) {
      int sample = (int) Math.round((double) k * last / (SAMPLES - 1));
      if (sample == before) {
        continue;
      }
      before = sample;
      cache.read(sample, 0, points, from);
      PointPairs pairs = new PointPairs(from, to);
      if (pairs.count() == 0) {
        continue;
      }
      CacheFit fit = of(pairs, sample);
      best = best == null || fit.left < best.left * (1 - 1e-6) ? fit : best;
    }
    return best;
  }

  private static CacheFit of(PointPairs pairs, int sample) {
    double asIs = Math.sqrt(pairs.leftInPlace(new Matrix3d(), 1));
    double size = pairs.size();
    AxisFrame axes = AxisFrame.SAME;
    double scale = 1;
    double least = Double.POSITIVE_INFINITY;
    double enough = 1e-12 * size * size;
    for (AxisFrame frame : AxisFrame.ALL) {
      Matrix3d map = frame.matrix();
      for (double ratio : UnitRatios.ALL) {
        double left = pairs.left(map, ratio);
        // Among equals the first: what changes least.
        if (left < least * (1 - 1e-6) - enough) {
          least = left;
          axes = frame;
          scale = ratio;
        }
      }
    }
    Quaterniond turn = new Quaterniond();
    for (boolean mirror : new boolean[] {false, true}) {
      Matrix3d free = pairs.turn(mirror);
      double ratio = nearRatio(pairs.scale(free));
      double left = pairs.left(free, ratio);
      double close = SAME * size;
      if (Math.sqrt(left) < BETTER * Math.sqrt(least) - close * SAME && Math.sqrt(least) > close) {
        least = left;
        scale = ratio;
        axes = nearest(free, mirror);
        turn = rest(free, axes);
      }
    }
    Matrix3d map = new Matrix3d().set(turn).mul(axes.matrix());
    Vector3d move = pairs.move(map, scale);
    if (pairs.leftInPlace(map, scale) <= least + SAME * SAME * size * size) {
      move.zero();
    }
    double left = Math.sqrt(Math.min(least, pairs.leftInPlace(map, scale)));
    return new CacheFit(scale, axes, turn, move, sample, asIs, left, size, pairs.isFlat());
  }

  private static Quaterniond rest(Matrix3d free, AxisFrame axes) {
    Matrix3d rest = new Matrix3d(free).mul(axes.matrix().transpose());
    return new Quaterniond().setFromNormalized(rest).normalize();
  }

  private static AxisFrame nearest(Matrix3d free, boolean mirror) {
    AxisFrame best = AxisFrame.SAME;
    double most = Double.NEGATIVE_INFINITY;
    for (AxisFrame frame : AxisFrame.ALL) {
      double product = PointPairs.product(frame.matrix(), free);
      if (frame.isMirror() == mirror && product > most + 1e-9) {
        most = product;
        best = frame;
      }
    }
    return best;
  }

  /** The ratio of two units that a scale is, within 1 %; else the scale itself. */
  private static double nearRatio(double scale) {
    for (double ratio : UnitRatios.ALL) {
      if (Math.abs(scale - ratio) <= 0.01 * ratio) {
        return ratio;
      }
    }
    return scale > 0 ? scale : 1;
  }
}
