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

  /** A linear colour as a style sheet writes it, {@code #rrggbb}; values outside are cut. */
  public static String hex(double[] linear) {
    StringBuilder text = new StringBuilder("#");
    for (int k = 0; k < 3; k++) {
      double v = Math.max(0, Math.min(1, toSrgb(linear[k])));
      text.append(String.format("%02x", Math.round(v * 255)));
    }
    return text.toString();
  }

  /** The first three of a colour, to linear. */
  public static double[] toLinear(double[] srgb) {
    return new double[] {toLinear(srgb[0]), toLinear(srgb[1]), toLinear(srgb[2])};
  }
}
