package ferry.stone.core.scene.time;

import ferry.stone.core.math.BezierTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * One number over time as its source wrote it: keys that hold, run straight, or run along a Bézier
 * curve whose handles have slopes and, where a key says so, lengths of their own. Each array has
 * one value a key; what lies beside a key belongs to the span after it.
 *
 * @param seconds rising times
 * @param values at the keys
 * @param modes how the value runs to the next key: one of the constants here
 * @param rightSlopes per second, leaving this key
 * @param nextLeftSlopes per second, reaching the next key
 * @param rightWeights length of the handle leaving this key as a part of the span
 * @param nextLeftWeights length of the handle reaching the next key as a part of the span
 */
public record KeyCurve(
    double[] seconds,
    double[] values,
    byte[] modes,
    float[] rightSlopes,
    float[] nextLeftSlopes,
    float[] rightWeights,
    float[] nextLeftWeights) {

  /** Holds the value until the next key. */
  public static final byte HOLD = 0;

  /** Takes the next key's value at once. */
  public static final byte HOLD_NEXT = 1;

  public static final byte LINE = 2;
  public static final byte CURVE = 3;

  /** Handle length with which time runs evenly along the curve. */
  public static final float EVEN = 1 / 3f;

  /** How long a jump takes where it has to be a line, in seconds. */
  private static final double JUMP = 1e-5;

  /** Keys that run straight. */
  public static KeyCurve lines(double[] seconds, double[] values) {
    KeyCurve curve = of(seconds, values);
    Arrays.fill(curve.modes, LINE);
    return curve;
  }

  /** Keys that hold, to be given other modes, slopes and weights by the caller. */
  public static KeyCurve of(double[] seconds, double[] values) {
    int n = seconds.length;
    KeyCurve curve =
        new KeyCurve(
            seconds, values, new byte[n], new float[n], new float[n], new float[n], new float[n]);
    Arrays.fill(curve.rightWeights, EVEN);
    Arrays.fill(curve.nextLeftWeights, EVEN);
    return curve;
  }

  /** Moments just before a held value jumps to the next. */
  public List<Double> beforeJumps() {
    List<Double> moments = new ArrayList<>();
    for (int k = 0; k + 1 < seconds.length; k++) {
      if (modes[k] <= HOLD_NEXT && seconds[k + 1] - seconds[k] > 2 * JUMP) {
        moments.add(modes[k] == HOLD_NEXT ? seconds[k] + JUMP : seconds[k + 1] - JUMP);
      }
    }
    return moments;
  }

  /** Whether every key runs as a mode says; the last key runs nowhere. */
  public boolean all(byte mode) {
    for (int k = 0; k + 1 < modes.length; k++) {
      if (modes[k] != mode) {
        return false;
      }
    }
    return true;
  }

  /** Whether time runs evenly along all its curves, as cubic tracks need it. */
  public boolean isEven() {
    for (int k = 0; k + 1 < modes.length; k++) {
      if (Math.abs(rightWeights[k] - EVEN) > 1e-6 || Math.abs(nextLeftWeights[k] - EVEN) > 1e-6) {
        return false;
      }
    }
    return true;
  }

  /** The value at a time; the first and last keys hold before and after. */
  public double at(double t) {
    return at(t, before(t, -1));
  }

  /**
   * The last key that is not after a time, −1 before the first.
   *
   * @param near where to look first: the key before an earlier time
   */
  public int before(double t, int near) {
    int last = seconds.length - 1;
    int from = Math.max(0, near);
    if (from <= last && seconds[from] <= t) {
      if (from == last || t < seconds[from + 1]) {
        return from;
      }
      // Now the next key is not after the time either.
      if (near >= 0 && (from + 1 == last || t < seconds[from + 2])) {
        return from + 1;
      }
    }
    int key = Arrays.binarySearch(seconds, t);
    return key >= 0 ? key : -key - 2;
  }

  /**
   * The value at a time.
   *
   * @param key {@link #before} it
   */
  public double at(double t, int key) {
    int last = seconds.length - 1;
    if (key < 0 || key >= last) {
      return values[Math.max(0, Math.min(last, key))];
    }
    double span = seconds[key + 1] - seconds[key];
    if (span <= 0) {
      return values[key];
    }
    double part = (t - seconds[key]) / span;
    double a = values[key];
    double b = values[key + 1];
    switch (modes[key]) {
      case HOLD:
        return a;
      case HOLD_NEXT:
        return part > 0 ? b : a;
      case LINE:
        return a + part * (b - a);
      default:
        return curve(key, part, span, a, b);
    }
  }

  private double curve(int key, double part, double span, double a, double b) {
    double from = rightWeights[key];
    double to = nextLeftWeights[key];
    double u = from == EVEN && to == EVEN ? part : BezierTime.solve(part, from, 1 - to);
    if (from == EVEN && to == EVEN) {
      // The float is a little off a third, which would bend the line.
      from = 1 / 3.0;
      to = 1 / 3.0;
    }
    double p1 = a + rightSlopes[key] * from * span;
    double p2 = b - nextLeftSlopes[key] * to * span;
    return BezierTime.value(u, a, p1, p2, b);
  }

  /**
   * How fast the value changes at a time, per second; for keys whose handles have even lengths.
   *
   * @param before whether the side before the time is meant: they differ at a key
   */
  public double slope(double t, boolean before) {
    int last = seconds.length - 1;
    int key = Arrays.binarySearch(seconds, t);
    boolean atKey = key >= 0;
    key = atKey ? (before ? key - 1 : key) : -key - 2;
    if (key < 0 || key >= last || modes[key] <= HOLD_NEXT) {
      return 0;
    }
    double span = seconds[key + 1] - seconds[key];
    double rise = (values[key + 1] - values[key]) / span;
    if (modes[key] == LINE || span <= 0) {
      return span <= 0 ? 0 : rise;
    }
    double p = (t - seconds[key]) / span;
    return (6 * p - 6 * p * p) * rise
        + (3 * p * p - 4 * p + 1) * rightSlopes[key]
        + (3 * p * p - 2 * p) * nextLeftSlopes[key];
  }

  /** The same keys with values times a factor plus an offset. */
  public KeyCurve mapped(double factor, double offset) {
    if (factor == 1 && offset == 0) {
      return this;
    }
    double[] moved = new double[values.length];
    for (int i = 0; i < moved.length; i++) {
      moved[i] = factor * values[i] + offset;
    }
    return new KeyCurve(
        seconds,
        moved,
        modes,
        scaled(rightSlopes, factor),
        scaled(nextLeftSlopes, factor),
        rightWeights,
        nextLeftWeights);
  }

  private static float[] scaled(float[] slopes, double factor) {
    float[] result = new float[slopes.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = (float) (factor * slopes[i]);
    }
    return result;
  }
}
