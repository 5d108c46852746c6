package ferry.stone.core.texture.ktx;

/**
 * What a block says beside its pixels, so that it becomes a block of ETC1 or EAC without a search
 * (Khronos Data Format specification 1.3, sections 21 and 22: what those formats hold).
 */
final class UastcHints {
  /** The bias that leaves the mean colour of half a block as it is. */
  private static final int NO_BIAS = 13;

  /** A table of EAC whose shades stand nearly even, and how far they reach. */
  private static final int EAC_TABLE = 11;

  private static final int EAC_SPAN = 19;
  private static final int MOST_TIMES = 15;

  private final int[] mean = new int[6];
  private final int[] shades = new int[2];

  /** The bits of a block of one colour: kind, shade table, shade, red, green, blue. */
  void solid(UastcBits out, int argb) {
    int best = Integer.MAX_VALUE;
    int table = 0;
    int shade = 0;
    for (int t = 0; t < Etc1s.SHADES.length; t++) {
      for (int s = 0; s < 4; s++) {
        int off = 0;
        for (int shift = 0; shift <= 16; shift += 8) {
          int wanted = argb >> shift & 0xff;
          int there = clamp(five(nearest(wanted - Etc1s.SHADES[t][s])) + Etc1s.SHADES[t][s]);
          off += (wanted - there) * (wanted - there);
        }
        if (off < best) {
          best = off;
          table = t;
          shade = s;
        }
      }
    }
    out.put(1, 1);
    out.put(table, 3);
    out.put(shade, 2);
    for (int shift = 16; shift >= 0; shift -= 8) {
      out.put(nearest((argb >> shift & 0xff) - Etc1s.SHADES[table][shade]), 5);
    }
  }

  /**
   * The bits of any other block.
   *
   * @param pixels 16 as they will be read, ARGB
   */
  void write(UastcBits out, int mode, int[] pixels) {
    int bits = UastcTables.HINTS[mode];
    boolean alpha = UastcTables.PARTS[mode] == 4 || UastcTables.PARTS[mode] == 2;
    boolean bias = bits != 17;
    // Of BC1 nothing is promised: its makers search for themselves.
    out.put(0, bias ? 2 : 1);
    long best = Long.MAX_VALUE;
    int chosen = 0;
    for (int way = 0; way < 4; way++) {
      long off = halves(pixels, way & 1, way >> 1);
      if (off < best) {
        best = off;
        chosen = way | shades[0] << 2 | shades[1] << 5;
      }
    }
    out.put(chosen, 8);
    if (bias) {
      out.put(NO_BIAS, 5);
    }
    if (alpha) {
      out.put(alpha(pixels), 8);
    }
  }

  /** How far ETC1 would be off; the tables chosen stand in {@code shades}. */
  private long halves(int[] pixels, int flip, int differential) {
    int limit = differential == 1 ? 31 : 15;
    for (int half = 0; half < 2; half++) {
      for (int c = 0; c < 3; c++) {
        int sum = 0;
        for (int i = 0; i < 16; i++) {
          sum += half(i, flip) == half ? pixels[i] >> 16 - 8 * c & 0xff : 0;
        }
        mean[3 * half + c] = (sum * limit + 1020) / (8 * 255);
      }
    }
    long off = 0;
    for (int c = 0; c < 3; c++) {
      if (differential == 1) {
        int step = Math.max(-4, Math.min(3, mean[3 + c] - mean[c]));
        mean[3 + c] = mean[c] + step;
      }
    }
    for (int half = 0; half < 2; half++) {
      long best = Long.MAX_VALUE;
      for (int t = 0; t < Etc1s.SHADES.length; t++) {
        long there = table(pixels, flip, half, t, limit);
        if (there < best) {
          best = there;
          shades[half] = t;
        }
      }
      off += best;
    }
    return off;
  }

  private long table(int[] pixels, int flip, int half, int table, int limit) {
    long off = 0;
    for (int i = 0; i < 16; i++) {
      if (half(i, flip) != half) {
        continue;
      }
      int best = Integer.MAX_VALUE;
      for (int s = 0; s < 4; s++) {
        int sum = 0;
        for (int c = 0; c < 3; c++) {
          int base = mean[3 * half + c];
          int full = limit == 31 ? five(base) : base * 17;
          int d = clamp(full + Etc1s.SHADES[table][s]) - (pixels[i] >> 16 - 8 * c & 0xff);
          sum += d * d;
        }
        best = Math.min(best, sum);
      }
      off += best;
    }
    return off;
  }

  /** Upright the halves stand side by side, flipped one on the other. */
  private static int half(int pixel, int flip) {
    return flip == 1 ? pixel >> 3 : pixel >> 1 & 1;
  }

  private static int alpha(int[] pixels) {
    int least = 255;
    int most = 0;
    for (int pixel : pixels) {
      least = Math.min(least, pixel >>> 24);
      most = Math.max(most, pixel >>> 24);
    }
    int times = Math.round((float) (most - least) / EAC_SPAN);
    return EAC_TABLE | Math.max(1, Math.min(MOST_TIMES, times)) << 4;
  }

  private static int nearest(int value) {
    return Math.max(0, Math.min(31, Math.round(value * 31 / 255f)));
  }

  private static int five(int value) {
    return value << 3 | value >> 2;
  }

  private static int clamp(int value) {
    return Math.max(0, Math.min(255, value));
  }
}
