package ferry.stone.core.texture;

/**
 * Specular-glossiness to metallic-roughness and back, in linear light, after the conversion that
 * KHR_materials_pbrSpecularGlossiness points to ("convert-between-workflows"): the metal is solved
 * from how bright the diffuse and the specular colour are seen, with 0.04 as the reflectance of
 * what is no metal.
 */
public final class SpecularGlossiness {
  private static final double DIELECTRIC = 0.04;
  private static final double TINY = 1e-6;

  private SpecularGlossiness() {}

  /**
   * @param baseColour linear red, green, blue
   */
  public record MetallicRoughness(double[] baseColour, double metallic, double roughness) {}

  /**
   * @param diffuse linear red, green, blue
   * @param specular likewise
   */
  public record Specular(double[] diffuse, double[] specular, double glossiness) {}

  /**
   * Images of a material.
   *
   * @param baseColour sRGB, with the diffuse image's alpha
   * @param roughMetal roughness in green, metallic in blue
   * @param off mean difference of the colours that either model reflects, 0 to 1
   */
  public record Images(Pixels baseColour, Pixels roughMetal, double off) {}

  public static MetallicRoughness toMetallic(Specular from) {
    double[] diffuse = from.diffuse();
    double[] specular = from.specular();
    double rest = 1 - most(specular);
    double metallic = metallic(brightness(diffuse), brightness(specular), rest);
    double[] base = new double[3];
    for (int c = 0; c < 3; c++) {
      double byDiffuse = diffuse[c] * rest / (1 - DIELECTRIC) / Math.max(1 - metallic, TINY);
      double bySpecular = (specular[c] - DIELECTRIC * (1 - metallic)) / Math.max(metallic, TINY);
      double mix = metallic * metallic;
      base[c] = unit(byDiffuse * (1 - mix) + bySpecular * mix);
    }
    return new MetallicRoughness(base, metallic, 1 - unit(from.glossiness()));
  }

  public static Specular toSpecular(MetallicRoughness from) {
    double[] diffuse = new double[3];
    double[] specular = new double[3];
    for (int c = 0; c < 3; c++) {
      specular[c] = DIELECTRIC * (1 - from.metallic()) + from.baseColour()[c] * from.metallic();
    }
    double rest = Math.max(1 - most(specular), TINY);
    for (int c = 0; c < 3; c++) {
      diffuse[c] = unit(from.baseColour()[c] * (1 - DIELECTRIC) * (1 - from.metallic()) / rest);
    }
    return new Specular(diffuse, specular, 1 - from.roughness());
  }

  /** How far apart what both reflect is, diffuse and specular, the mean of all parts. */
  public static double off(Specular a, Specular b) {
    double sum = 0;
    for (int c = 0; c < 3; c++) {
      sum += Math.abs(a.specular()[c] - b.specular()[c]);
      sum +=
          Math.abs(
              a.diffuse()[c] * (1 - most(a.specular()))
                  - b.diffuse()[c] * (1 - most(b.specular())));
    }
    return sum / 6;
  }

  /**
   * Images with the factors that multiply them.
   *
   * @param diffuse sRGB with opacity, or {@code null} for white
   * @param specular sRGB with glossiness as alpha, or {@code null} for white
   * @param factors linear, by which both are multiplied
   */
  public static Images images(Pixels diffuse, Pixels specular, Specular factors) {
    boolean first =
        specular == null
            || diffuse != null
                && (long) diffuse.width() * diffuse.height()
                    >= (long) specular.width() * specular.height();
    Pixels size = first ? diffuse : specular;
    int w = size.width();
    int h = size.height();
    int most = Pixels.most(diffuse, specular);
    PixelSink base = new PixelSink(w, h, most);
    PixelSink packed = new PixelSink(w, h, most);
    double[] linear = new double[most + 1];
    for (int i = 0; i <= most; i++) {
      linear[i] = ColourSpace.toLinear((double) i / most);
    }
    double off = 0;
    double[] d = new double[3];
    double[] s = new double[3];
    for (int y = 0, i = 0; y < h; y++) {
      for (int x = 0; x < w; x++, i++) {
        for (int c = 0; c < 3; c++) {
          char part = "rgb".charAt(c);
          d[c] = factors.diffuse()[c] * linear[stored(diffuse, part, x, y, size, most)];
          s[c] = factors.specular()[c] * linear[stored(specular, part, x, y, size, most)];
        }
        double gloss = (double) stored(specular, 'a', x, y, size, most) / most;
        Specular from = new Specular(d, s, factors.glossiness() * gloss);
        MetallicRoughness made = toMetallic(from);
        off += off(from, toSpecular(made));
        double[] colour = made.baseColour();
        base.put(
            i,
            stored(diffuse, 'a', x, y, size, most),
            level(ColourSpace.toSrgb(colour[0]), most),
            level(ColourSpace.toSrgb(colour[1]), most),
            level(ColourSpace.toSrgb(colour[2]), most));
        packed.put(i, most, most, level(made.roughness(), most), level(made.metallic(), most));
      }
    }
    return new Images(
        base.pixels(diffuse != null && diffuse.hasAlpha()),
        packed.pixels(false),
        off / ((double) w * h));
  }

  private static int stored(Pixels image, char part, int x, int y, Pixels size, int most) {
    return image == null
        ? most
        : image.get(image.indexFor(x, y, size.width(), size.height()), part, most);
  }

  private static int level(double value, int most) {
    return (int) Math.round(most * unit(value));
  }

  private static double unit(double value) {
    return Math.max(0, Math.min(1, value));
  }

  private static double most(double[] colour) {
    return Math.max(colour[0], Math.max(colour[1], colour[2]));
  }

  private static double brightness(double[] c) {
    return Math.sqrt(0.299 * c[0] * c[0] + 0.587 * c[1] * c[1] + 0.114 * c[2] * c[2]);
  }

  /** The metal at which both models reflect as brightly: the root of a quadratic equation. */
  private static double metallic(double diffuse, double specular, double rest) {
    if (specular < DIELECTRIC) {
      return 0;
    }
    double b = diffuse * rest / (1 - DIELECTRIC) + specular - 2 * DIELECTRIC;
    double c = DIELECTRIC - specular;
    double root = Math.sqrt(Math.max(0, b * b - 4 * DIELECTRIC * c));
    return unit((-b + root) / (2 * DIELECTRIC));
  }
}
