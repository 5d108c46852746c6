package ferry.stone.demo;

import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import java.util.Random;

/** Textures from seeded value noise that repeats at its borders. */
final class Paint {
  private Paint() {}

  /** Speckled stone: two colours mixed by noise with dark grains. */
  static byte[] stone(long seed, int size, int light, int dark, double grain) {
    double[] noise = noise(seed, size);
    Random random = new Random(seed + 1);
    int[] argb = new int[size * size];
    for (int i = 0; i < argb.length; i++) {
      double mix = Math.min(1, Math.max(0, noise[i] + grain * (random.nextDouble() - 0.5)));
      argb[i] = 0xff000000 | mixed(light, dark, mix);
    }
    return ImageCodec.encodePng(new Pixels(size, size, argb, false));
  }

  /** Grey noise between two levels, for roughness. */
  static byte[] grey(long seed, int size, int low, int high) {
    double[] noise = noise(seed, size);
    int[] argb = new int[size * size];
    for (int i = 0; i < argb.length; i++) {
      int v = (int) Math.round(low + (high - low) * noise[i]);
      argb[i] = 0xff000000 | v << 16 | v << 8 | v;
    }
    return ImageCodec.encodePng(new Pixels(size, size, argb, false));
  }

  /**
   * A normal map of noise taken as heights.
   *
   * @param steep how high the heights are
   * @param up whether green points up in the image
   */
  static byte[] bumps(long seed, int size, double steep, boolean up) {
    double[] noise = noise(seed, size);
    int[] argb = new int[size * size];
    for (int y = 0; y < size; y++) {
      for (int x = 0; x < size; x++) {
        double right = noise[y * size + (x + 1) % size] - noise[y * size + (x + size - 1) % size];
        double down = noise[(y + 1) % size * size + x] - noise[(y + size - 1) % size * size + x];
        double nx = -steep * right;
        double ny = up ? steep * down : -steep * down;
        double length = Math.sqrt(nx * nx + ny * ny + 1);
        argb[y * size + x] =
            0xff000000 | level(nx / length) << 16 | level(ny / length) << 8 | level(1 / length);
      }
    }
    return ImageCodec.encodePng(new Pixels(size, size, argb, false));
  }

  private static int level(double value) {
    return (int) Math.round(127.5 * (value + 1));
  }

  /** Occlusion, roughness and metal in red, green and blue. */
  static byte[] packed(long seed, int size) {
    double[] shade = noise(seed, size);
    double[] rough = noise(seed + 9, size);
    int[] argb = new int[size * size];
    for (int i = 0; i < argb.length; i++) {
      int occlusion = (int) (190 + 65 * shade[i]);
      int roughness = (int) (90 + 120 * rough[i]);
      int metal = rough[i] > 0.62 ? 60 : 235;
      argb[i] = 0xff000000 | occlusion << 16 | roughness << 8 | metal;
    }
    return ImageCodec.encodePng(new Pixels(size, size, argb, false));
  }

  /** Paper panels with ribs, warm towards the middle. */
  static byte[] paper(long seed, int size) {
    double[] noise = noise(seed, size);
    int[] argb = new int[size * size];
    for (int y = 0; y < size; y++) {
      for (int x = 0; x < size; x++) {
        double rib = Math.abs(Math.sin(Math.PI * 8 * x / size)) < 0.12 ? 0.55 : 1;
        double warm = 0.8 + 0.2 * Math.sin(Math.PI * y / size);
        double v = rib * warm * (0.9 + 0.1 * noise[y * size + x]);
        int r = (int) (235 * v);
        int g = (int) (190 * v * warm);
        int b = (int) (120 * v * warm * warm);
        argb[y * size + x] = 0xff000000 | r << 16 | g << 8 | b;
      }
    }
    return ImageCodec.encodePng(new Pixels(size, size, argb, false));
  }

  /** Strands of rope running across. */
  static byte[] rope(int size) {
    int[] argb = new int[size * size];
    for (int y = 0; y < size; y++) {
      for (int x = 0; x < size; x++) {
        double strand = 0.5 + 0.5 * Math.sin(2 * Math.PI * (3.0 * x + 4.0 * y) / size);
        argb[y * size + x] = 0xff000000 | mixed(0xd8b06a, 0x7d5523, 1 - strand * 0.8);
      }
    }
    return ImageCodec.encodePng(new Pixels(size, size, argb, false));
  }

  private static int mixed(int a, int b, double t) {
    int result = 0;
    for (int shift = 0; shift <= 16; shift += 8) {
      double v = ((a >> shift) & 0xff) * (1 - t) + ((b >> shift) & 0xff) * t;
      result |= (int) Math.round(v) << shift;
    }
    return result;
  }

  /** Four octaves of value noise, 0 to 1. */
  private static double[] noise(long seed, int size) {
    double[] sum = new double[size * size];
    double weight = 0.5;
    for (int cells = 8; cells <= 64; cells *= 2) {
      Random random = new Random(seed * 31 + cells);
      double[] grid = new double[cells * cells];
      for (int i = 0; i < grid.length; i++) {
        grid[i] = random.nextDouble();
      }
      for (int y = 0; y < size; y++) {
        for (int x = 0; x < size; x++) {
          sum[y * size + x] +=
              weight * at(grid, cells, x * (double) cells / size, y * (double) cells / size);
        }
      }
      weight /= 2;
    }
    return sum;
  }

  private static double at(double[] grid, int cells, double x, double y) {
    int x0 = (int) x;
    int y0 = (int) y;
    double fx = x - x0;
    double fy = y - y0;
    double u = fx * fx * (3 - 2 * fx);
    double v = fy * fy * (3 - 2 * fy);
    int x1 = (x0 + 1) % cells;
    int y1 = (y0 + 1) % cells;
    double top = grid[y0 * cells + x0] * (1 - u) + grid[y0 * cells + x1] * u;
    double bottom = grid[y1 * cells + x0] * (1 - u) + grid[y1 * cells + x1] * u;
    return top * (1 - v) + bottom * v;
  }
}
