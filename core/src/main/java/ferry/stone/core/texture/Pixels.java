package ferry.stone.core.texture;

/**
 * An image in memory.
 *
 * @param argb {@code int[width*height]}, 8 bits a channel, not premultiplied, top row first
 * @param hasAlpha whether the file had an alpha channel
 */
public record Pixels(int width, int height, int[] argb, boolean hasAlpha) {

  /** A channel of a pixel, 0 to 255; {@code component} as in a texture use. */
  public int get(int index, char component) {
    int p = argb[index];
    return switch (component) {
      case 'r' -> (p >> 16) & 0xff;
      case 'g' -> (p >> 8) & 0xff;
      case 'b' -> p & 0xff;
      case 'a', 'm' -> p >>> 24;
      // Rec. 709 luma weights on the stored values.
      default ->
          (int)
              Math.round(
                  0.2126 * ((p >> 16) & 0xff) + 0.7152 * ((p >> 8) & 0xff) + 0.0722 * (p & 0xff));
    };
  }

  /** The pixel nearest to a place of another image of other size. */
  int indexFor(int x, int y, int otherWidth, int otherHeight) {
    int sx = (int) ((x + 0.5) * width / otherWidth);
    int sy = (int) ((y + 0.5) * height / otherHeight);
    return Math.min(height - 1, sy) * width + Math.min(width - 1, sx);
  }
}
