package ferry.stone.core.texture;

/** sRGB to linear light and back, IEC 61966-2-1:1999. */
public final class ColourSpace {
  private ColourSpace() {}

  /** From a stored sRGB value, 0 to 1; values outside are carried on by the same curve. */
  public static double toLinear(double srgb) {
    return srgb <= 0.04045 ? srgb / 12.92 : Math.pow((srgb + 0.055) / 1.055, 2.4);
  }

  public static double toSrgb(double linear) {
    return linear <= 0.0031308 ? linear * 12.92 : 1.055 * Math.pow(linear, 1 / 2.4) - 0.055;
  }

  /** The first three of a colour, to linear. */
  public static double[] toLinear(double[] srgb) {
    return new double[] {toLinear(srgb[0]), toLinear(srgb[1]), toLinear(srgb[2])};
  }
}
