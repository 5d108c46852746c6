package ferry.stone.core.texture.ktx;

import ferry.stone.core.texture.ImageException;

/**
 * A canonical Huffman code (Huffman 1952), stored by the lengths of its codes, which are coded
 * themselves.
 */
final class CodeTable {
  private static final int SYMBOL_BITS = 14;
  private static final int LONGEST = 32;
  private static final int[] ORDER = {
    17, 18, 19, 20, 0, 8, 7, 9, 6, 10, 5, 11, 4, 12, 3, 13, 2, 14, 1, 15, 16
  };

  /** Symbols by their codes' lengths, then by themselves. */
  private final int[] sorted;

  private final int[] count = new int[LONGEST];

  private CodeTable(int[] lengths) throws ImageException {
    int used = 0;
    for (int length : lengths) {
      count[length]++;
      used += length > 0 ? 1 : 0;
    }
    count[0] = 0;
    sorted = new int[used];
    int[] next = new int[LONGEST];
    long left = 1;
    for (int length = 1; length < LONGEST; length++) {
      left = 2 * left - count[length];
      if (left < 0) {
        throw new ImageException("a table of codes does not add up");
      }
      next[length] = length == 1 ? 0 : next[length - 1] + count[length - 1];
    }
    if (left != 0 && used != 1) {
      throw new ImageException("a table of codes does not add up");
    }
    for (int symbol = 0; symbol < lengths.length; symbol++) {
      if (lengths[symbol] > 0) {
        sorted[next[lengths[symbol]]++] = symbol;
      }
    }
  }

  static CodeTable read(CodedBits in) throws ImageException {
    int symbols = in.bits(SYMBOL_BITS);
    if (symbols == 0) {
      return new CodeTable(new int[0]);
    }
    int[] own = new int[ORDER.length];
    int given = in.bits(5);
    if (given < 1 || given > ORDER.length) {
      throw new ImageException("a table of codes does not add up");
    }
    for (int i = 0; i < given; i++) {
      own[ORDER[i]] = in.bits(3);
    }
    CodeTable code = new CodeTable(own);
    int[] lengths = new int[symbols];
    for (int i = 0; i < symbols; ) {
      int c = code.next(in);
      if (c <= 16) {
        lengths[i++] = c;
        continue;
      }
      int run =
          switch (c) {
            case 17 -> 3 + in.bits(3);
            case 18 -> 11 + in.bits(7);
            case 19 -> 3 + in.bits(2);
            default -> 7 + in.bits(7);
          };
      if (run > symbols - i || c > 18 && (i == 0 || lengths[i - 1] == 0)) {
        throw new ImageException("a table of codes does not add up");
      }
      for (int k = 0; k < run; k++, i++) {
        lengths[i] = c <= 18 ? 0 : lengths[i - 1];
      }
    }
    return new CodeTable(lengths);
  }

  int next(CodedBits in) throws ImageException {
    int code = 0;
    int first = 0;
    int index = 0;
    for (int length = 1; length < LONGEST; length++) {
      code |= in.bits(1);
      if (code - first < count[length]) {
        return sorted[index + code - first];
      }
      index += count[length];
      first = first + count[length] << 1;
      code <<= 1;
    }
    throw new ImageException("a code of the image is not in its table");
  }
}
