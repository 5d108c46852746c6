package ferry.stone.core.texture;

/** Multiplies a factor into an image. */
public final class Tint {
  private static final double FULL = 255;

  private Tint() {}

  /**
   * The image times a factor; alpha stays.
   *
   * @param factor one number for all three, or three, 0 to 1
   * @param colour whether the image is sRGB colour, which is multiplied as linear light (IEC
   *     61966-2-1); data is multiplied as it is
   * @param linear whether a colour's factor is linear already; sRGB numbers otherwise
   */
  public static Pixels of(Pixels image, double[] factor, boolean colour, boolean linear) {
    int[][] tables = new int[3][256];
    for (int c = 0; c < 3; c++) {
      double f = factor[Math.min(c, factor.length - 1)];
      double light = colour && !linear ? ColourSpace.toLinear(f) : f;
      for (int v = 0; v < 256; v++) {
        double out =
            colour ? ColourSpace.toSrgb(ColourSpace.toLinear(v / FULL) * light) : v / FULL * light;
        tables[c][v] = (int) Math.round(FULL * Math.max(0, Math.min(1, out)));
      }
    }
    int[] argb = new int[image.argb().length];
    for (int i = 0; i < argb.length; i++) {
      int p = image.argb()[i];
      argb[i] =
          (p & 0xff000000)
              | tables[0][p >> 16 & 0xff] << 16
              | tables[1][p >> 8 & 0xff] << 8
              | tables[2][p & 0xff];
    }
    return new Pixels(image.width(), image.height(), argb, image.hasAlpha());
  }
}
