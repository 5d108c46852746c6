package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.PartSource;
import java.util.Optional;

/**
 * What a part of a packed image is written as: {@code rust.png:g}, {@code @roughness}, {@code 0.5},
 * each with {@code !} before it for its opposite.
 *
 * @param image name or path of an image; empty for the others
 * @param channel of the material; {@code null} for the others
 * @param part r, g, b or a of the image; 0 where it is not said
 * @param value for one value everywhere
 */
record PackedPart(boolean inverted, String image, Channel channel, char part, double value) {

  /**
   * @throws IllegalArgumentException where it is none of the three
   */
  static PackedPart of(String text) {
    String rest = text.strip();
    boolean inverted = rest.startsWith("!");
    rest = inverted ? rest.substring(1).strip() : rest;
    char part = 0;
    int colon = rest.length() - 2;
    if (colon > 0 && rest.charAt(colon) == ':' && "rgba".indexOf(rest.charAt(colon + 1)) >= 0) {
      part = rest.charAt(colon + 1);
      rest = rest.substring(0, colon);
    }
    if (rest.startsWith("@")) {
      String name = rest.substring(1);
      Channel channel =
          Channel.named(name)
              .orElseThrow(
                  () ->
                      new IllegalArgumentException("\"" + name + "\" is no channel of materials"));
      return new PackedPart(inverted, "", channel, part, 1);
    }
    try {
      double value = Double.parseDouble(rest);
      if (!(value >= 0 && value <= 1)) {
        throw new IllegalArgumentException("a value everywhere is from 0 to 1, not " + rest);
      }
      return new PackedPart(inverted, "", null, part, value);
    } catch (NumberFormatException e) {
      return new PackedPart(inverted, rest, null, part, 1);
    }
  }

  /**
   * The pixels, or the value, that it stands for.
   *
   * @throws IllegalArgumentException where there is no such image
   */
  PartSource source(ImageSlots slots, Material material) {
    if (!image.isEmpty()) {
      return new PartSource(slots.pixelsOf(slots.image(image)), part, inverted, 1);
    }
    if (channel == null) {
      return new PartSource(null, (char) 0, inverted, value);
    }
    Optional<TextureUse> use = material.texture(channel);
    double[] factor = material.factor(channel, use.isPresent() ? new double[] {1} : standard());
    // Factors of colours tint the image as it lands; in a part of one there is only the image.
    double scale = use.isPresent() && channel.isColour() ? 1 : factor[at(factor)];
    if (use.isEmpty()) {
      return new PartSource(null, (char) 0, inverted, Math.max(0, Math.min(1, scale)));
    }
    char own = part != 0 ? part : use.get().component();
    return new PartSource(slots.pixelsOf(use.get()), own, inverted, Math.min(1, scale));
  }

  private int at(double[] factor) {
    return Math.min(factor.length - 1, Math.max(0, "rgb".indexOf(part)));
  }

  /** What a material that says nothing means. */
  private double[] standard() {
    return switch (channel) {
      case METALLIC, BUMP, EMISSIVE -> new double[] {0};
      default -> new double[] {1};
    };
  }
}
