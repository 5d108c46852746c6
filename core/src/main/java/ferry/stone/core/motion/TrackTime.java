package ferry.stone.core.motion;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.Arrays;

/**
 * Tracks on another time line: cut, stretched, turned round. What runs between keys stays exact.
 */
final class TrackTime {
  private TrackTime() {}

  /** The part of a track between two moments, with keys at both. */
  static Track cut(Track track, double from, double to) {
    DoubleList times = new DoubleList(track.timesSeconds().length + 2);
    times.add(from);
    for (double t : track.timesSeconds()) {
      if (t > from && t < to) {
        times.add(t);
      }
    }
    if (to > from) {
      times.add(to);
    }
    double[] at = times.toArray();
    int n = track.components();
    boolean cubic = track.interpolation() == Interpolation.CUBIC;
    double[] values = new double[n * at.length];
    double[] in = cubic ? new double[values.length] : null;
    double[] out = cubic ? new double[values.length] : null;
    double[] one = new double[Math.max(4, n)];
    for (int k = 0; k < at.length; k++) {
      if (cubic) {
        raw(track, at[k], values, in, out, n * k);
      } else {
        Curves.sample(track, at[k], one);
        System.arraycopy(one, 0, values, n * k, n);
      }
    }
    return new Track(
        track.targetId(), track.property(), track.interpolation(), n, at, values, in, out);
  }

  /** Value and slopes on both sides, without making a rotation's length 1: a cubic stays itself. */
  private static void raw(
      Track track, double t, double[] values, double[] in, double[] out, int at) {
    double[] times = track.timesSeconds();
    int n = track.components();
    int last = times.length - 1;
    int key = Arrays.binarySearch(times, t);
    if (key >= 0 || t < times[0] || t > times[last]) {
      int k = key >= 0 ? key : t < times[0] ? 0 : last;
      System.arraycopy(track.values(), n * k, values, at, n);
      // Before the first key and after the last one the value stands.
      if (key > 0) {
        System.arraycopy(track.inSlopes(), n * k, in, at, n);
      }
      if (key >= 0 && key < last) {
        System.arraycopy(track.outSlopes(), n * k, out, at, n);
      }
      return;
    }
    int k = -key - 2;
    double span = times[k + 1] - times[k];
    double p = (t - times[k]) / span;
    double p2 = p * p;
    double p3 = p2 * p;
    for (int c = 0; c < n; c++) {
      double a = track.values()[n * k + c];
      double b = track.values()[n * (k + 1) + c];
      double leaving = track.outSlopes()[n * k + c];
      double reaching = track.inSlopes()[n * (k + 1) + c];
      values[at + c] =
          (2 * p3 - 3 * p2 + 1) * a
              + (p3 - 2 * p2 + p) * span * leaving
              + (3 * p2 - 2 * p3) * b
              + (p3 - p2) * span * reaching;
      double slope =
          (6 * p2 - 6 * p) / span * a
              + (3 * p2 - 4 * p + 1) * leaving
              + (6 * p - 6 * p2) / span * b
              + (3 * p2 - 2 * p) * reaching;
      in[at + c] = slope;
      out[at + c] = slope;
    }
  }

  /**
   * Every moment t at {@code scale * t + offset}.
   *
   * @param scale above 0
   */
  static Track mapped(Track track, double scale, double offset) {
    double[] times = track.timesSeconds().clone();
    for (int k = 0; k < times.length; k++) {
      times[k] = scale * times[k] + offset;
    }
    return new Track(
        track.targetId(),
        track.property(),
        track.interpolation(),
        track.components(),
        times,
        track.values(),
        slower(track.inSlopes(), scale),
        slower(track.outSlopes(), scale));
  }

  private static double[] slower(double[] slopes, double scale) {
    if (slopes == null || scale == 1) {
      return slopes;
    }
    double[] changed = slopes.clone();
    for (int i = 0; i < changed.length; i++) {
      changed[i] /= scale;
    }
    return changed;
  }

  /** Every moment t at {@code whole - t}. */
  static Track reversed(Track track, double whole, double end) {
    double[] times = track.timesSeconds();
    int n = track.components();
    int count = times.length;
    if (track.interpolation() == Interpolation.STEP) {
      // What held from a key on holds until it now. A last key at the end or after it held for
      // no time: two keys at one moment are one too many.
      int kept = count > 1 && times[count - 1] >= end ? count - 1 : count;
      double[] at = new double[kept];
      double[] values = new double[n * kept];
      for (int k = 0; k < kept; k++) {
        int from = kept - 1 - k;
        at[k] = whole - (from == count - 1 ? Math.max(end, times[from]) : times[from + 1]);
        System.arraycopy(track.values(), n * from, values, n * k, n);
      }
      return new Track(
          track.targetId(), track.property(), Interpolation.STEP, n, at, values, null, null);
    }
    double[] at = new double[count];
    for (int k = 0; k < count; k++) {
      at[k] = whole - times[count - 1 - k];
    }
    boolean cubic = track.interpolation() == Interpolation.CUBIC;
    return new Track(
        track.targetId(),
        track.property(),
        track.interpolation(),
        n,
        at,
        back(track.values(), n, 1),
        cubic ? back(track.outSlopes(), n, -1) : null,
        cubic ? back(track.inSlopes(), n, -1) : null);
  }

  private static double[] back(double[] rows, int n, double sign) {
    double[] result = new double[rows.length];
    int count = rows.length / n;
    for (int k = 0; k < count; k++) {
      for (int c = 0; c < n; c++) {
        result[n * k + c] = sign * rows[n * (count - 1 - k) + c];
      }
    }
    return result;
  }

  /** A key at each moment, straight between them; what jumps keeps its keys. */
  static Track sampled(Track track, double[] at) {
    if (track.interpolation() == Interpolation.STEP) {
      return track;
    }
    int n = track.components();
    double[] values = new double[n * at.length];
    double[] one = new double[Math.max(4, n)];
    for (int k = 0; k < at.length; k++) {
      Curves.sample(track, at[k], one);
      double dot = 0;
      for (int c = 0; c < n && k > 0; c++) {
        dot += one[c] * values[n * (k - 1) + c];
      }
      // The two signs of a rotation are one: that of the key before makes the short way.
      boolean turn = n == 4 && track.property().equals(Clip.ROTATION);
      for (int c = 0; c < n; c++) {
        values[n * k + c] = turn && dot < 0 ? -one[c] : one[c];
      }
    }
    return new Track(
        track.targetId(), track.property(), Interpolation.LINEAR, n, at, values, null, null);
  }
}
