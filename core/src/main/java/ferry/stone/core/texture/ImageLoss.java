package ferry.stone.core.texture;

/** What was lost of an image that became smaller or was packed otherwise. */
public final class ImageLoss {
  private static final int STRONGER = 8;

  private ImageLoss() {}

  /**
   * Peak signal-to-noise ratio in decibels, 10 log₁₀(255² / mean squared difference), over red,
   * green, blue and alpha; the smaller image is read between its pixels, as a renderer does.
   *
   * @return infinite where nothing differs
   */
  public static double decibels(Pixels before, Pixels after) {
    double sum = 0;
    int w = before.width();
    int h = before.height();
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        double u = (x + 0.5) * after.width() / w - 0.5;
        double v = (y + 0.5) * after.height() / h - 0.5;
        int p = before.argb()[y * w + x];
        for (int shift = 0; shift <= 24; shift += 8) {
          double off = (p >> shift & 0xff) - between(after, u, v, shift);
          sum += off * off;
        }
      }
    }
    double mean = sum / (4.0 * w * h);
    return mean == 0 ? Double.POSITIVE_INFINITY : 10 * Math.log10(255 * 255 / mean);
  }

  /**
   * Where two images differ: each channel's difference eight times as strong, black where nothing
   * does; as large as the first. Alpha counts in all three.
   */
  public static Pixels picture(Pixels before, Pixels after) {
    int w = before.width();
    int h = before.height();
    int[] out = new int[w * h];
    for (int i = 0; i < out.length; i++) {
      double u = (i % w + 0.5) * after.width() / w - 0.5;
      double v = (i / w + 0.5) * after.height() / h - 0.5;
      int p = before.argb()[i];
      double alpha = Math.abs((p >>> 24) - between(after, u, v, 24));
      int shown = 0xff000000;
      for (int shift = 0; shift < 24; shift += 8) {
        double off = Math.max(alpha, Math.abs((p >> shift & 0xff) - between(after, u, v, shift)));
        shown |= (int) Math.min(255, Math.round(STRONGER * off)) << shift;
      }
      out[i] = shown;
    }
    return new Pixels(w, h, out, false);
  }

  private static double between(Pixels image, double u, double v, int shift) {
    int x = (int) Math.floor(u);
    int y = (int) Math.floor(v);
    double fx = u - x;
    double fy = v - y;
    return (1 - fy) * ((1 - fx) * at(image, x, y, shift) + fx * at(image, x + 1, y, shift))
        + fy * ((1 - fx) * at(image, x, y + 1, shift) + fx * at(image, x + 1, y + 1, shift));
  }

  private static int at(Pixels image, int x, int y, int shift) {
    int cx = Math.max(0, Math.min(image.width() - 1, x));
    int cy = Math.max(0, Math.min(image.height() - 1, y));
    return image.argb()[cy * image.width() + cx] >> shift & 0xff;
  }
}
