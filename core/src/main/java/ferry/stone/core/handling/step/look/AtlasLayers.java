package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.atlas.AtlasTile;
import ferry.stone.core.texture.atlas.LayerPaint;
import ferry.stone.core.texture.atlas.LayerSource;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/**
 * Layers above metallic and roughness in an atlas. What can be an image becomes one; what can only
 * be a number has to be the same in all materials of an atlas.
 */
final class AtlasLayers {
  /** What a material has that does not say: the standards of glTF's material extensions. */
  private static final Map<Channel, double[]> IMAGES = new EnumMap<>(Channel.class);

  private static final Map<Channel, double[]> NUMBERS = new EnumMap<>(Channel.class);

  static {
    IMAGES.put(Channel.CLEARCOAT, new double[] {0});
    IMAGES.put(Channel.CLEARCOAT_ROUGHNESS, new double[] {0});
    IMAGES.put(Channel.CLEARCOAT_NORMAL, new double[] {1});
    IMAGES.put(Channel.SHEEN, new double[] {0, 0, 0});
    IMAGES.put(Channel.SHEEN_ROUGHNESS, new double[] {0});
    IMAGES.put(Channel.SPECULAR_WEIGHT, new double[] {1});
    IMAGES.put(Channel.SPECULAR_TINT, new double[] {1, 1, 1});
    IMAGES.put(Channel.TRANSMISSION_WEIGHT, new double[] {0});
    IMAGES.put(Channel.THICKNESS, new double[] {0});
    IMAGES.put(Channel.IRIDESCENCE, new double[] {0});
    IMAGES.put(Channel.IRIDESCENCE_THICKNESS, new double[] {400});
    IMAGES.put(Channel.DIFFUSE_TRANSMISSION, new double[] {0});
    IMAGES.put(Channel.DIFFUSE_TRANSMISSION_COLOUR, new double[] {1, 1, 1});
    NUMBERS.put(Channel.IOR, new double[] {1.5});
    NUMBERS.put(Channel.ATTENUATION_DISTANCE, new double[] {Double.POSITIVE_INFINITY});
    NUMBERS.put(Channel.ATTENUATION_COLOUR, new double[] {1, 1, 1});
    NUMBERS.put(Channel.IRIDESCENCE_IOR, new double[] {1.3});
    NUMBERS.put(Channel.IRIDESCENCE_THICKNESS_LEAST, new double[] {100});
    NUMBERS.put(Channel.ANISOTROPY, new double[] {0});
    NUMBERS.put(Channel.ANISOTROPY_ROTATION, new double[] {0});
    NUMBERS.put(Channel.DISPERSION, new double[] {0});
  }

  private AtlasLayers() {}

  /** Images of a material's layers. */
  static List<TextureUse> uses(PbrMaterial pbr) {
    List<TextureUse> uses = new ArrayList<>();
    pbr.layers().values().forEach(v -> Optional.ofNullable(v.texture()).ifPresent(uses::add));
    return uses;
  }

  /** Why layers of a material cannot go into an atlas; empty when they can. */
  static Optional<String> refused(PbrMaterial pbr) {
    for (Map.Entry<Channel, Material.Value> layer : pbr.layers().entrySet()) {
      boolean image = IMAGES.containsKey(layer.getKey());
      if (!image && (layer.getValue().texture() != null || !NUMBERS.containsKey(layer.getKey()))) {
        return Optional.of(
            "its " + layer.getKey().label() + " is an image, which an atlas has no place for");
      }
    }
    return Optional.empty();
  }

  /**
   * What materials of one atlas have to agree on: numbers that no image can hold, and whether light
   * goes through, which is drawn in another way.
   */
  static List<Object> agreed(PbrMaterial pbr) {
    List<Object> agreed = new ArrayList<>();
    agreed.add(through(pbr, Channel.TRANSMISSION_WEIGHT));
    agreed.add(through(pbr, Channel.DIFFUSE_TRANSMISSION));
    NUMBERS.forEach(
        (channel, otherwise) -> agreed.add(Arrays.toString(factor(pbr, channel, otherwise))));
    return agreed;
  }

  private static boolean through(PbrMaterial pbr, Channel channel) {
    return factor(pbr, channel, IMAGES.get(channel))[0] > 0;
  }

  private static double[] factor(PbrMaterial pbr, Channel channel, double[] otherwise) {
    Material.Value value = pbr.layers().get(channel);
    if (value == null) {
      return otherwise;
    }
    if (value.factor() != null) {
      return value.factor();
    }
    double[] whole = new double[otherwise.length];
    Arrays.fill(whole, channel == Channel.IRIDESCENCE_THICKNESS ? otherwise[0] : 1);
    return whole;
  }

  /** A material's layers for its tile. */
  static Map<Channel, LayerSource> sources(PbrMaterial pbr, Function<TextureUse, Pixels> pixels) {
    Map<Channel, LayerSource> sources = new EnumMap<>(Channel.class);
    IMAGES.forEach(
        (channel, otherwise) -> {
          Material.Value value = pbr.layers().get(channel);
          if (value != null) {
            TextureUse use = value.texture();
            sources.put(
                channel,
                new LayerSource(
                    use == null ? null : pixels.apply(use),
                    use == null ? 0 : LayerParts.of(channel, use),
                    factor(pbr, channel, otherwise),
                    use == null ? 1 : use.amount()));
          }
        });
    return sources;
  }

  /**
   * Puts the layers of an atlas's material.
   *
   * @param first of its materials, for what all agree on
   * @param image makes the image of a layer and says how it is used
   */
  static void put(
      PbrMaterial first,
      List<AtlasTile> tiles,
      Map<Channel, Material.Value> channels,
      Function<LayerPaint, TextureUse> image) {
    NUMBERS.forEach(
        (channel, otherwise) -> {
          if (first.layers().containsKey(channel)) {
            double[] agreed = factor(first, channel, otherwise);
            channels.put(channel, new Material.Value(agreed, null));
          }
        });
    double least =
        factor(
            first,
            Channel.IRIDESCENCE_THICKNESS_LEAST,
            NUMBERS.get(Channel.IRIDESCENCE_THICKNESS_LEAST))[0];
    IMAGES.forEach(
        (channel, otherwise) -> {
          if (tiles.stream().anyMatch(t -> t.layers().containsKey(channel))) {
            double from = channel == Channel.IRIDESCENCE_THICKNESS ? least : 0;
            channels.put(channel, value(channel, otherwise, from, tiles, image));
          }
        });
  }

  private static Material.Value value(
      Channel channel,
      double[] otherwise,
      double least,
      List<AtlasTile> tiles,
      Function<LayerPaint, TextureUse> image) {
    double[] most = new double[otherwise.length];
    double[] first = null;
    boolean varies = false;
    for (AtlasTile tile : tiles) {
      LayerSource source = tile.layers().get(channel);
      double[] own = source == null ? otherwise : source.factor();
      first = first == null ? own : first;
      varies |= !Arrays.equals(own, first) || source != null && source.image() != null;
      for (int k = 0; k < most.length; k++) {
        most[k] = Math.max(most[k], own[k]);
      }
    }
    if (!varies) {
      return new Material.Value(first, null);
    }
    TextureUse use = image.apply(new LayerPaint(channel, least, most, otherwise));
    boolean normal = channel == Channel.CLEARCOAT_NORMAL;
    return new Material.Value(normal ? null : most, use);
  }
}
