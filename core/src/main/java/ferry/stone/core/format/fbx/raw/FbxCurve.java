package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.scene.time.KeyCurve;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Keys of one number as the format holds them: flags and handles are shared by runs of keys. */
public final class FbxCurve {
  private static final int CONSTANT = 0x2;
  private static final int LINEAR = 0x4;
  private static final int CUBIC = 0x8;
  private static final int CONSTANT_NEXT = 0x100;

  /** Slopes are as written, and differ on both sides of a key. */
  private static final int OWN_SLOPES = 0x400 | 0x800;

  private static final int WEIGHTED_RIGHT = 0x0100_0000;
  private static final int WEIGHTED_NEXT_LEFT = 0x0200_0000;

  /** Handle lengths are stored as ten-thousandths of the span. */
  private static final double WEIGHT_UNIT = 10_000;

  private static final int USUAL_WEIGHTS = 3333 << 16 | 3333;
  private static final int PER_KEY = 4;

  /** The bits of the smallest number that is no mere remnant. */
  private static final double SMALLEST_BITS = 1 << 23;

  private static final int VERSION = 4008;

  private FbxCurve() {}

  /**
   * Arrays that many curves of a take have alike, held once: most have keys at the same times, and
   * neither handles nor lengths of them.
   */
  public static final class Alike {
    private record Times(long[] ticks, double[] seconds) {}

    // The last ones of each length: curves of one joint often have many keys, and few.
    private final Map<Integer, Times> times = new HashMap<>();
    private final Map<Integer, float[]> flat = new HashMap<>();
    private final Map<Integer, float[]> even = new HashMap<>();

    /** Key times, {@code null} where they fall. */
    private double[] seconds(long[] ticks, int count) {
      Times last = times.get(count);
      if (last != null
          && (last.ticks == ticks || Arrays.equals(last.ticks, 0, count, ticks, 0, count))) {
        return last.seconds;
      }
      double[] seconds = new double[count];
      for (int i = 0; i < count; i++) {
        seconds[i] = ticks[i] / FbxSettings.TICKS_PER_SECOND;
        if (i > 0 && seconds[i] < seconds[i - 1]) {
          return null;
        }
      }
      times.put(count, new Times(ticks, seconds));
      return seconds;
    }

    private float[] flat(int count) {
      return flat.computeIfAbsent(count, float[]::new);
    }

    private float[] even(int count) {
      return even.computeIfAbsent(
          count,
          n -> {
            float[] even = new float[n];
            Arrays.fill(even, KeyCurve.EVEN);
            return even;
          });
    }
  }

  /**
   * The keys of a curve, or {@code null} when it has no usable ones.
   *
   * @param alike of the same take
   */
  public static KeyCurve read(FbxRecord record, Alike alike) {
    long[] ticks = record.at("KeyTime").longs();
    double[] numbers = record.at("KeyValueFloat").doubles();
    int count = Math.min(ticks.length, numbers.length);
    double[] seconds = count == 0 ? null : alike.seconds(ticks, count);
    if (seconds == null) {
      return null;
    }
    double[] values = numbers.length == count ? numbers : Arrays.copyOf(numbers, count);
    for (double value : values) {
      if (!Double.isFinite(value)) {
        return null;
      }
    }
    int[] flags = record.at("KeyAttrFlags").ints();
    double[] data = floats(record.at("KeyAttrDataFloat").doubles());
    KeyCurve curve =
        hasHandles(flags, data)
            ? KeyCurve.of(seconds, values)
            : new KeyCurve(
                seconds,
                values,
                new byte[count],
                alike.flat(count),
                alike.flat(count),
                alike.even(count),
                alike.even(count));
    attributes(flags, record.at("KeyAttrRefCount").ints(), data, curve);
    return curve;
  }

  /** Whether any key has a slope or a length of its own. */
  private static boolean hasHandles(int[] flags, double[] data) {
    for (int run = 0; run < flags.length && PER_KEY * run + 2 < data.length; run++) {
      if (data[PER_KEY * run] != 0
          || data[PER_KEY * run + 1] != 0
          || (flags[run] & (WEIGHTED_RIGHT | WEIGHTED_NEXT_LEFT)) != 0) {
        return true;
      }
    }
    return false;
  }

  private static void attributes(int[] written, int[] repeats, double[] data, KeyCurve curve) {
    int count = curve.seconds().length;
    int key = 0;
    for (int run = 0; run < written.length && key < count; run++) {
      int times = run < repeats.length ? Math.max(1, repeats[run]) : 1;
      int end = (int) Math.min(count, (long) key + times);
      Arrays.fill(curve.modes(), key, end, mode(written[run]));
      if (PER_KEY * run + 2 < data.length) {
        handles(curve, key, end, written[run], data, PER_KEY * run);
      }
      key = end;
    }
    Arrays.fill(curve.modes(), key, count, KeyCurve.LINE);
  }

  private static void handles(
      KeyCurve curve, int from, int to, int flags, double[] data, int place) {
    if (data[place] != 0) {
      Arrays.fill(curve.rightSlopes(), from, to, (float) data[place]);
    }
    if (data[place + 1] != 0) {
      Arrays.fill(curve.nextLeftSlopes(), from, to, (float) data[place + 1]);
    }
    // Two lengths are packed into the bits of one float; text shows them as a whole number.
    double packed = data[place + 2];
    int bits = packed >= 1 ? (int) packed : Float.floatToRawIntBits((float) packed);
    if ((flags & WEIGHTED_RIGHT) != 0) {
      Arrays.fill(curve.rightWeights(), from, to, (float) ((bits & 0xffff) / WEIGHT_UNIT));
    }
    if ((flags & WEIGHTED_NEXT_LEFT) != 0) {
      Arrays.fill(curve.nextLeftWeights(), from, to, (float) ((bits >>> 16) / WEIGHT_UNIT));
    }
  }

  /**
   * Text shows these numbers by their bits, as whole numbers, since two lengths are packed into the
   * bits of one of them: common practice, no source. Some writers show the slopes as they are.
   */
  private static double[] floats(double[] written) {
    boolean bits = false;
    for (int i = 0; i < written.length; i++) {
      if (written[i] != Math.rint(written[i])) {
        return written;
      }
      bits |= i % PER_KEY < 2 && Math.abs(written[i]) >= SMALLEST_BITS;
    }
    if (!bits) {
      return written;
    }
    double[] result = new double[written.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = Float.intBitsToFloat((int) (long) written[i]);
    }
    return result;
  }

  private static byte mode(int flags) {
    if ((flags & CONSTANT) != 0) {
      return (flags & CONSTANT_NEXT) != 0 ? KeyCurve.HOLD_NEXT : KeyCurve.HOLD;
    }
    return (flags & LINEAR) != 0 ? KeyCurve.LINE : KeyCurve.CURVE;
  }

  /** The curve as a record's children: times in ticks, values and handles as floats. */
  public static List<FbxRecord> write(KeyCurve curve) {
    int count = curve.seconds().length;
    long[] ticks = new long[count];
    float[] values = new float[count];
    int[] flags = new int[count];
    float[] data = new float[PER_KEY * count];
    int[] repeats = new int[count];
    int runs = 0;
    for (int k = 0; k < count; k++) {
      ticks[k] = FbxSettings.ticks(curve.seconds()[k]);
      values[k] = (float) curve.values()[k];
      int flag = flags(curve, k);
      boolean curved = curve.modes()[k] == KeyCurve.CURVE;
      float right = curved ? curve.rightSlopes()[k] : 0;
      float left = curved ? curve.nextLeftSlopes()[k] : 0;
      float weights = Float.intBitsToFloat(curved ? weights(curve, k) : USUAL_WEIGHTS);
      int last = PER_KEY * (runs - 1);
      if (runs > 0
          && flags[runs - 1] == flag
          && data[last] == right
          && data[last + 1] == left
          && Float.floatToRawIntBits(data[last + 2]) == Float.floatToRawIntBits(weights)) {
        repeats[runs - 1]++;
        continue;
      }
      flags[runs] = flag;
      data[PER_KEY * runs] = right;
      data[PER_KEY * runs + 1] = left;
      data[PER_KEY * runs + 2] = weights;
      repeats[runs++] = 1;
    }
    List<FbxRecord> children = new ArrayList<>();
    children.add(FbxBuild.record("Default", count == 0 ? 0.0 : (double) values[0]));
    children.add(FbxBuild.record("KeyVer", VERSION));
    children.add(FbxBuild.record("KeyTime", (Object) ticks));
    children.add(FbxBuild.record("KeyValueFloat", (Object) values));
    children.add(FbxBuild.record("KeyAttrFlags", (Object) Arrays.copyOf(flags, runs)));
    children.add(FbxBuild.record("KeyAttrDataFloat", (Object) Arrays.copyOf(data, PER_KEY * runs)));
    children.add(FbxBuild.record("KeyAttrRefCount", (Object) Arrays.copyOf(repeats, runs)));
    return children;
  }

  private static int flags(KeyCurve curve, int key) {
    return switch (curve.modes()[key]) {
      case KeyCurve.HOLD -> CONSTANT;
      case KeyCurve.HOLD_NEXT -> CONSTANT | CONSTANT_NEXT;
      case KeyCurve.LINE -> LINEAR;
      default ->
          CUBIC
              | OWN_SLOPES
              | (curve.rightWeights()[key] == KeyCurve.EVEN ? 0 : WEIGHTED_RIGHT)
              | (curve.nextLeftWeights()[key] == KeyCurve.EVEN ? 0 : WEIGHTED_NEXT_LEFT);
    };
  }

  private static int weights(KeyCurve curve, int key) {
    int right = (int) Math.round(curve.rightWeights()[key] * WEIGHT_UNIT);
    int left = (int) Math.round(curve.nextLeftWeights()[key] * WEIGHT_UNIT);
    return (left & 0xffff) << 16 | right & 0xffff;
  }
}
