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
  public static PartSource constant(double value) {
    return new PartSource(null, (char) 0, false, value);
  }

  /**
   * An image of four parts, as large as the largest of its sources; of smaller ones each pixel is
   * repeated, so that what is only packed keeps its very values. One source of 16 bits makes an
   * image of 16 bits.
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
    Pixels of = alpha == null ? null : alpha.pixels;
    int most = Pixels.most(red.pixels, green.pixels, blue.pixels, of);
    PixelSink out = new PixelSink(width, height, most);
    for (int i = 0; i < width * height; i++) {
      int x = i % width;
      int y = i / width;
      out.put(
          i,
          alpha == null ? most : alpha.at(x, y, width, height, most),
          red.at(x, y, width, height, most),
          green.at(x, y, width, height, most),
          blue.at(x, y, width, height, most));
    }
    return out.pixels(alpha != null);
  }

  private int at(int x, int y, int width, int height, int most) {
    int stored = most;
    if (pixels != null) {
      stored = pixels.get(pixels.indexFor(x, y, width, height), part == 0 ? 'l' : part, most);
    }
    int scaled = (int) Math.round(stored * value);
    return inverted ? most - scaled : scaled;
  }
}
