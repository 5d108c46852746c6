package ferry.stone.core.texture;

import java.util.Arrays;

/** Draws triangles with a colour at each corner into an image, by where they lie on it. */
public final class UvRaster {
  private final int side;
  private final int[] argb;
  private final boolean[] covered;
  private long drawn;
  private long twice;

  /**
   * @param side of the image in pixels
   */
  public UvRaster(int side) {
    this.side = side;
    argb = new int[side * side];
    covered = new boolean[side * side];
  }

  /**
   * Draws a triangle; pixels whose middle lies in it get its colours between the corners.
   *
   * @param uv {@code double[6]}: across and down from the top left, 0 to 1
   * @param colours {@code double[12]}: red, green, blue and opacity of each corner as sRGB, 0 to 1
   */
  public void triangle(double[] uv, double[] colours) {
    double ax = uv[0] * side;
    double ay = uv[1] * side;
    double bx = uv[2] * side - ax;
    double by = uv[3] * side - ay;
    double cx = uv[4] * side - ax;
    double cy = uv[5] * side - ay;
    double area = bx * cy - by * cx;
    if (area == 0 || !Double.isFinite(area)) {
      return;
    }
    int left = pixel(ax + Math.min(0, Math.min(bx, cx)));
    int right = pixel(ax + Math.max(0, Math.max(bx, cx)));
    int top = pixel(ay + Math.min(0, Math.min(by, cy)));
    int bottom = pixel(ay + Math.max(0, Math.max(by, cy)));
    for (int y = top; y <= bottom; y++) {
      for (int x = left; x <= right; x++) {
        double px = x + 0.5 - ax;
        double py = y + 0.5 - ay;
        double b = (px * cy - py * cx) / area;
        double c = (bx * py - by * px) / area;
        if (b >= 0 && c >= 0 && b + c <= 1) {
          int at = y * side + x;
          drawn++;
          twice += covered[at] ? 1 : 0;
          covered[at] = true;
          argb[at] = mixed(colours, 1 - b - c, b, c);
        }
      }
    }
  }

  private int pixel(double place) {
    return (int) Math.max(0, Math.min(side - 1, Math.floor(place)));
  }

  private static int mixed(double[] colours, double a, double b, double c) {
    int pixel = 0;
    for (int k = 0; k < 4; k++) {
      double value = a * colours[k] + b * colours[4 + k] + c * colours[8 + k];
      int level = (int) Math.round(255 * Math.max(0, Math.min(1, value)));
      pixel |= level << (k == 3 ? 24 : 16 - 8 * k);
    }
    return pixel;
  }

  /** Part of the drawn pixels that were drawn more than once, 0 to 1. */
  public double overlap() {
    return drawn == 0 ? 0 : (double) twice / drawn;
  }

  /**
   * The image; what lies around the drawn gets its colours, so many pixels wide, and the rest their
   * mean.
   */
  public Pixels image(int around) {
    int[] out = argb.clone();
    boolean[] known = covered.clone();
    for (int round = 0; round < around; round++) {
      boolean[] before = known.clone();
      for (int i = 0; i < out.length; i++) {
        if (!before[i]) {
          int from = neighbour(before, i);
          if (from >= 0) {
            out[i] = out[from];
            known[i] = true;
          }
        }
      }
    }
    int mean = mean();
    boolean alpha = false;
    for (int i = 0; i < out.length; i++) {
      out[i] = known[i] ? out[i] : mean;
      alpha |= out[i] >>> 24 != 0xff;
    }
    return new Pixels(side, side, out, alpha);
  }

  private int neighbour(boolean[] known, int i) {
    int x = i % side;
    int y = i / side;
    int[] beside = {
      x > 0 ? i - 1 : -1,
      x + 1 < side ? i + 1 : -1,
      y > 0 ? i - side : -1,
      y + 1 < side ? i + side : -1
    };
    return Arrays.stream(beside).filter(n -> n >= 0 && known[n]).findFirst().orElse(-1);
  }

  private int mean() {
    long[] sum = new long[4];
    long count = 0;
    for (int i = 0; i < argb.length; i++) {
      if (covered[i]) {
        count++;
        for (int k = 0; k < 4; k++) {
          sum[k] += argb[i] >> 8 * k & 0xff;
        }
      }
    }
    int mean = 0;
    for (int k = 0; k < 4; k++) {
      mean |= (int) (count == 0 ? 255 : sum[k] / count) << 8 * k;
    }
    return mean;
  }
}
