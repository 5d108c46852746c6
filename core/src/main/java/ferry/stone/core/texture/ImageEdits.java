package ferry.stone.core.texture;

/** Images made of one other image. */
public final class ImageEdits {
  private static final int FULL = 255;

  private ImageEdits() {}

  /** A normal map whose green points the other way: up where it pointed down. */
  public static Pixels greenTurned(Pixels image) {
    int[] out = new int[image.argb().length];
    for (int i = 0; i < out.length; i++) {
      int p = image.argb()[i];
      out[i] = (p & 0xffff00ff) | (FULL - (p >> 8 & 0xff)) << 8;
    }
    return new Pixels(image.width(), image.height(), out, image.hasAlpha());
  }

  /**
   * The opposite of data in grey: roughness of gloss and the other way round.
   *
   * @param part r, g, b, a or l as in a texture use; 0 for the brightness
   */
  public static Pixels opposite(Pixels image, char part) {
    int[] out = new int[image.argb().length];
    char read = part == 0 ? 'l' : part;
    for (int i = 0; i < out.length; i++) {
      out[i] = 0xff000000 | 0x10101 * (FULL - image.get(i, read));
    }
    return new Pixels(image.width(), image.height(), out, false);
  }
}
