package ferry.stone.core.texture;

/** An image that is being made, of 8 or of 16 bits a channel. */
public final class PixelSink {
  private final int width;
  private final int height;
  private final int[] argb;
  private final short[] deep;

  /**
   * @param most {@link Pixels#FULL} or {@link Pixels#DEEP}
   */
  public PixelSink(int width, int height, int most) {
    this.width = width;
    this.height = height;
    int count = Math.multiplyExact(width, height);
    argb = new int[count];
    deep = most == Pixels.DEEP ? new short[Math.multiplyExact(4, count)] : null;
  }

  /** Sets a pixel; values from 0 to full. */
  public void put(int index, int alpha, int red, int green, int blue) {
    if (deep == null) {
      argb[index] = alpha << 24 | red << 16 | green << 8 | blue;
      return;
    }
    int at = 4 * index;
    deep[at] = (short) red;
    deep[at + 1] = (short) green;
    deep[at + 2] = (short) blue;
    deep[at + 3] = (short) alpha;
    argb[index] = eight(alpha) << 24 | eight(red) << 16 | eight(green) << 8 | eight(blue);
  }

  private static int eight(int value) {
    return (value + 128) / 257;
  }

  public Pixels pixels(boolean hasAlpha) {
    return new Pixels(width, height, argb, hasAlpha, deep);
  }
}
