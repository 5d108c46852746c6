package ferry.stone.core.math;

/** Numbers of 16 bits: binary16 of IEEE 754-2019, 3.6. */
public final class Half {
  private static final int BIAS_DIFFERENCE = 127 - 15;

  private Half() {}

  /** The number, exactly. */
  public static float toFloat(short half) {
    int sign = (half & 0x8000) << 16;
    int exponent = half >>> 10 & 0x1f;
    int fraction = half & 0x3ff;
    if (exponent == 0) {
      // Below the smallest normal number: steps of 2^-24.
      float value = fraction * 0x1p-24f;
      return sign == 0 ? value : -value;
    }
    int widened = exponent == 0x1f ? 0xff : exponent + BIAS_DIFFERENCE;
    return Float.intBitsToFloat(sign | widened << 23 | fraction << 13);
  }

  /** The nearest half to a number, ties to even; beyond the largest it is infinite. */
  public static short of(float value) {
    int bits = Float.floatToIntBits(value);
    int sign = bits >>> 16 & 0x8000;
    int size = bits & 0x7fff_ffff;
    if (size >= 0x7f80_0000) {
      return (short) (sign | 0x7c00 | (size > 0x7f80_0000 ? 0x200 : 0));
    }
    if (size < 0x3880_0000) {
      // Below the smallest normal one: steps of 2 to the -24.
      return (short) (sign | (int) Math.rint(Math.abs((double) value) * (1 << 24)));
    }
    int rounded = size - 0x3800_0000 + 0xfff + (size >>> 13 & 1);
    return (short) (sign | Math.min(rounded >>> 13, 0x7c00));
  }
}
