package ferry.stone.core.texture.ktx;

import ferry.stone.core.texture.ImageException;

/**
 * UASTC blocks of 4 × 4 pixels: a part of ASTC (Khronos Data Format specification 1.3, section 23)
 * in 19 modes, stored in an order of its own ("UASTC Texture Specification", Basis Universal).
 */
final class Uastc {
  static final int BLOCK = 16;
  private final byte[] file;
  private long at;
  private final int[] ends = new int[18];
  private final int[] low = new int[12];
  private final int[] high = new int[12];
  private final int[] weights = new int[32];

  Uastc(byte[] file) {
    this.file = file;
  }

  /**
   * Decodes the block at a byte.
   *
   * @param into 16 pixels as ARGB, row by row
   */
  void block(int from, int[] into) throws ImageException {
    at = 8L * from;
    int mode = UastcTables.MODE_OF[file[from] & 0x7f];
    if (mode == UastcTables.NO_MODE) {
      throw new ImageException("a block of the image is of an unknown mode");
    }
    at += UastcTables.MODE_BITS[mode];
    if (mode == UastcTables.SOLID) {
      int colour = bits(8) << 16 | bits(8) << 8 | bits(8) | bits(8) << 24;
      java.util.Arrays.fill(into, 0, 16, colour);
      return;
    }
    at += UastcTables.HINTS[mode];
    int subsets = UastcTables.SUBSETS[mode];
    int pattern = pattern(mode, subsets);
    int planes = UastcTables.PLANES[mode];
    int second = planes == 1 ? -1 : mode == UastcTables.GREY_PLANES ? 3 : bits(2);
    colours(mode, subsets);
    weights(mode, pattern, planes);
    int[] table = UastcTables.WEIGHTS[UastcTables.WEIGHT_BITS[mode]];
    for (int i = 0; i < 16; i++) {
      int subset = pattern >>> 2 * i & 3;
      int pixel = 0;
      for (int c = 0; c < 4; c++) {
        int weight = table[weights[planes * i + (c == second ? 1 : 0)]];
        int l = low[4 * subset + c];
        int h = high[4 * subset + c];
        int value = (l * 257 * (64 - weight) + h * 257 * weight + 32 >> 6) >> 8;
        pixel |= value << (c == 3 ? 24 : 16 - 8 * c);
      }
      into[i] = pixel;
    }
  }

  private int pattern(int mode, int subsets) throws ImageException {
    if (subsets == 1) {
      return 0;
    }
    int[] patterns = UastcTables.patterns(mode);
    int number = bits(subsets == 3 ? 4 : 5);
    if (number >= patterns.length) {
      throw new ImageException("a block of the image is parted in an unknown way");
    }
    return patterns[number];
  }

  private void colours(int mode, int subsets) {
    int parts = UastcTables.PARTS[mode];
    int range = UastcTables.RANGE[mode];
    ends(range, 2 * parts * subsets);
    for (int s = 0; s < subsets; s++) {
      for (int c = 0; c < 4; c++) {
        // Two parts are grey and alpha.
        int part = parts == 2 ? (c == 3 ? 1 : 0) : c;
        boolean there = part < parts;
        int place = 2 * (s * parts + part);
        low[4 * s + c] = there ? UastcTables.full(ends[place], range) : 255;
        high[4 * s + c] = there ? UastcTables.full(ends[place + 1], range) : 255;
      }
    }
  }

  /** Numbers of a range: first all digits of three or five values, in bundles, then the bits. */
  private void ends(int range, int count) {
    int bits = UastcTables.DIGITS[range][0];
    boolean trits = UastcTables.DIGITS[range][1] == 1;
    boolean quints = UastcTables.DIGITS[range][2] == 1;
    int bundle = trits ? 5 : 3;
    int values = trits ? 3 : 5;
    int[] bundles = new int[6];
    if (trits || quints) {
      int number = (count + bundle - 1) / bundle;
      for (int i = 0; i < number; i++) {
        int left = Math.min(bundle, count - i * bundle);
        bundles[i] = bits(UastcTables.bundleBits(trits, left));
      }
    }
    for (int i = 0; i < count; i++) {
      int value = bits(bits);
      if (trits || quints) {
        value |= bundles[i / bundle] % values << bits;
        bundles[i / bundle] /= values;
      }
      ends[i] = value;
    }
  }

  /** The first weight of each subset lacks its highest bit, which is 0. */
  private void weights(int mode, int pattern, int planes) {
    int bits = UastcTables.WEIGHT_BITS[mode];
    int seen = 0;
    for (int i = 0; i < 16; i++) {
      int subset = 1 << (pattern >>> 2 * i & 3);
      int own = (seen & subset) == 0 ? bits - 1 : bits;
      seen |= subset;
      for (int p = 0; p < planes; p++) {
        weights[planes * i + p] = bits(own);
      }
    }
  }

  private int bits(int count) {
    int value = 0;
    for (int i = 0; i < count; i++, at++) {
      value |= (file[(int) (at >> 3)] >> (at & 7) & 1) << i;
    }
    return value;
  }
}
