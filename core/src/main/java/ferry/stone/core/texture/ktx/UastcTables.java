package ferry.stone.core.texture.ktx;

/**
 * The modes of UASTC and what they count in ("UASTC Texture Specification", Basis Universal; the
 * ranges are ASTC's, Khronos Data Format specification 1.3, section 23).
 */
final class UastcTables {
  static final int SOLID = 8;
  static final int NO_MODE = 19;

  /** The mode that the lowest seven bits of a block say. */
  static final int[] MODE_OF = {
    11, 0, 10, 3, 11, 15, 12, 7, 11, 18, 10, 5, 11, 14, 12, 9, 11, 0, 10, 4, 11, 16, 12, 8,
    11, 18, 10, 6, 11, 2, 12, 13, 11, 0, 10, 3, 11, 17, 12, 7, 11, 18, 10, 5, 11, 14, 12, 9,
    11, 0, 10, 4, 11, 1, 12, 8, 11, 18, 10, 6, 11, 2, 12, 13, 11, 0, 10, 3, 11, 19, 12, 7,
    11, 18, 10, 5, 11, 14, 12, 9, 11, 0, 10, 4, 11, 16, 12, 8, 11, 18, 10, 6, 11, 2, 12, 13,
    11, 0, 10, 3, 11, 17, 12, 7, 11, 18, 10, 5, 11, 14, 12, 9, 11, 0, 10, 4, 11, 1, 12, 8,
    11, 18, 10, 6, 11, 2, 12, 13
  };

  static final int[] MODE_BITS = new int[NO_MODE + 1];

  static {
    int[] times = new int[NO_MODE + 1];
    for (int mode : MODE_OF) {
      times[mode]++;
    }
    for (int mode = 0; mode <= NO_MODE; mode++) {
      MODE_BITS[mode] = 7 - Integer.numberOfTrailingZeros(times[mode]);
    }
  }

  static final int[] WEIGHT_BITS = {4, 2, 3, 2, 2, 3, 2, 2, 0, 2, 4, 2, 3, 1, 2, 4, 2, 2, 5};
  static final int[] RANGE = {
    19, 20, 8, 7, 12, 20, 18, 12, 0, 8, 13, 13, 19, 20, 20, 20, 20, 20, 11
  };
  static final int[] SUBSETS = {1, 1, 2, 3, 2, 1, 1, 2, 0, 2, 1, 1, 1, 1, 1, 1, 2, 1, 1};
  static final int[] PLANES = {1, 1, 1, 1, 1, 1, 2, 1, 0, 1, 1, 2, 1, 2, 1, 1, 1, 2, 1};
  static final int[] PARTS = {3, 3, 3, 3, 3, 3, 3, 3, 4, 4, 4, 4, 4, 4, 4, 2, 2, 2, 3};

  /** Bits that only help to make blocks of other formats. */
  static final int[] HINTS = {
    15, 15, 15, 15, 15, 15, 15, 15, 0, 23, 17, 17, 17, 23, 23, 23, 23, 23, 15
  };

  static final int GREY_PLANES = 17;
  static final int SEVENTH = 7;

  /** Which subset each pixel is in: two bits a pixel, the first lowest. */
  static final int[] TWO = {
    0x50505050, 0x40404040, 0x01010101, 0x54505040, 0x05151555, 0x55545450, 0x00010515,
    0x01051555, 0x50400000, 0x00000105, 0x55544000, 0x01155555, 0x00000115, 0x00005555,
    0x55555500, 0x00555555, 0x55551501, 0x40545555, 0x00405054, 0x00004050, 0x15050100,
    0x50545555, 0x15050501, 0x00404050, 0x50545455, 0x14141414, 0x55000055, 0x11111111,
    0x00550055, 0x05145041
  };

  static final int[] THREE = {
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

  static final int[] SEVEN = {
    0x00005500, 0x10101010, 0x00010505, 0x50504000, 0x55005555, 0x04040404, 0x55555040,
    0x50505054, 0x05500005, 0x00005454, 0x15150000, 0x05000005, 0x00005054, 0x55554000,
    0x14555555, 0x01050505, 0x01015555, 0x01051450, 0x00005455
  };

  /** Bits, three-valued and five-valued digits of each range (ASTC, table of colour ranges). */
  static final int[][] DIGITS = {
    {1, 0, 0}, {0, 1, 0}, {2, 0, 0}, {0, 0, 1}, {1, 1, 0}, {3, 0, 0}, {1, 0, 1}, {2, 1, 0},
    {4, 0, 0}, {2, 0, 1}, {3, 1, 0}, {5, 0, 0}, {3, 0, 1}, {4, 1, 0}, {6, 0, 0}, {4, 0, 1},
    {5, 1, 0}, {7, 0, 0}, {5, 0, 1}, {6, 1, 0}, {8, 0, 0}
  };

  /** How bits spread to 9 (a the lowest), and what a digit counts (ASTC, unquantization). */
  static final String[] SPREAD = {
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

  static final int[] COUNTS = {
    0, 0, 0, 0, 204, 0, 113, 93, 0, 54, 44, 0, 26, 22, 0, 13, 11, 0, 6, 5, 0
  };

  static final int[][] WEIGHTS = {
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

  private static final int[] TRIT_BITS = {0, 2, 4, 5, 7, 8};
  private static final int[] QUINT_BITS = {0, 3, 5, 7};

  private UastcTables() {}

  /** How many bits so many digits of three values, or of five, take. */
  static int bundleBits(boolean trits, int digits) {
    return trits ? TRIT_BITS[digits] : QUINT_BITS[digits];
  }

  /** The ways a mode parts its pixels into subsets. */
  static int[] patterns(int mode) {
    return SUBSETS[mode] == 3 ? THREE : mode == SEVENTH ? SEVEN : TWO;
  }

  /** A number of a range as 0 to 255. */
  static int full(int value, int range) {
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
}
