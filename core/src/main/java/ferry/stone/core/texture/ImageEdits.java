package ferry.stone.core.texture;

/** Images made of one other image. */
public final class ImageEdits {
  private ImageEdits() {}

  /** A rectangle of an image, every pixel as it is. */
  public static Pixels part(Pixels image, int left, int top, int width, int height) {
    int most = image.most();
    PixelSink out = new PixelSink(width, height, most);
    for (int i = 0; i < width * height; i++) {
      int from = (top + i / width) * image.width() + left + i % width;
      out.put(
          i,
          image.get(from, 'a', most),
          image.get(from, 'r', most),
          image.get(from, 'g', most),
          image.get(from, 'b', most));
    }
    return out.pixels(image.hasAlpha());
  }

  /** A normal map whose green points the other way: up where it pointed down. */
  public static Pixels greenTurned(Pixels image) {
    int most = image.most();
    PixelSink out = new PixelSink(image.width(), image.height(), most);
    for (int i = 0; i < image.argb().length; i++) {
      out.put(
          i,
          image.get(i, 'a', most),
          image.get(i, 'r', most),
          most - image.get(i, 'g', most),
          image.get(i, 'b', most));
    }
    return out.pixels(image.hasAlpha());
  }

  /**
   * The opposite of data in grey: roughness of gloss and the other way round.
   *
   * @param part r, g, b, a or l as in a texture use; 0 for the brightness
   */
  public static Pixels opposite(Pixels image, char part) {
    int most = image.most();
    PixelSink out = new PixelSink(image.width(), image.height(), most);
    char read = part == 0 ? 'l' : part;
    for (int i = 0; i < image.argb().length; i++) {
      int value = most - image.get(i, read, most);
      out.put(i, most, value, value, value);
    }
    return out.pixels(false);
  }
}
