package ferry.stone.core.texture;

import java.util.List;

/**
 * Lays images over each other, in sRGB numbers as painters do: common practice, no source. Images
 * of another size than the lowest one are read at its pixels.
 */
public final class LayerBlend {
  private static final int MOST = 255;

  private LayerBlend() {}

  /** How a layer meets what lies below it. */
  public enum Mode {
    OVER,
    ADD,
    MULTIPLY
  }

  /**
   * A layer.
   *
   * @param alpha 0 to 1, times the image's own
   */
  public record Layer(Pixels image, Mode mode, double alpha) {}

  /** All layers as one image; the first is the lowest and shows as it is. */
  public static Pixels blend(List<Layer> layers) {
    Pixels base = layers.get(0).image();
    int[] argb = base.argb().clone();
    for (Layer layer : layers.subList(1, layers.size())) {
      Pixels image = layer.image();
      for (int y = 0; y < base.height(); y++) {
        int fromY = y * image.height() / base.height();
        for (int x = 0; x < base.width(); x++) {
          int from = image.argb()[fromY * image.width() + x * image.width() / base.width()];
          int at = y * base.width() + x;
          argb[at] = mixed(argb[at], from, layer, image.hasAlpha());
        }
      }
    }
    return new Pixels(base.width(), base.height(), argb, base.hasAlpha());
  }

  private static int mixed(int below, int above, Layer layer, boolean hasAlpha) {
    double own = hasAlpha ? (above >>> 24) / (double) MOST : 1;
    double alpha = Math.max(0, Math.min(1, own * layer.alpha()));
    int result = below & 0xff000000;
    for (int shift = 0; shift <= 16; shift += 8) {
      double b = below >>> shift & MOST;
      double a = above >>> shift & MOST;
      double full =
          switch (layer.mode()) {
            case OVER -> a;
            case ADD -> Math.min(MOST, b + a);
            case MULTIPLY -> b * a / MOST;
          };
      result |= (int) Math.round(b + alpha * (full - b)) << shift;
    }
    return result;
  }
}
