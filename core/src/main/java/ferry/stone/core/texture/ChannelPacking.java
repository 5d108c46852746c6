package ferry.stone.core.texture;

/**
 * Puts channels of several images into one; sizes are brought to the larger one, pixel by pixel.
 */
public final class ChannelPacking {
  private static final int FULL = 255;

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
    int[] out = new int[larger.width() * larger.height()];
    for (int y = 0, i = 0; y < larger.height(); y++) {
      for (int x = 0; x < larger.width(); x++, i++) {
        int g = value(roughness, roughnessPart, x, y, larger);
        if (exponent > 0 && roughness != null) {
          g =
              (int)
                  Math.round(
                      FULL * PbrTranslation.roughnessOfExponent(exponent * g / (double) FULL));
        }
        int b = value(metallic, metallicPart, x, y, larger);
        out[i] = 0xffff0000 | (g << 8) | b;
      }
    }
    return new Pixels(larger.width(), larger.height(), out, false);
  }

  /**
   * The base colour with opacity as its alpha.
   *
   * @param base or {@code null} for white
   */
  public static Pixels withAlpha(Pixels base, Pixels opacity, char part) {
    Pixels larger = larger(base, opacity);
    char read = part != 0 ? part : opacity.hasAlpha() && usesAlpha(opacity) ? 'a' : 'l';
    int[] out = new int[larger.width() * larger.height()];
    for (int y = 0, i = 0; y < larger.height(); y++) {
      for (int x = 0; x < larger.width(); x++, i++) {
        int rgb =
            base == null
                ? 0xffffff
                : base.argb()[base.indexFor(x, y, larger.width(), larger.height())] & 0xffffff;
        out[i] = (value(opacity, read, x, y, larger) << 24) | rgb;
      }
    }
    return new Pixels(larger.width(), larger.height(), out, true);
  }

  /**
   * One part of an image as grey.
   *
   * @param part r, g, b or a
   */
  public static Pixels grey(Pixels image, char part) {
    int[] out = new int[image.width() * image.height()];
    for (int i = 0; i < out.length; i++) {
      out[i] = 0xff000000 | 0x10101 * image.get(i, part);
    }
    return new Pixels(image.width(), image.height(), out, false);
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
      if (p >>> 24 != FULL) {
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

  private static int value(Pixels pixels, char part, int x, int y, Pixels size) {
    return pixels == null
        ? FULL
        : pixels.get(pixels.indexFor(x, y, size.width(), size.height()), part);
  }
}
