package ferry.stone.core.texture;

import java.awt.color.ColorSpace;
import java.awt.image.BufferedImage;
import java.awt.image.ColorModel;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.Raster;

/**
 * The stored values of a decoded picture. The JDK takes greys for light and would bend them to
 * sRGB: 64 of 255 would become 137. Image files store greys by the same curve as colours, and all
 * who draw them take the values as they are.
 */
final class RasterPixels {
  private static final int BYTE_BITS = 8;

  private RasterPixels() {}

  static Pixels of(BufferedImage image) {
    ColorModel model = image.getColorModel();
    int kind = model.getColorSpace().getType();
    boolean grey = kind == ColorSpace.TYPE_GRAY;
    boolean components = model instanceof ComponentColorModel;
    boolean deep = components && model.getComponentSize(0) > BYTE_BITS;
    if (components && !model.isAlphaPremultiplied() && (grey || deep && isPlain(model))) {
      return stored(image.getRaster(), model, deep);
    }
    int w = image.getWidth();
    int h = image.getHeight();
    return new Pixels(w, h, image.getRGB(0, 0, w, h, null, 0, w), model.hasAlpha());
  }

  /** Colours by no profile of their own: those would have to be turned to sRGB. */
  private static boolean isPlain(ColorModel model) {
    return model.getColorSpace().isCS_sRGB() && model.getTransferType() == DataBuffer.TYPE_USHORT;
  }

  private static Pixels stored(Raster raster, ColorModel model, boolean deep) {
    int w = raster.getWidth();
    int h = raster.getHeight();
    int most = deep ? Pixels.DEEP : Pixels.FULL;
    boolean parts = model.getTransferType() >= DataBuffer.TYPE_FLOAT;
    double scale = parts ? most : most / (Math.pow(2, model.getComponentSize(0)) - 1);
    int colours = model.getNumColorComponents();
    PixelSink out = new PixelSink(w, h, most);
    double[] row = new double[w * raster.getNumBands()];
    int[] rgba = new int[4];
    for (int y = 0; y < h; y++) {
      raster.getPixels(raster.getMinX(), raster.getMinY() + y, w, 1, row);
      for (int x = 0; x < w; x++) {
        int at = x * raster.getNumBands();
        for (int c = 0; c < 3; c++) {
          rgba[c] = value(row[at + (colours == 1 ? 0 : c)], scale, most);
        }
        rgba[3] = model.hasAlpha() ? value(row[at + colours], scale, most) : most;
        out.put(y * w + x, rgba[3], rgba[0], rgba[1], rgba[2]);
      }
    }
    return out.pixels(model.hasAlpha());
  }

  private static int value(double stored, double scale, int most) {
    return (int) Math.round(Math.max(0, Math.min(most, stored * scale)));
  }
}
