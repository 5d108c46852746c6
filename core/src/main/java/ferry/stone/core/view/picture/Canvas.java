package ferry.stone.core.view.picture;

import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.Pixels;
import java.util.Arrays;

/**
 * Triangles, lines and points with a depth for each pixel. Twice as wide and high as the picture,
 * so that edges are smooth.
 */
final class Canvas {
  static final int FINE = 2;

  final int width;
  final int height;
  private final float[] depth;
  private final float[] colour;
  private final float[] sum;

  Canvas(int width, int height) {
    this.width = FINE * width;
    this.height = FINE * height;
    depth = new float[this.width * this.height];
    colour = new float[4 * depth.length];
    sum = new float[4];
    Arrays.fill(depth, Float.NEGATIVE_INFINITY);
  }

  /** Colours a pixel of a triangle: what it is there, by the parts of its three corners. */
  interface Paint {
    /** Linear red, green, blue and how much is seen. */
    void at(float a, float b, float c, float[] into);
  }

  /**
   * @param p the corners: across and down in pixels, then towards the viewer
   * @param covers whether it hides what is behind it
   */
  void triangle(double[] p, Paint paint, boolean covers) {
    double area = (p[3] - p[0]) * (p[7] - p[1]) - (p[6] - p[0]) * (p[4] - p[1]);
    double all = area + p[2] + p[5] + p[8];
    if (area == 0 || !Double.isFinite(all)) {
      return;
    }
    int left = (int) Math.max(0, Math.ceil(Math.min(p[0], Math.min(p[3], p[6])) - 0.5));
    int right = (int) Math.min(width - 1, Math.floor(Math.max(p[0], Math.max(p[3], p[6])) - 0.5));
    int top = (int) Math.max(0, Math.ceil(Math.min(p[1], Math.min(p[4], p[7])) - 0.5));
    int bottom = (int) Math.min(height - 1, Math.floor(Math.max(p[1], Math.max(p[4], p[7])) - 0.5));
    for (int y = top; y <= bottom; y++) {
      double cy = y + 0.5;
      for (int x = left; x <= right; x++) {
        double cx = x + 0.5;
        double a = ((p[3] - cx) * (p[7] - cy) - (p[6] - cx) * (p[4] - cy)) / area;
        double b = ((p[6] - cx) * (p[1] - cy) - (p[0] - cx) * (p[7] - cy)) / area;
        double c = 1 - a - b;
        if (a >= 0 && b >= 0 && c >= 0) {
          float z = (float) (a * p[2] + b * p[5] + c * p[8]);
          int at = y * width + x;
          if (z > depth[at]) {
            paint.at((float) a, (float) b, (float) c, sum);
            put(at, z, covers);
          }
        }
      }
    }
  }

  private void put(int at, float z, boolean covers) {
    float seen = sum[3];
    if (seen <= 0) {
      return;
    }
    float behind = 1 - seen;
    for (int k = 0; k < 3; k++) {
      colour[4 * at + k] = sum[k] * seen + colour[4 * at + k] * behind;
    }
    colour[4 * at + 3] = seen + colour[4 * at + 3] * behind;
    if (covers) {
      depth[at] = z;
    }
  }

  /** A line as thick as a pixel of the picture, a little before what lies at the same depth. */
  void line(double[] a, double[] b, float[] linear) {
    double length = Math.max(Math.abs(b[0] - a[0]), Math.abs(b[1] - a[1]));
    if (!Double.isFinite(length + a[2] + b[2]) || length > 16 * (width + height)) {
      return;
    }
    int steps = (int) Math.max(1, Math.ceil(length));
    double[] p = new double[3];
    for (int i = 0; i <= steps; i++) {
      for (int k = 0; k < 3; k++) {
        p[k] = a[k] + (b[k] - a[k]) * i / steps;
      }
      dot(p, linear, FINE);
    }
  }

  /**
   * @param size in pixels of the canvas
   */
  void dot(double[] p, float[] linear, int size) {
    int left = (int) Math.floor(p[0] - size / 2.0 + 0.5);
    int top = (int) Math.floor(p[1] - size / 2.0 + 0.5);
    float z = (float) p[2] + 1e-4f;
    for (int y = Math.max(0, top); y < Math.min(height, top + size); y++) {
      for (int x = Math.max(0, left); x < Math.min(width, left + size); x++) {
        int at = y * width + x;
        if (z > depth[at]) {
          System.arraycopy(linear, 0, sum, 0, 3);
          sum[3] = 1;
          put(at, z, true);
        }
      }
    }
  }

  /** The picture, what is empty being transparent. */
  Pixels pixels() {
    int w = width / FINE;
    int h = height / FINE;
    int[] argb = new int[w * h];
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        float[] all = new float[4];
        for (int k = 0; k < FINE * FINE; k++) {
          int at = 4 * ((FINE * y + k / FINE) * width + FINE * x + k % FINE);
          for (int c = 0; c < 4; c++) {
            all[c] += colour[at + c];
          }
        }
        float seen = all[3];
        int alpha = Math.round(255 * seen / (FINE * FINE));
        int pixel = alpha << 24;
        for (int c = 0; c < 3 && seen > 0; c++) {
          pixel |= srgb(all[c] / seen) << (16 - 8 * c);
        }
        argb[y * w + x] = pixel;
      }
    }
    return new Pixels(w, h, argb, true);
  }

  private static int srgb(float linear) {
    return (int) Math.round(255 * ColourSpace.toSrgb(Math.min(1, Math.max(0, linear))));
  }
}
