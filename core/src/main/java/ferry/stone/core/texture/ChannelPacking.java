package ferry.stone.core.texture;

/**
 * Puts channels of several images into one; sizes are brought to the larger one, pixel by pixel.
 */
public final class ChannelPacking {
  private ChannelPacking() {}

  /**
   * Red occlusion (left at full), green roughness, blue metallic, as glTF 2.0 section 3.9.2 wants.
   *
   * @param roughness or {@code null} for full
   * @param exponent above 0: {@code roughness} holds factors of this Phong exponent instead
   * @param metallic or {@code null} for full
   */
  public static Pixels metallicRoughness(
      Pixels roughness, char roughnessPart, double exponent, Pixels metallic, char metallicPart) {
    Pixels larger = larger(roughness, metallic);
    int most = Pixels.most(roughness, metallic);
    PixelSink out = new PixelSink(larger.width(), larger.height(), most);
    for (int y = 0, i = 0; y < larger.height(); y++) {
      for (int x = 0; x < larger.width(); x++, i++) {
        int g = value(roughness, roughnessPart, x, y, larger, most);
        if (exponent > 0 && roughness != null) {
          double shininess = exponent * g / most;
          g = (int) Math.round(most * PbrTranslation.roughnessOfExponent(shininess));
        }
        out.put(i, most, most, g, value(metallic, metallicPart, x, y, larger, most));
      }
    }
    return out.pixels(false);
  }

  /**
   * The base colour with opacity as its alpha.
   *
   * @param base or {@code null} for white
   */
  public static Pixels withAlpha(Pixels base, Pixels opacity, char part) {
    Pixels larger = larger(base, opacity);
    char read = part != 0 ? part : opacity.hasAlpha() && usesAlpha(opacity) ? 'a' : 'l';
    int most = Pixels.most(base, opacity);
    PixelSink out = new PixelSink(larger.width(), larger.height(), most);
    for (int y = 0, i = 0; y < larger.height(); y++) {
      for (int x = 0; x < larger.width(); x++, i++) {
        out.put(
            i,
            value(opacity, read, x, y, larger, most),
            value(base, 'r', x, y, larger, most),
            value(base, 'g', x, y, larger, most),
            value(base, 'b', x, y, larger, most));
      }
    }
    return out.pixels(true);
  }

  /**
   * One part of an image as grey.
   *
   * @param part r, g, b or a
   */
  public static Pixels grey(Pixels image, char part) {
    int most = image.most();
    PixelSink out = new PixelSink(image.width(), image.height(), most);
    for (int i = 0; i < image.argb().length; i++) {
      int value = image.get(i, part, most);
      out.put(i, most, value, value, value);
    }
    return out.pixels(false);
  }

  /** Whether almost every pixel is either clear or solid: a cut-out rather than a glass. */
  public static boolean isCutOut(Pixels pixels) {
    long between = 0;
    for (int p : pixels.argb()) {
      int a = p >>> 24;
      between += a > 8 && a < 247 ? 1 : 0;
    }
    return between <= pixels.argb().length / 50;
  }

  private static boolean usesAlpha(Pixels pixels) {
    for (int p : pixels.argb()) {
      if (p >>> 24 != Pixels.FULL) {
        return true;
      }
    }
    return false;
  }

  private static Pixels larger(Pixels a, Pixels b) {
    if (a == null || b == null) {
      return a == null ? b : a;
    }
    return (long) a.width() * a.height() >= (long) b.width() * b.height() ? a : b;
  }

  private static int value(Pixels pixels, char part, int x, int y, Pixels size, int most) {
    return pixels == null
        ? most
        : pixels.get(pixels.indexFor(x, y, size.width(), size.height()), part, most);
  }
}
