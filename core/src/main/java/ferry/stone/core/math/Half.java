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
}
