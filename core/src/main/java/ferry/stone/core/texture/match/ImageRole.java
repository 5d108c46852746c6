package ferry.stone.core.texture.match;

import ferry.stone.core.scene.look.Channel;

/**
 * What one part of an image is for.
 *
 * @param component r, g, b or a; 0 for the whole image
 * @param inverted whether the channel takes the opposite of the image: gloss for roughness, a
 *     normal map whose green points down
 */
public record ImageRole(Channel channel, char component, boolean inverted) {
  static ImageRole of(Channel channel) {
    return new ImageRole(channel, (char) 0, false);
  }

  ImageRole from(char part) {
    return new ImageRole(channel, part, inverted);
  }

  ImageRole opposite() {
    return new ImageRole(channel, component, !inverted);
  }
}
