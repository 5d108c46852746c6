package ferry.stone.core.texture.ktx;

/**
 * Writes blocks of UASTC. Modes are tried from the plain to the costly ones, and one that is near
 * enough ends the search; of those tried the nearest is written. Not every mode is used: what the
 * others add is little.
 */
final class UastcWriter {
  /** A mean squared difference of a channel that nobody sees: 0.5, 51 dB. */
  private static final long NEAR_ENOUGH = 32;

  private static final int[] PLAIN = {0, 18};
  private static final int[] TWO_PARTS = {2, 4};
  private static final int DUAL = 6;
  private static final int[] CLEAR = {10, 12};
  private static final int CLEAR_DUAL = 11;
  private static final int CLEAR_TWO_PARTS = 9;
  private static final int[] GREY_CLEAR = {15, 17};
  private static final int TRIED_PATTERNS = 2;
  private static final int CODE_BITS = 7;

  private final UastcBits out;
  private final UastcHints hints = new UastcHints();
  private final int[] block = new int[16];
  private final int[] seen = new int[16];
  private final int[] bestPatterns = new int[TRIED_PATTERNS];
  private final double[] patternCosts = new double[TRIED_PATTERNS];
  private final double[] sums = new double[4];
  private final double[] squares = new double[10];
  private final double[] direction = new double[4];
  private final Uastc reader;
  private final int[] bundles = new int[6];
  private UastcFit best = new UastcFit();
  private UastcFit trial = new UastcFit();
  private int patternNumber;
  private long bestOff;

  /**
   * @param into clear, for all blocks
   */
  UastcWriter(byte[] into) {
    out = new UastcBits(into);
    reader = new Uastc(into);
  }

  /**
   * Writes a block.
   *
   * @param argb {@code int[width * height]}
   * @param x of its first pixel; pixels beyond the edge are those of the edge
   */
  void block(int[] argb, int width, int height, int x, int y, int at) {
    boolean solid = true;
    boolean opaque = true;
    boolean grey = true;
    for (int i = 0; i < 16; i++) {
      int px = Math.min(width - 1, x + (i & 3));
      int p = argb[Math.min(height - 1, y + (i >> 2)) * width + px];
      block[i] = p;
      solid &= p == block[0];
      opaque &= p >>> 24 == 0xff;
      grey &= (p & 0xff) == (p >> 8 & 0xff) && (p & 0xff) == (p >> 16 & 0xff);
    }
    out.begin(at);
    if (solid) {
      solid(block[0]);
      return;
    }
    bestOff = Long.MAX_VALUE;
    if (opaque) {
      opaque();
    } else {
      clear(grey);
    }
    write(at);
  }

  private void solid(int p) {
    mode(UastcTables.SOLID);
    for (int shift = 16; shift >= 0; shift -= 8) {
      out.put(p >> shift & 0xff, 8);
    }
    out.put(p >>> 24, 8);
    hints.solid(out, p);
  }

  private void opaque() {
    for (int mode : PLAIN) {
      attempt(mode, 0, 0, -1);
    }
    if (bestOff <= NEAR_ENOUGH) {
      return;
    }
    for (int c = 0; c < 3; c++) {
      attempt(DUAL, 0, 0, c);
    }
    parted(TWO_PARTS, 3);
  }

  private void clear(boolean grey) {
    for (int mode : CLEAR) {
      attempt(mode, 0, 0, -1);
    }
    if (grey) {
      attempt(GREY_CLEAR[0], 0, 0, -1);
      attempt(GREY_CLEAR[1], 0, 0, 1);
    }
    if (bestOff <= NEAR_ENOUGH) {
      return;
    }
    for (int c = 0; c < 4; c++) {
      attempt(CLEAR_DUAL, 0, 0, c);
    }
    parted(new int[] {CLEAR_TWO_PARTS}, 4);
  }

  /** Modes of two subsets, with the ways of parting that promise most. */
  private void parted(int[] modes, int parts) {
    if (bestOff <= NEAR_ENOUGH) {
      return;
    }
    int[] patterns = UastcTables.patterns(modes[0]);
    java.util.Arrays.fill(patternCosts, Double.MAX_VALUE);
    for (int n = 0; n < patterns.length; n++) {
      double cost = cost(patterns[n], parts);
      int place = TRIED_PATTERNS - 1;
      if (cost >= patternCosts[place]) {
        continue;
      }
      while (place > 0 && patternCosts[place - 1] > cost) {
        patternCosts[place] = patternCosts[place - 1];
        bestPatterns[place] = bestPatterns[place - 1];
        place--;
      }
      patternCosts[place] = cost;
      bestPatterns[place] = n;
    }
    for (int n : bestPatterns) {
      for (int mode : modes) {
        attempt(mode, n, patterns[n], -1);
      }
    }
  }

  /** What is left of the spread of both subsets beside their longest axes, about. */
  private double cost(int pattern, int parts) {
    double cost = 0;
    for (int s = 0; s < 2; s++) {
      java.util.Arrays.fill(sums, 0);
      java.util.Arrays.fill(squares, 0);
      int count = 0;
      for (int i = 0; i < 16; i++) {
        if ((pattern >>> 2 * i & 3) != s) {
          continue;
        }
        count++;
        int k = 0;
        for (int a = 0; a < parts; a++) {
          int va = block[i] >> (a == 3 ? 24 : 16 - 8 * a) & 0xff;
          sums[a] += va;
          for (int b = a; b < parts; b++) {
            squares[k++] += va * (block[i] >> (b == 3 ? 24 : 16 - 8 * b) & 0xff);
          }
        }
      }
      cost += aside(count, parts);
    }
    return cost;
  }

  private double aside(int count, int parts) {
    double all = 0;
    int k = 0;
    int widest = 0;
    double most = -1;
    for (int a = 0; a < parts; a++) {
      for (int b = a; b < parts; b++) {
        squares[k] -= sums[a] * sums[b] / count;
        if (a == b) {
          all += squares[k];
          if (squares[k] > most) {
            most = squares[k];
            widest = a;
          }
        }
        k++;
      }
    }
    double length = 0;
    double along = 0;
    for (int a = 0; a < parts; a++) {
      direction[a] = spread(a, widest, parts);
      length += direction[a] * direction[a];
    }
    for (int a = 0; a < parts && length > 0; a++) {
      for (int b = 0; b < parts; b++) {
        along += direction[a] * direction[b] * spread(a, b, parts) / length;
      }
    }
    return all - along;
  }

  private double spread(int a, int b, int parts) {
    int low = Math.min(a, b);
    int high = Math.max(a, b);
    return squares[low * parts - low * (low - 1) / 2 + high - low];
  }

  private void attempt(int mode, int number, int pattern, int second) {
    long off = trial.fit(block, mode, pattern, second);
    if (off < bestOff) {
      bestOff = off;
      patternNumber = number;
      UastcFit swap = best;
      best = trial;
      trial = swap;
    }
  }

  private void mode(int mode) {
    for (int code = 0; code < UastcTables.MODE_OF.length; code++) {
      if (UastcTables.MODE_OF[code] == mode) {
        out.put(code, Math.min(CODE_BITS, UastcTables.MODE_BITS[mode]));
        return;
      }
    }
  }

  private void write(int at) {
    int mode = best.mode;
    values(at, null);
    // What a reader sees is known once it is written; then once more, with the hints.
    try {
      reader.block(at, seen);
    } catch (ferry.stone.core.texture.ImageException e) {
      throw new IllegalStateException("a block of mode " + mode + " cannot be read", e);
    }
    out.begin(at);
    values(at, seen);
  }

  private void values(int at, int[] hinted) {
    int mode = best.mode;
    int subsets = UastcTables.SUBSETS[mode];
    mode(mode);
    if (hinted == null) {
      out.put(0, UastcTables.HINTS[mode]);
    } else {
      hints.write(out, mode, hinted);
    }
    if (subsets > 1) {
      out.put(patternNumber, subsets == 3 ? 4 : 5);
    }
    if (UastcTables.PLANES[mode] > 1 && mode != UastcTables.GREY_PLANES) {
      out.put(best.second, 2);
    }
    ends(UastcTables.RANGE[mode], 2 * UastcTables.PARTS[mode] * subsets);
    int seenSubsets = 0;
    int bits = UastcTables.WEIGHT_BITS[mode];
    for (int i = 0; i < 16; i++) {
      int subset = 1 << (best.pattern >>> 2 * i & 3);
      int own = (seenSubsets & subset) == 0 ? bits - 1 : bits;
      seenSubsets |= subset;
      for (int p = 0; p < UastcTables.PLANES[mode]; p++) {
        out.put(best.weights[UastcTables.PLANES[mode] * i + p], own);
      }
    }
  }

  /** First all digits of three or five values, in bundles, then the bits. */
  private void ends(int range, int count) {
    int bits = UastcTables.DIGITS[range][0];
    boolean trits = UastcTables.DIGITS[range][1] == 1;
    if (trits || UastcTables.DIGITS[range][2] == 1) {
      int bundle = trits ? 5 : 3;
      java.util.Arrays.fill(bundles, 0);
      for (int i = count - 1; i >= 0; i--) {
        bundles[i / bundle] = bundles[i / bundle] * (trits ? 3 : 5) + (best.ends[i] >> bits);
      }
      for (int i = 0; i * bundle < count; i++) {
        int left = Math.min(bundle, count - i * bundle);
        out.put(bundles[i], UastcTables.bundleBits(trits, left));
      }
    }
    for (int i = 0; i < count; i++) {
      out.put(best.ends[i] & (1 << bits) - 1, bits);
    }
  }
}
