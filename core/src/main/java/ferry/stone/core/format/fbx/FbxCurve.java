package ferry.stone.core.format.fbx;

import java.util.Arrays;

/**
 * One number over time: keys that hold, run straight, or run along a Bézier curve whose handles
 * have slopes and, where a key says so, lengths of their own.
 */
final class FbxCurve {
  private static final int CONSTANT = 0x2;
  private static final int LINEAR = 0x4;
  private static final int CONSTANT_NEXT = 0x100;
  private static final int WEIGHTED_RIGHT = 0x0100_0000;
  private static final int WEIGHTED_NEXT_LEFT = 0x0200_0000;
  private static final double USUAL_WEIGHT = 1 / 3.0;

  /** Handle lengths are stored as ten-thousandths of the span. */
  private static final double WEIGHT_UNIT = 10_000;

  private static final int PER_KEY = 4;

  /** How long a jump takes where it has to be a line, in seconds. */
  private static final double JUMP = 1e-5;

  private final double[] seconds;
  private final double[] values;
  private final int[] flags;
  private final float[] right;
  private final float[] nextLeft;
  private final float[] rightWeight;
  private final float[] nextLeftWeight;

  private FbxCurve(double[] seconds, double[] values) {
    this.seconds = seconds;
    this.values = values;
    flags = new int[seconds.length];
    right = new float[seconds.length];
    nextLeft = new float[seconds.length];
    rightWeight = new float[seconds.length];
    nextLeftWeight = new float[seconds.length];
  }

  /** A curve of an object, or {@code null} when it has no usable keys. */
  static FbxCurve read(FbxRecord record) {
    long[] ticks = record.at("KeyTime").longs();
    double[] numbers = record.at("KeyValueFloat").doubles();
    int count = Math.min(ticks.length, numbers.length);
    if (count == 0) {
      return null;
    }
    double[] seconds = new double[count];
    for (int i = 0; i < count; i++) {
      seconds[i] = ticks[i] / FbxSettings.TICKS_PER_SECOND;
      if (i > 0 && seconds[i] < seconds[i - 1] || !Double.isFinite(numbers[i])) {
        return null;
      }
    }
    FbxCurve curve = new FbxCurve(seconds, Arrays.copyOf(numbers, count));
    curve.attributes(record);
    return curve;
  }

  /** Flags and handles are shared by runs of keys. */
  private void attributes(FbxRecord record) {
    int[] written = record.at("KeyAttrFlags").ints();
    int[] repeats = record.at("KeyAttrRefCount").ints();
    double[] data = record.at("KeyAttrDataFloat").doubles();
    int key = 0;
    for (int run = 0; run < written.length && key < flags.length; run++) {
      int times = run < repeats.length ? Math.max(1, repeats[run]) : 1;
      for (int i = 0; i < times && key < flags.length; i++, key++) {
        flags[key] = written[run];
        if (PER_KEY * run + 2 < data.length) {
          right[key] = (float) data[PER_KEY * run];
          nextLeft[key] = (float) data[PER_KEY * run + 1];
          // Two lengths are packed into the bits of one float; text shows them as a whole number.
          double packed = data[PER_KEY * run + 2];
          int bits = packed >= 1 ? (int) packed : Float.floatToRawIntBits((float) packed);
          rightWeight[key] = (float) ((bits & 0xffff) / WEIGHT_UNIT);
          nextLeftWeight[key] = (float) ((bits >>> 16) / WEIGHT_UNIT);
        }
      }
    }
    while (key > 0 && key < flags.length) {
      flags[key] = LINEAR;
      key++;
    }
    if (written.length == 0) {
      Arrays.fill(flags, LINEAR);
    }
  }

  double[] seconds() {
    return seconds;
  }

  /** Moments just before a held value jumps to the next. */
  java.util.List<Double> beforeJumps() {
    java.util.List<Double> moments = new java.util.ArrayList<>();
    for (int k = 0; k + 1 < seconds.length; k++) {
      if ((flags[k] & CONSTANT) != 0 && seconds[k + 1] - seconds[k] > 2 * JUMP) {
        moments.add((flags[k] & CONSTANT_NEXT) != 0 ? seconds[k] + JUMP : seconds[k + 1] - JUMP);
      }
    }
    return moments;
  }

  /** The value at a time; the first and last keys hold before and after. */
  double at(double t) {
    int last = seconds.length - 1;
    int key = Arrays.binarySearch(seconds, t);
    key = key >= 0 ? key : -key - 2;
    if (key < 0 || key >= last) {
      return values[Math.max(0, Math.min(last, key))];
    }
    double span = seconds[key + 1] - seconds[key];
    if (span <= 0) {
      return values[key];
    }
    double part = (t - seconds[key]) / span;
    if ((flags[key] & CONSTANT) != 0) {
      return (flags[key] & CONSTANT_NEXT) != 0 && part > 0 ? values[key + 1] : values[key];
    }
    double a = values[key];
    double b = values[key + 1];
    if ((flags[key] & LINEAR) != 0) {
      return a + part * (b - a);
    }
    double from = (flags[key] & WEIGHTED_RIGHT) != 0 ? rightWeight[key] : USUAL_WEIGHT;
    double to = (flags[key] & WEIGHTED_NEXT_LEFT) != 0 ? nextLeftWeight[key] : USUAL_WEIGHT;
    double u = from == USUAL_WEIGHT && to == USUAL_WEIGHT ? part : solve(part, from, 1 - to);
    double p1 = a + right[key] * from * span;
    double p2 = b - nextLeft[key] * to * span;
    double v = 1 - u;
    return v * v * v * a + 3 * v * v * u * p1 + 3 * v * u * u * p2 + u * u * u * b;
  }

  /**
   * Where along the Bézier curve its time is {@code part}: time rises along it, so halving finds
   * it.
   */
  private static double solve(double part, double x1, double x2) {
    double low = 0;
    double high = 1;
    for (int i = 0; i < 60; i++) {
      double u = (low + high) / 2;
      double v = 1 - u;
      double x = 3 * v * v * u * x1 + 3 * v * u * u * x2 + u * u * u;
      if (x < part) {
        low = u;
      } else {
        high = u;
      }
    }
    return (low + high) / 2;
  }
}
