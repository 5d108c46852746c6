package ferry.stone.core.texture.atlas;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.Pixels;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/**
 * What a material puts into an atlas. Images are of any size; they repeat.
 *
 * @param base sRGB with opacity, or {@code null}
 * @param baseFactor linear red, green, blue and opacity, which multiply it
 * @param normal or {@code null}
 * @param normalAmount how much its directions lean
 * @param occlusion or {@code null}
 * @param occlusionPart of the image that is read
 * @param roughness or {@code null}
 * @param metallic or {@code null}
 * @param emissive sRGB, or {@code null}
 * @param emissiveFactor linear, at most 1
 * @param layers what it has for the layers above metallic and roughness
 * @param acrossU how many times the images lie side by side in the tile
 * @param acrossV how many times above each other
 */
public record AtlasTile(
    Pixels base,
    double[] baseFactor,
    Pixels normal,
    double normalAmount,
    Pixels occlusion,
    char occlusionPart,
    double occlusionAmount,
    Pixels roughness,
    char roughnessPart,
    double roughnessFactor,
    Pixels metallic,
    char metallicPart,
    double metallicFactor,
    Pixels emissive,
    double[] emissiveFactor,
    Map<Channel, LayerSource> layers,
    int acrossU,
    int acrossV) {

  /** The direction of a surface as it is, in a normal map. */
  static final int FLAT = 0xff8080ff;

  /** Images of an atlas that a tile fills in. */
  public enum Layer {
    BASE,
    NORMAL,
    PACKED,
    EMISSIVE
  }

  /** The same with other images of shade alone, which lie in a way of their own. */
  public AtlasTile shade(int shadeU, int shadeV) {
    return new AtlasTile(
        null,
        new double[] {1, 1, 1, 1},
        null,
        1,
        occlusion,
        occlusionPart,
        occlusionAmount,
        null,
        'g',
        1,
        null,
        'b',
        1,
        null,
        new double[3],
        Map.of(),
        shadeU,
        shadeV);
  }

  /** The same without shade. */
  public AtlasTile unshaded() {
    return new AtlasTile(
        base,
        baseFactor,
        normal,
        normalAmount,
        null,
        occlusionPart,
        1,
        roughness,
        roughnessPart,
        roughnessFactor,
        metallic,
        metallicPart,
        metallicFactor,
        emissive,
        emissiveFactor,
        layers,
        acrossU,
        acrossV);
  }

  /** Whether one of its images has 16 bits a channel, of which an atlas keeps 8. */
  public boolean isDeep() {
    return images().stream().anyMatch(Pixels::isDeep);
  }

  private List<Pixels> images() {
    List<Pixels> all = new ArrayList<>();
    Collections.addAll(all, base, normal, occlusion, roughness, metallic, emissive);
    layers.values().forEach(layer -> all.add(layer.image()));
    all.removeIf(Objects::isNull);
    return all;
  }

  /** Width and height of the largest image, once. */
  public int[] size() {
    int w = 1;
    int h = 1;
    for (Pixels p : images()) {
      w = Math.max(w, p.width());
      h = Math.max(h, p.height());
    }
    return new int[] {w, h};
  }

  /** The same of a layer. */
  int pixel(LayerPaint layer, double u, double v) {
    return layer.pixel(this, u * acrossU, v * acrossV);
  }

  /**
   * A pixel of the tile, as ARGB.
   *
   * @param u 0 to 1 across the tile
   * @param v 0 to 1 down the tile
   */
  int pixel(Layer layer, double u, double v) {
    double fu = u * acrossU;
    double fv = v * acrossV;
    return switch (layer) {
      case BASE -> coloured(base, baseFactor, fu, fv, baseFactor[3]);
      case EMISSIVE -> coloured(emissive, emissiveFactor, fu, fv, 1) | 0xff000000;
      case NORMAL -> normal == null ? FLAT : leaning(sample(normal, fu, fv), normalAmount);
      case PACKED -> {
        int o = occlusion == null ? 255 : part(occlusion, occlusionPart, fu, fv);
        int r = roughness == null ? 255 : part(roughness, roughnessPart, fu, fv);
        int m = metallic == null ? 255 : part(metallic, metallicPart, fu, fv);
        // Strength brings occlusion nearer to none (glTF 2.0, section 3.9.3).
        int shade = (int) Math.round(255 + occlusionAmount * (o - 255));
        yield 0xff000000
            | level(shade / 255.0) << 16
            | level(roughnessFactor * r / 255) << 8
            | level(metallicFactor * m / 255);
      }
    };
  }

  private static int coloured(Pixels image, double[] factor, double u, double v, double opacity) {
    int p = image == null ? -1 : sample(image, u, v);
    int out = level(opacity * (p >>> 24) / 255.0) << 24;
    for (int c = 0; c < 3; c++) {
      int stored = p >> 16 - 8 * c & 0xff;
      int value =
          factor[c] == 1
              ? stored
              : level(ColourSpace.toSrgb(factor[c] * ColourSpace.toLinear(stored / 255.0)));
      out |= value << 16 - 8 * c;
    }
    return out;
  }

  static int leaning(int p, double normalAmount) {
    if (normalAmount == 1) {
      return p | 0xff000000;
    }
    double x = ((p >> 16 & 0xff) / 127.5 - 1) * normalAmount;
    double y = ((p >> 8 & 0xff) / 127.5 - 1) * normalAmount;
    double z = Math.max(1e-3, (p & 0xff) / 127.5 - 1);
    double length = Math.sqrt(x * x + y * y + z * z);
    return 0xff000000
        | level((x / length + 1) / 2) << 16
        | level((y / length + 1) / 2) << 8
        | level((z / length + 1) / 2);
  }

  static int part(Pixels image, char part, double u, double v) {
    return image.get(index(image, u, v), part);
  }

  static int sample(Pixels image, double u, double v) {
    return image.argb()[index(image, u, v)];
  }

  private static int index(Pixels image, double u, double v) {
    int x = Math.floorMod((int) Math.floor(u * image.width()), image.width());
    int y = Math.floorMod((int) Math.floor(v * image.height()), image.height());
    return y * image.width() + x;
  }

  static int level(double value) {
    return (int) Math.round(255 * Math.max(0, Math.min(1, value)));
  }
}
