package ferry.stone.core.texture;

/** Multiplies a factor into an image. */
public final class Tint {
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
    int most = image.most();
    int[][] tables = new int[3][most + 1];
    for (int c = 0; c < 3; c++) {
      double f = factor[Math.min(c, factor.length - 1)];
      double light = colour && !linear ? ColourSpace.toLinear(f) : f;
      for (int v = 0; v <= most; v++) {
        double stored = (double) v / most;
        double out =
            colour ? ColourSpace.toSrgb(ColourSpace.toLinear(stored) * light) : stored * light;
        tables[c][v] = (int) Math.round(most * Math.max(0, Math.min(1, out)));
      }
    }
    PixelSink out = new PixelSink(image.width(), image.height(), most);
    for (int i = 0; i < image.argb().length; i++) {
      out.put(
          i,
          image.get(i, 'a', most),
          tables[0][image.get(i, 'r', most)],
          tables[1][image.get(i, 'g', most)],
          tables[2][image.get(i, 'b', most)]);
    }
    return out.pixels(image.hasAlpha());
  }
}
