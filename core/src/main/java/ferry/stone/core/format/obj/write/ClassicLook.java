package ferry.stone.core.format.obj.write;

import ferry.stone.core.format.obj.raw.MtlKeys;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material.Value;
import ferry.stone.core.texture.PbrTranslation;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * Metal and roughness as body colour, highlight and exponent. A body shows as far as it is no
 * metal; a highlight has the colour of the metal, or 0.04 (glTF 2.0, appendix B.2.3); the exponent
 * is {@link PbrTranslation#exponentOfRoughness}.
 */
final class ClassicLook {
  private static final double DIELECTRIC = 0.04;

  /** "The exponent … normally ranges from 0 to 1000": MTL material format, {@code Ns}. */
  private static final double LARGEST_EXPONENT = 1000;

  private ClassicLook() {}

  /**
   * @param channels as MTL holds them, with the keys that are not to be written
   * @param lost takes what has no classic key
   */
  static Map<Channel, Value> of(Map<Channel, Value> channels, List<String> lost) {
    Map<Channel, Value> classic = new EnumMap<>(Channel.class);
    channels.forEach(
        (channel, value) -> {
          if (!MtlKeys.EXTENDED.contains(channel)) {
            classic.put(channel, value);
            return;
          }
          boolean translated = channel == Channel.METALLIC || channel == Channel.ROUGHNESS;
          if (value.texture() != null) {
            lost.add(channel.label() + " texture");
          }
          if (!translated && value.factor() != null && value.factor()[0] != 0) {
            lost.add(channel.label());
          }
        });
    Value base = channels.get(Channel.BASE_COLOUR);
    boolean image = base != null && base.texture() != null;
    // An image that is multiplied by black would be gone.
    double metal = image ? 0 : factor(channels, Channel.METALLIC);
    double[] colour =
        base == null || base.factor() == null ? new double[] {1, 1, 1} : base.factor();
    double[] body = new double[3];
    double[] highlight = new double[3];
    for (int k = 0; k < 3; k++) {
      body[k] = colour[k] * (1 - metal);
      highlight[k] = DIELECTRIC * (1 - metal) + colour[k] * metal;
    }
    classic.put(Channel.BASE_COLOUR, new Value(body, image ? base.texture() : null));
    classic.putIfAbsent(Channel.SPECULAR, new Value(highlight, null));
    double exponent = PbrTranslation.exponentOfRoughness(factor(channels, Channel.ROUGHNESS));
    classic.putIfAbsent(
        Channel.SHININESS, new Value(new double[] {Math.min(LARGEST_EXPONENT, exponent)}, null));
    return classic;
  }

  private static double factor(Map<Channel, Value> channels, Channel channel) {
    Value value = channels.get(channel);
    double factor = value == null ? 1 : value.scalar(1);
    return Math.max(0, Math.min(1, factor));
  }
}
