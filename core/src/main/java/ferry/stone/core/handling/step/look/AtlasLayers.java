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
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Layers above metallic and roughness in an atlas. What can be an image becomes one; what can only
 * be a number has to be the same in all materials of an atlas.
 */
final class AtlasLayers {
  private static final Set<Channel> IMAGES =
      EnumSet.of(
          Channel.CLEARCOAT,
          Channel.CLEARCOAT_ROUGHNESS,
          Channel.CLEARCOAT_NORMAL,
          Channel.SHEEN,
          Channel.SHEEN_ROUGHNESS,
          Channel.SPECULAR_WEIGHT,
          Channel.SPECULAR_TINT,
          Channel.TRANSMISSION_WEIGHT,
          Channel.THICKNESS,
          Channel.IRIDESCENCE,
          Channel.IRIDESCENCE_THICKNESS,
          Channel.DIFFUSE_TRANSMISSION,
          Channel.DIFFUSE_TRANSMISSION_COLOUR);

  /** Layers that can only be numbers. */
  private static final Set<Channel> NUMBERS =
      Arrays.stream(Channel.values())
          .filter(c -> LayerParts.isLayer(c) && !IMAGES.contains(c))
          .collect(Collectors.toCollection(() -> EnumSet.noneOf(Channel.class)));

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
      if (!IMAGES.contains(layer.getKey()) && layer.getValue().texture() != null) {
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
    NUMBERS.forEach(channel -> agreed.add(Arrays.toString(factor(pbr, channel))));
    return agreed;
  }

  private static boolean through(PbrMaterial pbr, Channel channel) {
    return factor(pbr, channel)[0] > 0;
  }

  private static double[] factor(PbrMaterial pbr, Channel channel) {
    double[] otherwise = LayerParts.otherwise(channel);
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
        channel -> {
          Material.Value value = pbr.layers().get(channel);
          if (value != null) {
            TextureUse use = value.texture();
            sources.put(
                channel,
                new LayerSource(
                    use == null ? null : pixels.apply(use),
                    use == null ? 0 : LayerParts.of(channel, use),
                    factor(pbr, channel),
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
        channel -> {
          if (first.layers().containsKey(channel)) {
            double[] agreed = factor(first, channel);
            channels.put(channel, new Material.Value(agreed, null));
          }
        });
    double least = factor(first, Channel.IRIDESCENCE_THICKNESS_LEAST)[0];
    IMAGES.forEach(
        channel -> {
          if (tiles.stream().anyMatch(t -> t.layers().containsKey(channel))) {
            double from = channel == Channel.IRIDESCENCE_THICKNESS ? least : 0;
            channels.put(channel, value(channel, from, tiles, image));
          }
        });
  }

  private static Material.Value value(
      Channel channel,
      double least,
      List<AtlasTile> tiles,
      Function<LayerPaint, TextureUse> image) {
    double[] otherwise = LayerParts.otherwise(channel);
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
