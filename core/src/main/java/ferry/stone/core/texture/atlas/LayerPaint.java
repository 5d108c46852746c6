package ferry.stone.core.texture.atlas;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
import ferry.stone.core.texture.ColourSpace;

/**
 * How a layer of several materials becomes one image: each value as a part of the largest.
 *
 * @param channel of the layer
 * @param least what a value of 0 in the image stands for; 0 but for thicknesses of a thin film
 * @param most what full in the image stands for
 * @param otherwise what a material has that does not say
 */
public record LayerPaint(Channel channel, double least, double[] most, double[] otherwise) {
  /** A pixel of the image, as ARGB. */
  int pixel(AtlasTile tile, double u, double v) {
    LayerSource source = tile.layers().get(channel);
    if (channel == Channel.CLEARCOAT_NORMAL) {
      boolean flat = source == null || source.image() == null;
      int stored = flat ? AtlasTile.FLAT : AtlasTile.sample(source.image(), u, v);
      return flat ? AtlasTile.FLAT : AtlasTile.leaning(stored, source.amount());
    }
    double[] factor = source == null ? otherwise : source.factor();
    return channel.isColour() ? colour(source, factor, u, v) : number(source, factor[0], u, v);
  }

  private int colour(LayerSource source, double[] factor, double u, double v) {
    int stored =
        source == null || source.image() == null ? -1 : AtlasTile.sample(source.image(), u, v);
    int out = 0xff000000;
    for (int c = 0; c < 3; c++) {
      int own = stored >> 16 - 8 * c & 0xff;
      double scale = most[c] == 0 ? 0 : factor[c] / most[c];
      double light = ColourSpace.toLinear(own / 255.0) * scale;
      out |= (scale == 1 ? own : AtlasTile.level(ColourSpace.toSrgb(light))) << 16 - 8 * c;
    }
    return out;
  }

  private int number(LayerSource source, double factor, double u, double v) {
    double part =
        source == null || source.image() == null
            ? 1
            : AtlasTile.part(source.image(), source.part() == 0 ? 'l' : source.part(), u, v)
                / 255.0;
    double range = most[0] - least;
    int value = AtlasTile.level(range == 0 ? 0 : (factor - least) * part / range);
    boolean inAlpha = LayerParts.standard(channel) == 'a';
    return (inAlpha ? value << 24 : 0xff000000) | 0x10101 * value;
  }
}
