package ferry.stone.core.texture;

/**
 * Where one part (red, green, blue or alpha) of an image comes from.
 *
 * @param pixels or {@code null} for one value everywhere
 * @param part r, g, b or a of them; 0 for the brightness
 * @param inverted whether it is the opposite
 * @param value 0 to 1: the value everywhere, or what the pixels are multiplied by
 */
public record PartSource(Pixels pixels, char part, boolean inverted, double value) {
  private static final int FULL = 255;

  public static PartSource constant(double value) {
    return new PartSource(null, (char) 0, false, value);
  }

  /**
   * An image of four parts, as large as the largest of its sources; of smaller ones each pixel is
   * repeated, so that what is only packed keeps its very values.
   *
   * @param alpha {@code null} for an image without
   */
  public static Pixels pack(PartSource red, PartSource green, PartSource blue, PartSource alpha) {
    int width = 1;
    int height = 1;
    for (PartSource source : new PartSource[] {red, green, blue, alpha}) {
      if (source != null && source.pixels != null) {
        width = Math.max(width, source.pixels.width());
        height = Math.max(height, source.pixels.height());
      }
    }
    int[] argb = new int[Math.multiplyExact(width, height)];
    for (int y = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        int a = alpha == null ? FULL : alpha.at(x, y, width, height);
        argb[y * width + x] =
            a << 24
                | red.at(x, y, width, height) << 16
                | green.at(x, y, width, height) << 8
                | blue.at(x, y, width, height);
      }
    }
    return new Pixels(width, height, argb, alpha != null);
  }

  private int at(int x, int y, int width, int height) {
    int stored = FULL;
    if (pixels != null) {
      stored = pixels.get(pixels.indexFor(x, y, width, height), part == 0 ? 'l' : part);
    }
    int scaled = (int) Math.round(stored * value);
    return inverted ? FULL - scaled : scaled;
  }
}
