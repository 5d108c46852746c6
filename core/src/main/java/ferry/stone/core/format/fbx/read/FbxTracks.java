package ferry.stone.core.format.fbx.read;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.scene.time.KeyCurve;
import ferry.stone.core.work.Cancel;
import java.util.Arrays;
import java.util.TreeSet;

/**
 * Turns curves of single numbers into a track. Steps, lines and cubics with even handles stay what
 * they are, with keys wherever one of the numbers has one; other motion is sampled.
 */
final class FbxTracks {
  /** Between samples nothing is off by more than this part of its size. */
  static final double BETWEEN = 6e-6;

  private static final double SHORTEST = 1e-5;
  private static final int DEEPEST = 8;
  private static final int BETWEEN_CANCEL_POINTS = 256;
  private static final int MOST_SAMPLES = 2_000_000;

  private FbxTracks() {}

  /**
   * @param curves of each number, {@code null} for one that stands still
   * @param still values of those
   * @param factor what values are multiplied by
   */
  static Track of(int target, String property, KeyCurve[] curves, double[] still, double factor) {
    return of(target, property, curves, still, factor, 0);
  }

  /**
   * @param tolerance how far sampled values may be off, 0 for {@link #BETWEEN} of their size
   */
  static Track of(
      int target,
      String property,
      KeyCurve[] curves,
      double[] still,
      double factor,
      double tolerance) {
    TreeSet<Double> keys = new TreeSet<>();
    boolean steps = true;
    boolean lines = true;
    boolean even = true;
    for (KeyCurve curve : curves) {
      if (curve != null) {
        Arrays.stream(curve.seconds()).forEach(keys::add);
        boolean stands = curve.seconds().length == 1;
        steps &= stands || curve.all(KeyCurve.HOLD);
        lines &= stands || curve.all(KeyCurve.LINE);
        even &= stands || runs(curve) && curve.isEven();
      }
    }
    double[] times = keys.stream().mapToDouble(Double::doubleValue).toArray();
    if (steps || lines || even) {
      Interpolation kind =
          steps ? Interpolation.STEP : lines ? Interpolation.LINEAR : Interpolation.CUBIC;
      return exact(target, property, curves, still, factor, times, kind);
    }
    for (KeyCurve curve : curves) {
      if (curve != null) {
        keys.addAll(curve.beforeJumps());
      }
    }
    return sampled(target, property, curves, still, factor, tolerance, keys);
  }

  private static boolean runs(KeyCurve curve) {
    for (int k = 0; k + 1 < curve.modes().length; k++) {
      if (curve.modes()[k] <= KeyCurve.HOLD_NEXT) {
        return false;
      }
    }
    return true;
  }

  private static Track exact(
      int target,
      String property,
      KeyCurve[] curves,
      double[] still,
      double factor,
      double[] times,
      Interpolation kind) {
    int n = curves.length;
    double[] values = new double[n * times.length];
    boolean cubic = kind == Interpolation.CUBIC;
    double[] in = cubic ? new double[values.length] : null;
    double[] out = cubic ? new double[values.length] : null;
    for (int k = 0; k < times.length; k++) {
      if (k % BETWEEN_CANCEL_POINTS == 0) {
        Cancel.point();
      }
      for (int c = 0; c < n; c++) {
        int at = n * k + c;
        values[at] = factor * (curves[c] == null ? still[c] : curves[c].at(times[k]));
        if (cubic && curves[c] != null) {
          in[at] = factor * curves[c].slope(times[k], true);
          out[at] = factor * curves[c].slope(times[k], false);
        }
      }
    }
    return new Track(target, property, kind, n, times, values, in, out);
  }

  private static Track sampled(
      int target,
      String property,
      KeyCurve[] curves,
      double[] still,
      double factor,
      double tolerance,
      TreeSet<Double> keys) {
    int n = curves.length;
    DoubleList times = new DoubleList(keys.size() * 4);
    double last = Double.NaN;
    for (double key : keys) {
      if (!Double.isNaN(last)) {
        refine(curves, last, key, tolerance, DEEPEST, times);
      }
      times.add(key);
      last = key;
    }
    double[] seconds = times.toArray();
    double[] values = new double[n * seconds.length];
    for (int i = 0; i < seconds.length; i++) {
      for (int c = 0; c < n; c++) {
        values[n * i + c] = factor * (curves[c] == null ? still[c] : curves[c].at(seconds[i]));
      }
    }
    return new Track(target, property, Interpolation.LINEAR, n, seconds, values, null, null);
  }

  private static void refine(
      KeyCurve[] curves, double from, double to, double tolerance, int depth, DoubleList times) {
    if (depth == 0 || to - from < SHORTEST || times.size() > MOST_SAMPLES) {
      return;
    }
    double middle = (from + to) / 2;
    boolean near = depth < DEEPEST;
    for (int i = 1; i < 4 && near; i++) {
      double t = from + (to - from) * i / 4;
      for (int c = 0; c < curves.length && near; c++) {
        if (curves[c] != null) {
          double a = curves[c].at(from);
          double line = a + (curves[c].at(to) - a) * i / 4;
          double value = curves[c].at(t);
          double most = tolerance > 0 ? tolerance : BETWEEN * Math.max(1, Math.abs(value));
          near = Math.abs(value - line) <= most;
        }
      }
    }
    if (!near) {
      refine(curves, from, middle, tolerance, depth - 1, times);
      times.add(middle);
      refine(curves, middle, to, tolerance, depth - 1, times);
    }
  }
}
