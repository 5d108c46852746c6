package ferry.stone.core.scene.look;

import java.util.EnumMap;
import java.util.Map;

/**
 * Which part of an image a layer of a material is read from where nothing else is said, and which
 * numbers it has: as the extensions of glTF 2.0 for clear coat, sheen, specular, transmission,
 * volume, iridescence and diffuse transmission have it.
 */
public final class LayerParts {
  private static final Map<Channel, Character> PARTS =
      Map.of(
          Channel.CLEARCOAT, 'r',
          Channel.CLEARCOAT_ROUGHNESS, 'g',
          Channel.TRANSMISSION_WEIGHT, 'r',
          Channel.THICKNESS, 'g',
          Channel.IRIDESCENCE, 'r',
          Channel.IRIDESCENCE_THICKNESS, 'g',
          Channel.SHEEN_ROUGHNESS, 'a',
          Channel.SPECULAR_WEIGHT, 'a',
          Channel.DIFFUSE_TRANSMISSION, 'a');

  /** What a material has that does not say, as the same extensions have it. */
  private static final Map<Channel, double[]> OTHERWISE = new EnumMap<>(Channel.class);

  static {
    OTHERWISE.put(Channel.CLEARCOAT, new double[] {0});
    OTHERWISE.put(Channel.CLEARCOAT_ROUGHNESS, new double[] {0});
    OTHERWISE.put(Channel.CLEARCOAT_NORMAL, new double[] {});
    OTHERWISE.put(Channel.SHEEN, new double[] {0, 0, 0});
    OTHERWISE.put(Channel.SHEEN_ROUGHNESS, new double[] {0});
    OTHERWISE.put(Channel.SPECULAR_WEIGHT, new double[] {1});
    OTHERWISE.put(Channel.SPECULAR_TINT, new double[] {1, 1, 1});
    OTHERWISE.put(Channel.IOR, new double[] {1.5});
    OTHERWISE.put(Channel.TRANSMISSION_WEIGHT, new double[] {0});
    OTHERWISE.put(Channel.THICKNESS, new double[] {0});
    OTHERWISE.put(Channel.ATTENUATION_DISTANCE, new double[] {Double.POSITIVE_INFINITY});
    OTHERWISE.put(Channel.ATTENUATION_COLOUR, new double[] {1, 1, 1});
    OTHERWISE.put(Channel.IRIDESCENCE, new double[] {0});
    OTHERWISE.put(Channel.IRIDESCENCE_IOR, new double[] {1.3});
    OTHERWISE.put(Channel.IRIDESCENCE_THICKNESS_LEAST, new double[] {100});
    OTHERWISE.put(Channel.IRIDESCENCE_THICKNESS, new double[] {400});
    OTHERWISE.put(Channel.ANISOTROPY, new double[] {0});
    OTHERWISE.put(Channel.ANISOTROPY_ROTATION, new double[] {0});
    OTHERWISE.put(Channel.DISPERSION, new double[] {0});
    OTHERWISE.put(Channel.DIFFUSE_TRANSMISSION, new double[] {0});
    OTHERWISE.put(Channel.DIFFUSE_TRANSMISSION_COLOUR, new double[] {1, 1, 1});
  }

  private LayerParts() {}

  /** Whether a channel is a layer above metallic and roughness. */
  public static boolean isLayer(Channel channel) {
    return OTHERWISE.containsKey(channel);
  }

  /** The numbers of a layer where nothing is said; none for one that is an image alone. */
  public static double[] otherwise(Channel channel) {
    return OTHERWISE.get(channel).clone();
  }

  /** r, g or a; 0 for a layer whose image is read as a whole, and for what is no layer. */
  public static char standard(Channel channel) {
    return PARTS.getOrDefault(channel, (char) 0);
  }

  /** The part that a use of an image is read from; 0 for the whole. */
  public static char of(Channel channel, TextureUse use) {
    return use.component() == 0 ? standard(channel) : use.component();
  }
}
