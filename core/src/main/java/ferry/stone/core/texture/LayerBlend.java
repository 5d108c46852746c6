package ferry.stone.core.texture;

import java.util.List;

/**
 * Lays images over each other, in sRGB numbers as painters do: common practice, no source. Images
 * of another size than the lowest one are read at its pixels.
 */
public final class LayerBlend {
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
    int most = Pixels.most(layers.stream().map(Layer::image).toArray(Pixels[]::new));
    PixelSink out = new PixelSink(base.width(), base.height(), most);
    int[] below = new int[3];
    for (int i = 0; i < base.argb().length; i++) {
      for (int c = 0; c < 3; c++) {
        below[c] = base.get(i, "rgb".charAt(c), most);
      }
      for (Layer layer : layers.subList(1, layers.size())) {
        Pixels image = layer.image();
        int y = i / base.width() * image.height() / base.height();
        int from = y * image.width() + i % base.width() * image.width() / base.width();
        mix(below, layer, from, most);
      }
      out.put(i, base.get(i, 'a', most), below[0], below[1], below[2]);
    }
    return out.pixels(base.hasAlpha());
  }

  private static void mix(int[] below, Layer layer, int from, int most) {
    Pixels image = layer.image();
    double own = image.hasAlpha() ? image.get(from, 'a', most) / (double) most : 1;
    double alpha = Math.max(0, Math.min(1, own * layer.alpha()));
    for (int c = 0; c < 3; c++) {
      double b = below[c];
      double a = image.get(from, "rgb".charAt(c), most);
      double full =
          switch (layer.mode()) {
            case OVER -> a;
            case ADD -> Math.min(most, b + a);
            case MULTIPLY -> b * a / most;
          };
      below[c] = (int) Math.round(b + alpha * (full - b));
    }
  }
}
