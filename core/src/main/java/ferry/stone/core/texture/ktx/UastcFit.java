package ferry.stone.core.texture.ktx;

/**
 * The best ends and weights of a block in one mode: the longest axis through the colours of each
 * subset (Pearson 1901), ends put on what the mode can write, then least squares by turns. Nothing
 * is allocated for a block.
 */
final class UastcFit {
  private static final int TURNS = 3;
  private static final int POWER_STEPS = 6;

  /** Which value of a range is nearest to each of 0 to 255, and what it reads as. */
  private static final int[][] NEAREST = new int[21][];

  static {
    for (int range : UastcTables.RANGE) {
      NEAREST[range] = nearest(range);
    }
  }

  int mode;
  int pattern;
  int second;
  long off;
  final int[] ends = new int[18];
  final int[] weights = new int[32];

  private final int[][] parts = new int[4][16];
  private final int[] turnEnds = new int[18];
  private final int[] turnWeights = new int[32];
  private final int[] picked = new int[16];
  private final int[] comps = new int[4];
  private final double[] low = new double[4];
  private final double[] high = new double[4];
  private final double[] axis = new double[4];
  private final double[] mean = new double[4];
  private final double[][] spread = new double[4][4];
  private int pickedCount;
  private int compCount;

  private static int[] nearest(int range) {
    int[] digits = UastcTables.DIGITS[range];
    int count = (1 << digits[0]) * (digits[1] == 1 ? 3 : 1) * (digits[2] == 1 ? 5 : 1);
    int[] of = new int[256];
    for (int v = 0; v < 256; v++) {
      int best = Integer.MAX_VALUE;
      for (int code = 0; code < count; code++) {
        int d = Math.abs(UastcTables.full(code, range) - v);
        if (d < best) {
          best = d;
          of[v] = code << 8 | UastcTables.full(code, range);
        }
      }
    }
    return of;
  }

  /**
   * Fits 16 pixels.
   *
   * @param newPattern which subset each pixel is in, as {@link UastcTables} writes it
   * @param newSecond the number of the part with weights of its own, −1 for none
   * @return the sum of squared differences over red, green, blue and alpha
   */
  long fit(int[] argb, int newMode, int newPattern, int newSecond) {
    mode = newMode;
    pattern = newPattern;
    second = newSecond;
    int count = UastcTables.PARTS[mode];
    for (int i = 0; i < 16; i++) {
      for (int c = 0; c < 4; c++) {
        boolean alpha = c == 3 || count == 2 && c == 1;
        parts[c][i] = argb[i] >> (alpha ? 24 : 16 - 8 * c) & 0xff;
      }
    }
    off = 0;
    for (int s = 0; s < UastcTables.SUBSETS[mode]; s++) {
      pickedCount = 0;
      for (int i = 0; i < 16; i++) {
        if ((pattern >>> 2 * i & 3) == s) {
          picked[pickedCount++] = i;
        }
      }
      for (int plane = 0; plane < UastcTables.PLANES[mode]; plane++) {
        compCount = 0;
        for (int c = 0; c < count; c++) {
          if ((c == second) == (plane == 1)) {
            comps[compCount++] = c;
          }
        }
        off += plane(s, plane);
      }
    }
    return off;
  }

  private long plane(int subset, int plane) {
    axis();
    long best = Long.MAX_VALUE;
    for (int turn = 0; turn < TURNS && best > 0; turn++) {
      long there = weigh(subset, plane);
      if (there >= best) {
        break;
      }
      best = there;
      keep(subset, plane);
      if (!leastSquares(plane)) {
        break;
      }
    }
    anchor(subset, plane);
    return best;
  }

  private void keep(int subset, int plane) {
    int count = UastcTables.PARTS[mode];
    int planes = UastcTables.PLANES[mode];
    for (int k = 0; k < compCount; k++) {
      int place = 2 * (subset * count + comps[k]);
      ends[place] = turnEnds[place];
      ends[place + 1] = turnEnds[place + 1];
    }
    for (int k = 0; k < pickedCount; k++) {
      int place = planes * picked[k] + plane;
      weights[place] = turnWeights[place];
    }
  }

  /** Puts the ends of the longest axis into {@code low} and {@code high}. */
  private void axis() {
    for (int a = 0; a < compCount; a++) {
      double sum = 0;
      for (int k = 0; k < pickedCount; k++) {
        sum += parts[comps[a]][picked[k]];
      }
      mean[a] = sum / pickedCount;
    }
    int widest = 0;
    for (int a = 0; a < compCount; a++) {
      for (int b = a; b < compCount; b++) {
        double sum = 0;
        for (int k = 0; k < pickedCount; k++) {
          sum += (parts[comps[a]][picked[k]] - mean[a]) * (parts[comps[b]][picked[k]] - mean[b]);
        }
        spread[a][b] = sum;
        spread[b][a] = sum;
      }
      widest = spread[a][a] > spread[widest][widest] ? a : widest;
    }
    System.arraycopy(spread[widest], 0, axis, 0, compCount);
    for (int step = 0; step < POWER_STEPS; step++) {
      double length = 0;
      for (int a = 0; a < compCount; a++) {
        length += axis[a] * axis[a];
      }
      length = Math.sqrt(length);
      if (length == 0) {
        break;
      }
      for (int a = 0; a < compCount; a++) {
        low[a] = axis[a] / length;
      }
      for (int a = 0; a < compCount; a++) {
        double sum = 0;
        for (int b = 0; b < compCount; b++) {
          sum += spread[a][b] * low[b];
        }
        axis[a] = step == POWER_STEPS - 1 ? low[a] : sum;
      }
    }
    ends();
  }

  private void ends() {
    double least = 0;
    double most = 0;
    for (int k = 0; k < pickedCount; k++) {
      double t = 0;
      for (int a = 0; a < compCount; a++) {
        t += (parts[comps[a]][picked[k]] - mean[a]) * axis[a];
      }
      least = Math.min(least, t);
      most = Math.max(most, t);
    }
    for (int a = 0; a < compCount; a++) {
      low[a] = mean[a] + least * axis[a];
      high[a] = mean[a] + most * axis[a];
    }
  }

  /** Writes the ends as the mode can, weighs each pixel, and says how far it is off. */
  private long weigh(int subset, int plane) {
    int[] nearest = NEAREST[UastcTables.RANGE[mode]];
    int[] table = UastcTables.WEIGHTS[UastcTables.WEIGHT_BITS[mode]];
    int count = UastcTables.PARTS[mode];
    int planes = UastcTables.PLANES[mode];
    double length = 0;
    for (int a = 0; a < compCount; a++) {
      int place = 2 * (subset * count + comps[a]);
      int l = nearest[clamp(low[a])];
      int h = nearest[clamp(high[a])];
      turnEnds[place] = l >> 8;
      turnEnds[place + 1] = h >> 8;
      low[a] = l & 0xff;
      high[a] = h & 0xff;
      length += (high[a] - low[a]) * (high[a] - low[a]);
    }
    long sum = 0;
    for (int k = 0; k < pickedCount; k++) {
      double t = 0;
      for (int a = 0; a < compCount; a++) {
        t += (parts[comps[a]][picked[k]] - low[a]) * (high[a] - low[a]);
      }
      int near = length == 0 ? 0 : (int) Math.round(t / length * (table.length - 1));
      int from = Math.max(0, Math.min(table.length - 1, near - 1));
      int to = Math.max(0, Math.min(table.length - 1, near + 1));
      long best = Long.MAX_VALUE;
      for (int w = from; w <= to; w++) {
        long there = pixel(picked[k], table[w]);
        if (there < best) {
          best = there;
          turnWeights[planes * picked[k] + plane] = w;
        }
      }
      sum += best;
    }
    return sum;
  }

  private long pixel(int i, int weight) {
    long sum = 0;
    for (int a = 0; a < compCount; a++) {
      int l = (int) low[a];
      int h = (int) high[a];
      int d = ((l * 257 * (64 - weight) + h * 257 * weight + 32 >> 6) >> 8) - parts[comps[a]][i];
      // A grey of two parts is red, green and blue at once.
      sum += (long) d * d * (UastcTables.PARTS[mode] == 2 && comps[a] == 0 ? 3 : 1);
    }
    return sum;
  }

  /** Ends that are best for the weights; {@code false} when these say nothing of them. */
  private boolean leastSquares(int plane) {
    int[] table = UastcTables.WEIGHTS[UastcTables.WEIGHT_BITS[mode]];
    int planes = UastcTables.PLANES[mode];
    double ll = 0;
    double lh = 0;
    double hh = 0;
    for (int k = 0; k < pickedCount; k++) {
      double w = table[turnWeights[planes * picked[k] + plane]] / 64.0;
      ll += (1 - w) * (1 - w);
      lh += w * (1 - w);
      hh += w * w;
    }
    double det = ll * hh - lh * lh;
    if (det < 1e-9) {
      return false;
    }
    for (int a = 0; a < compCount; a++) {
      double l = 0;
      double h = 0;
      for (int k = 0; k < pickedCount; k++) {
        double w = table[turnWeights[planes * picked[k] + plane]] / 64.0;
        l += (1 - w) * parts[comps[a]][picked[k]];
        h += w * parts[comps[a]][picked[k]];
      }
      low[a] = (l * hh - h * lh) / det;
      high[a] = (h * ll - l * lh) / det;
    }
    return true;
  }

  /** The first weight of a subset is written without its highest bit: the ends turn for that. */
  private void anchor(int subset, int plane) {
    int bits = UastcTables.WEIGHT_BITS[mode];
    int planes = UastcTables.PLANES[mode];
    if (weights[planes * picked[0] + plane] >> bits - 1 == 0) {
      return;
    }
    for (int k = 0; k < pickedCount; k++) {
      int place = planes * picked[k] + plane;
      weights[place] = (1 << bits) - 1 - weights[place];
    }
    for (int a = 0; a < compCount; a++) {
      int place = 2 * (subset * UastcTables.PARTS[mode] + comps[a]);
      int swap = ends[place];
      ends[place] = ends[place + 1];
      ends[place + 1] = swap;
    }
  }

  private static int clamp(double value) {
    return Math.max(0, Math.min(255, (int) Math.round(value)));
  }
}
