package ferry.stone.core.scene.look;

import ferry.stone.core.scene.UvOrigin;

/**
 * How a material uses a texture.
 *
 * @param textureId texture in the scene
 * @param uvSet which UV set of the mesh, from 0
 * @param offsetU added to u after scaling, in the scene's own UV direction
 * @param offsetV added to v after scaling
 * @param scaleU u is multiplied by it
 * @param scaleV v is multiplied by it
 * @param rotationRadians counter-clockwise turn about the UV origin
 * @param wrap what the image does beyond its border and between its pixels
 * @param component which part of the image is read: r, g, b, a, m (matte), l (luminance); 0: all
 * @param amount bump height, normal strength or other factor; 1 if unsaid
 * @param options other options the source wrote, as text
 */
public record TextureUse(
    int textureId,
    int uvSet,
    double offsetU,
    double offsetV,
    double scaleU,
    double scaleV,
    double rotationRadians,
    Wrap wrap,
    char component,
    double amount,
    String options) {

  public static TextureUse of(int textureId) {
    return new TextureUse(textureId, 0, 0, 0, 1, 1, 0, Wrap.REPEATED, (char) 0, 1, "");
  }

  /** The same use of another image. */
  public TextureUse withTexture(int newTextureId) {
    return copy(newTextureId, component, amount, options);
  }

  /** The same use with another strength. */
  public TextureUse withAmount(double other) {
    return copy(textureId, component, other, options);
  }

  /** The same use of one part of the image. */
  public TextureUse withComponent(char part) {
    return copy(textureId, part, amount, options);
  }

  /** An image at the place of this one, as nothing else was said of it. */
  public TextureUse placed(int newTextureId, char part) {
    return copy(newTextureId, part, 1, "");
  }

  private TextureUse copy(int texture, char part, double newAmount, String newOptions) {
    return new TextureUse(
        texture,
        uvSet,
        offsetU,
        offsetV,
        scaleU,
        scaleV,
        rotationRadians,
        wrap,
        part,
        newAmount,
        newOptions);
  }

  /** Whether another image lies on the surface as this one does, so that both can become one. */
  public boolean liesAs(TextureUse other) {
    return uvSet == other.uvSet
        && offsetU == other.offsetU
        && offsetV == other.offsetV
        && scaleU == other.scaleU
        && scaleV == other.scaleV
        && rotationRadians == other.rotationRadians
        && wrap.u() == other.wrap.u()
        && wrap.v() == other.wrap.v();
  }

  /**
   * The same use where V is counted from the other end. With the image upright and V' = 1 − V
   * before and after, turn and scale stay, and the offset takes up the rest.
   *
   * @param to where V is counted from afterwards; it was counted from the other end before
   */
  public TextureUse flipped(UvOrigin to) {
    if (!hasTransform()) {
      return this;
    }
    double sine =
        to == UvOrigin.BOTTOM_LEFT ? Math.sin(rotationRadians) : -Math.sin(rotationRadians);
    double cosine = Math.cos(rotationRadians);
    return new TextureUse(
        textureId,
        uvSet,
        offsetU + sine * scaleV,
        1 - offsetV - cosine * scaleV,
        scaleU,
        scaleV,
        rotationRadians,
        wrap,
        component,
        amount,
        options);
  }

  public boolean hasTransform() {
    return offsetU != 0 || offsetV != 0 || scaleU != 1 || scaleV != 1 || rotationRadians != 0;
  }
}
