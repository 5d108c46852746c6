package ferry.stone.core.texture;

/** Tells height maps from normal maps and turns the first into the second. */
public final class BumpMap {
  /** Slope of a step from black to white over one pixel at bump height 1. Common practice. */
  private static final double STEEPNESS = 8;

  private BumpMap() {}

  /** Whether an image given as bump is a tangent-space normal map: bluish, near (128, 128, 255). */
  public static boolean isNormalMap(Pixels pixels) {
    long r = 0;
    long g = 0;
    long b = 0;
    for (int p : pixels.argb()) {
      r += (p >> 16) & 0xff;
      g += (p >> 8) & 0xff;
      b += p & 0xff;
    }
    double n = Math.max(1, pixels.argb().length);
    return Math.abs(r / n - 128) < 30 && Math.abs(g / n - 128) < 30 && b / n > 190;
  }

  /**
   * Slopes by Sobel's operator (Sobel and Feldman 1968), the image repeating at its borders; +Y up
   * in the result, as glTF 2.0 section 3.9.3 wants. Heights of 16 bits make normals of 16 bits.
   *
   * @param height factor of the heights, 1 if unsaid
   */
  public static Pixels toNormalMap(Pixels bump, double height) {
    int w = bump.width();
    int h = bump.height();
    int most = bump.most();
    PixelSink out = new PixelSink(w, h, most);
    double scale = STEEPNESS * height / (8.0 * most);
    for (int y = 0; y < h; y++) {
      int up = (y + h - 1) % h * w;
      int here = y * w;
      int down = (y + 1) % h * w;
      for (int x = 0; x < w; x++) {
        int left = (x + w - 1) % w;
        int right = (x + 1) % w;
        double dx =
            at(bump, up + right)
                + 2.0 * at(bump, here + right)
                + at(bump, down + right)
                - at(bump, up + left)
                - 2.0 * at(bump, here + left)
                - at(bump, down + left);
        double dy =
            at(bump, up + left)
                + 2.0 * at(bump, up + x)
                + at(bump, up + right)
                - at(bump, down + left)
                - 2.0 * at(bump, down + x)
                - at(bump, down + right);
        double nx = -dx * scale;
        double ny = -dy * scale;
        double length = Math.sqrt(nx * nx + ny * ny + 1);
        out.put(
            here + x,
            most,
            stored(nx / length, most),
            stored(ny / length, most),
            stored(1 / length, most));
      }
    }
    return out.pixels(false);
  }

  private static int at(Pixels bump, int index) {
    return bump.get(index, 'l', bump.most());
  }

  private static int stored(double value, int most) {
    return (int) Math.round((value * 0.5 + 0.5) * most);
  }
}
