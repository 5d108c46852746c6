package ferry.stone.core.texture.ktx;

import ferry.stone.core.texture.ImageException;

/**
 * UASTC blocks of 4 × 4 pixels: a part of ASTC (Khronos Data Format specification 1.3, section 23)
 * in 19 modes, stored in an order of its own ("UASTC Texture Specification", Basis Universal).
 */
final class Uastc {
  static final int BLOCK = 16;
  private static final int SOLID = 8;
  private static final int NO_MODE = 19;

  /** The mode that the lowest seven bits of a block say. */
  private static final int[] MODE_OF = {
    11, 0, 10, 3, 11, 15, 12, 7, 11, 18, 10, 5, 11, 14, 12, 9, 11, 0, 10, 4, 11, 16, 12, 8,
    11, 18, 10, 6, 11, 2, 12, 13, 11, 0, 10, 3, 11, 17, 12, 7, 11, 18, 10, 5, 11, 14, 12, 9,
    11, 0, 10, 4, 11, 1, 12, 8, 11, 18, 10, 6, 11, 2, 12, 13, 11, 0, 10, 3, 11, 19, 12, 7,
    11, 18, 10, 5, 11, 14, 12, 9, 11, 0, 10, 4, 11, 16, 12, 8, 11, 18, 10, 6, 11, 2, 12, 13,
    11, 0, 10, 3, 11, 17, 12, 7, 11, 18, 10, 5, 11, 14, 12, 9, 11, 0, 10, 4, 11, 1, 12, 8,
    11, 18, 10, 6, 11, 2, 12, 13
  };

  private static final int[] MODE_BITS = new int[NO_MODE + 1];

  static {
    int[] times = new int[NO_MODE + 1];
    for (int mode : MODE_OF) {
      times[mode]++;
    }
    for (int mode = 0; mode <= NO_MODE; mode++) {
      MODE_BITS[mode] = 7 - Integer.numberOfTrailingZeros(times[mode]);
    }
  }

  private static final int[] WEIGHT_BITS = {
    4, 2, 3, 2, 2, 3, 2, 2, 0, 2, 4, 2, 3, 1, 2, 4, 2, 2, 5
  };
  private static final int[] RANGE = {
    19, 20, 8, 7, 12, 20, 18, 12, 0, 8, 13, 13, 19, 20, 20, 20, 20, 20, 11
  };
  private static final int[] SUBSETS = {1, 1, 2, 3, 2, 1, 1, 2, 0, 2, 1, 1, 1, 1, 1, 1, 2, 1, 1};
  private static final int[] PLANES = {1, 1, 1, 1, 1, 1, 2, 1, 0, 1, 1, 2, 1, 2, 1, 1, 1, 2, 1};
  private static final int[] PARTS = {3, 3, 3, 3, 3, 3, 3, 3, 4, 4, 4, 4, 4, 4, 4, 2, 2, 2, 3};

  /** Bits that only help to make blocks of other formats. */
  private static final int[] HINTS = {
    15, 15, 15, 15, 15, 15, 15, 15, 0, 23, 17, 17, 17, 23, 23, 23, 23, 23, 15
  };

  private static final int GREY_PLANES = 17;
  private static final int SEVENTH = 7;

  /** Which subset each pixel is in: two bits a pixel, the first lowest. */
  private static final int[] TWO = {
    0x50505050, 0x40404040, 0x01010101, 0x54505040, 0x05151555, 0x55545450, 0x00010515,
    0x01051555, 0x50400000, 0x00000105, 0x55544000, 0x01155555, 0x00000115, 0x00005555,
    0x55555500, 0x00555555, 0x55551501, 0x40545555, 0x00405054, 0x00004050, 0x15050100,
    0x50545555, 0x15050501, 0x00404050, 0x50545455, 0x14141414, 0x55000055, 0x11111111,
    0x00550055, 0x05145041
  };

  private static final int[] THREE = {
    0xa5a50000,
    0xaa005555,
    0xaa000055,
    0x0000aa55,
    0x25252525,
    0x94949494,
    0x58585858,
    0x56560202,
    0x92929292,
    0x55aa0055,
    0xa05050a0
  };

  private static final int[] SEVEN = {
    0x00005500, 0x10101010, 0x00010505, 0x50504000, 0x55005555, 0x04040404, 0x55555040,
    0x50505054, 0x05500005, 0x00005454, 0x15150000, 0x05000005, 0x00005054, 0x55554000,
    0x14555555, 0x01050505, 0x01015555, 0x01051450, 0x00005455
  };

  /** Bits, three-valued and five-valued digits of each range (ASTC, table of colour ranges). */
  private static final int[][] DIGITS = {
    {1, 0, 0}, {0, 1, 0}, {2, 0, 0}, {0, 0, 1}, {1, 1, 0}, {3, 0, 0}, {1, 0, 1}, {2, 1, 0},
    {4, 0, 0}, {2, 0, 1}, {3, 1, 0}, {5, 0, 0}, {3, 0, 1}, {4, 1, 0}, {6, 0, 0}, {4, 0, 1},
    {5, 1, 0}, {7, 0, 0}, {5, 0, 1}, {6, 1, 0}, {8, 0, 0}
  };

  /** How bits spread to 9 (a the lowest), and what a digit counts (ASTC, unquantization). */
  private static final String[] SPREAD = {
    "",
    "",
    "",
    "",
    "000000000",
    "",
    "000000000",
    "b000b0bb0",
    "",
    "b0000bb00",
    "cb000cbcb",
    "",
    "cb0000cbc",
    "dcb000dcb",
    "",
    "dcb0000dc",
    "edcb000ed",
    "",
    "edcb0000e",
    "fedcb000f",
    ""
  };

  private static final int[] COUNTS = {
    0, 0, 0, 0, 204, 0, 113, 93, 0, 54, 44, 0, 26, 22, 0, 13, 11, 0, 6, 5, 0
  };

  private static final int[][] WEIGHTS = {
    {},
    {0, 64},
    {0, 21, 43, 64},
    {0, 9, 18, 27, 37, 46, 55, 64},
    {0, 4, 8, 12, 17, 21, 25, 29, 35, 39, 43, 47, 52, 56, 60, 64},
    {
      0, 2, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30, 34, 36, 38, 40, 42, 44, 46, 48, 50,
      52, 54, 56, 58, 60, 62, 64
    }
  };

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
    int mode = MODE_OF[file[from] & 0x7f];
    if (mode == NO_MODE) {
      throw new ImageException("a block of the image is of an unknown mode");
    }
    at += MODE_BITS[mode];
    if (mode == SOLID) {
      int colour = bits(8) << 16 | bits(8) << 8 | bits(8) | bits(8) << 24;
      java.util.Arrays.fill(into, 0, 16, colour);
      return;
    }
    at += HINTS[mode];
    int subsets = SUBSETS[mode];
    int pattern = pattern(mode, subsets);
    int planes = PLANES[mode];
    int second = planes == 1 ? -1 : mode == GREY_PLANES ? 3 : bits(2);
    colours(mode, subsets);
    weights(mode, pattern, planes);
    int[] table = WEIGHTS[WEIGHT_BITS[mode]];
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
    int[] patterns = subsets == 3 ? THREE : mode == SEVENTH ? SEVEN : TWO;
    int number = bits(subsets == 3 ? 4 : 5);
    if (number >= patterns.length) {
      throw new ImageException("a block of the image is parted in an unknown way");
    }
    return patterns[number];
  }

  private void colours(int mode, int subsets) {
    int parts = PARTS[mode];
    int range = RANGE[mode];
    ends(range, 2 * parts * subsets);
    for (int s = 0; s < subsets; s++) {
      for (int c = 0; c < 4; c++) {
        // Two parts are grey and alpha.
        int part = parts == 2 ? (c == 3 ? 1 : 0) : c;
        boolean there = part < parts;
        int place = 2 * (s * parts + part);
        low[4 * s + c] = there ? full(ends[place], range) : 255;
        high[4 * s + c] = there ? full(ends[place + 1], range) : 255;
      }
    }
  }

  /** Numbers of a range: first all digits of three or five values, in bundles, then the bits. */
  private void ends(int range, int count) {
    int bits = DIGITS[range][0];
    boolean trits = DIGITS[range][1] == 1;
    boolean quints = DIGITS[range][2] == 1;
    int bundle = trits ? 5 : 3;
    int values = trits ? 3 : 5;
    int[] bundles = new int[6];
    if (trits || quints) {
      int number = (count + bundle - 1) / bundle;
      for (int i = 0; i < number; i++) {
        int left = Math.min(bundle, count - i * bundle);
        bundles[i] =
            bits(trits ? new int[] {0, 2, 4, 5, 7, 8}[left] : new int[] {0, 3, 5, 7}[left]);
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

  /** A number of a range as 0 to 255. */
  private static int full(int value, int range) {
    int bits = DIGITS[range][0];
    int low = value & (1 << bits) - 1;
    if (COUNTS[range] == 0) {
      int full = 0;
      for (int left = 8; left > 0; left -= bits) {
        full |= left >= bits ? low << left - bits : low >> bits - left;
      }
      return full;
    }
    int a = (low & 1) == 1 ? 511 : 0;
    int b = 0;
    for (int i = 0; i < 9; i++) {
      char c = SPREAD[range].charAt(i);
      b = b << 1 | (c == '0' ? 0 : low >> c - 'a' & 1);
    }
    int v = (value >> bits) * COUNTS[range] + b ^ a;
    return a & 0x80 | v >> 2;
  }

  /** The first weight of each subset lacks its highest bit, which is 0. */
  private void weights(int mode, int pattern, int planes) {
    int bits = WEIGHT_BITS[mode];
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
