package ferry.stone.core.texture;

/**
 * An image in memory.
 *
 * @param argb {@code int[width*height]}, 8 bits a channel, not premultiplied, top row first
 * @param hasAlpha whether the file had an alpha channel
 * @param deep {@code short[4*width*height]}, the same with 16 bits a channel, red, green, blue,
 *     alpha, where the file had more than 8; else {@code null}
 */
public record Pixels(int width, int height, int[] argb, boolean hasAlpha, short[] deep) {
  /** Full in a channel of 8 bits. */
  public static final int FULL = 255;

  /** Full in a channel of 16 bits. */
  public static final int DEEP = 65_535;

  /** An image of 8 bits a channel. */
  public Pixels(int width, int height, int[] argb, boolean hasAlpha) {
    this(width, height, argb, hasAlpha, null);
  }

  /** Whether there are more than 8 bits a channel. */
  public boolean isDeep() {
    return deep != null;
  }

  /** Full in one of its channels. */
  public int most() {
    return deep == null ? FULL : DEEP;
  }

  /** A channel of a pixel, 0 to 255; {@code component} as in a texture use. */
  public int get(int index, char component) {
    int p = argb[index];
    return switch (component) {
      case 'r' -> (p >> 16) & 0xff;
      case 'g' -> (p >> 8) & 0xff;
      case 'b' -> p & 0xff;
      case 'a', 'm' -> p >>> 24;
      default -> luma((p >> 16) & 0xff, (p >> 8) & 0xff, p & 0xff);
    };
  }

  /**
   * The same, 0 to {@code most}.
   *
   * @param most {@link #FULL} or {@link #DEEP}
   */
  public int get(int index, char component, int most) {
    if (most == FULL) {
      return get(index, component);
    }
    if (deep == null) {
      return DEEP / FULL * get(index, component);
    }
    int at = 4 * index;
    return switch (component) {
      case 'r' -> deep[at] & 0xffff;
      case 'g' -> deep[at + 1] & 0xffff;
      case 'b' -> deep[at + 2] & 0xffff;
      case 'a', 'm' -> deep[at + 3] & 0xffff;
      default -> luma(deep[at] & 0xffff, deep[at + 1] & 0xffff, deep[at + 2] & 0xffff);
    };
  }

  /** Rec. 709 luma weights on the stored values. */
  private static int luma(int r, int g, int b) {
    return (int) Math.round(0.2126 * r + 0.7152 * g + 0.0722 * b);
  }

  /** Full in an image made of some, each of which may be {@code null}. */
  static int most(Pixels... of) {
    for (Pixels pixels : of) {
      if (pixels != null && pixels.isDeep()) {
        return DEEP;
      }
    }
    return FULL;
  }

  /** The pixel nearest to a place of another image of other size. */
  public int indexFor(int x, int y, int otherWidth, int otherHeight) {
    int sx = (int) ((x + 0.5) * width / otherWidth);
    int sy = (int) ((y + 0.5) * height / otherHeight);
    return Math.min(height - 1, sy) * width + Math.min(width - 1, sx);
  }
}
