package ferry.stone.core.texture;

/** Makes images smaller. */
public final class ImageSize {
  private ImageSize() {}

  /**
   * The image with its longest side at most so many pixels, in its own proportions; the image
   * itself when it is small enough. Every new pixel is the mean of the area it covers. Colours
   * count by their alpha, so that nothing bleeds in from where the image is clear.
   */
  public static Pixels atMost(Pixels pixels, int longest) {
    int side = Math.max(pixels.width(), pixels.height());
    if (side <= longest) {
      return pixels;
    }
    int width = Math.max(1, (int) Math.round((double) pixels.width() * longest / side));
    int height = Math.max(1, (int) Math.round((double) pixels.height() * longest / side));
    return to(pixels, width, height);
  }

  /** The image with other sides, each new pixel the mean of the area it covers. */
  public static Pixels to(Pixels pixels, int width, int height) {
    if (width == pixels.width() && height == pixels.height()) {
      return pixels;
    }
    PixelSink out = new PixelSink(width, height, pixels.most());
    double[] sum = new double[5];
    for (int y = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        mean(pixels, x, y, width, height, sum);
        if (sum[0] > 0) {
          out.put(
              y * width + x,
              (int) Math.round(sum[0] / sum[4]),
              (int) Math.round(sum[1] / sum[0]),
              (int) Math.round(sum[2] / sum[0]),
              (int) Math.round(sum[3] / sum[0]));
        }
      }
    }
    return out.pixels(pixels.hasAlpha());
  }

  private static void mean(Pixels pixels, int x, int y, int width, int height, double[] sum) {
    java.util.Arrays.fill(sum, 0);
    double left = (double) x * pixels.width() / width;
    double right = (double) (x + 1) * pixels.width() / width;
    double top = (double) y * pixels.height() / height;
    double bottom = (double) (y + 1) * pixels.height() / height;
    for (int sy = (int) top; sy < Math.min(pixels.height(), Math.ceil(bottom)); sy++) {
      double tall = Math.min(bottom, sy + 1) - Math.max(top, sy);
      for (int sx = (int) left; sx < Math.min(pixels.width(), Math.ceil(right)); sx++) {
        double area = tall * (Math.min(right, sx + 1) - Math.max(left, sx));
        int from = sy * pixels.width() + sx;
        int most = pixels.most();
        double alpha = area * pixels.get(from, 'a', most);
        sum[0] += alpha;
        sum[1] += alpha * pixels.get(from, 'r', most);
        sum[2] += alpha * pixels.get(from, 'g', most);
        sum[3] += alpha * pixels.get(from, 'b', most);
        sum[4] += area;
      }
    }
  }
}
