package ferry.stone.core.scene.look;

import java.util.Map;

/**
 * Which part of an image a layer of a material is read from where nothing else is said: as the
 * extensions of glTF 2.0 for clear coat, sheen, specular, transmission, volume, iridescence and
 * diffuse transmission have it.
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

  private LayerParts() {}

  /** r, g or a; 0 for a layer whose image is read as a whole, and for what is no layer. */
  public static char standard(Channel channel) {
    return PARTS.getOrDefault(channel, (char) 0);
  }

  /** The part that a use of an image is read from; 0 for the whole. */
  public static char of(Channel channel, TextureUse use) {
    return use.component() == 0 ? standard(channel) : use.component();
  }
}
