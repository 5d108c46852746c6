package ferry.stone.core.format.gltf.draco;

/** Numbers coded by rANS (specification, section "Symbol Decoding"). */
final class RansSymbols {
  private static final int TAG_BITS = 5;
  private static final int MOST_BITS = 18;
  private static final int LEAST_PRECISION = 12;
  private static final int MOST_PRECISION = 20;

  private final int precision;
  private final int[] symbolAt;
  private final int[] probability;
  private final int[] before;
  private byte[] bytes;
  private int from;
  private int at;
  private long state;

  private RansSymbols(DracoBytes in, int bitLength) throws DracoException {
    int bits = Math.max(LEAST_PRECISION, Math.min(MOST_PRECISION, 3 * bitLength / 2));
    precision = 1 << bits;
    int symbols = in.count("symbols", 64L * in.remaining());
    probability = new int[symbols];
    for (int i = 0; i < symbols; i++) {
      int head = in.u8();
      int token = head & 3;
      if (token == 3) {
        // A run of symbols that do not occur.
        i += head >> 2;
        if (i >= symbols) {
          throw new DracoException("its table of symbols is too long");
        }
      } else {
        int value = head >> 2;
        for (int b = 0; b < token; b++) {
          value |= in.u8() << 8 * (b + 1) - 2;
        }
        probability[i] = value;
      }
    }
    before = new int[symbols];
    symbolAt = new int[symbols == 0 ? 0 : precision];
    int sum = 0;
    for (int i = 0; i < symbols; i++) {
      before[i] = sum;
      if (probability[i] > precision - sum) {
        throw new DracoException("its table of symbols does not add up");
      }
      java.util.Arrays.fill(symbolAt, sum, sum + probability[i], i);
      sum += probability[i];
    }
    if (symbols > 0 && sum != precision) {
      throw new DracoException("its table of symbols does not add up");
    }
  }

  private void start(DracoBytes in) throws DracoException {
    DracoBytes part = in.part(in.varint());
    bytes = part.array();
    from = part.at();
    int size = part.remaining();
    if (size < 1) {
      throw new DracoException("coded numbers are missing");
    }
    int last = bytes[from + size - 1] & 0xff;
    int more = last >> 6;
    if (more >= size) {
      throw new DracoException("coded numbers do not end as they should");
    }
    at = from + size - 1 - more;
    state = last & 0x3f;
    for (int i = more - 1; i >= 0; i--) {
      state = state << 8 | bytes[at + i] & 0xff;
    }
    state += 4L * precision;
    if (state >= 4L * precision * 256) {
      throw new DracoException("coded numbers do not end as they should");
    }
  }

  private int next() {
    while (state < 4L * precision && at > from) {
      state = state << 8 | bytes[--at] & 0xff;
    }
    int rest = (int) (state & precision - 1);
    int symbol = symbolAt[rest];
    state = state / precision * probability[symbol] + rest - before[symbol];
    return symbol;
  }

  /**
   * @param count of numbers
   * @param components numbers that share a tag
   */
  static int[] read(DracoBytes in, int count, int components) throws DracoException {
    int[] out = new int[count];
    if (count == 0) {
      return out;
    }
    int scheme = in.u8();
    if (scheme == 0) {
      RansSymbols tags = new RansSymbols(in, TAG_BITS);
      tags.must();
      tags.start(in);
      in.startBits();
      for (int i = 0; i < count; i += components) {
        int bits = tags.next();
        for (int j = 0; j < components && i + j < count; j++) {
          out[i + j] = in.bits(Math.min(32, bits));
        }
      }
      in.endBits();
    } else if (scheme == 1) {
      int bits = in.u8();
      if (bits < 1 || bits > MOST_BITS) {
        throw new DracoException("its symbols have " + bits + " bits");
      }
      RansSymbols symbols = new RansSymbols(in, bits);
      symbols.must();
      symbols.start(in);
      for (int i = 0; i < count; i++) {
        out[i] = symbols.next();
      }
    } else {
      throw new DracoException("its symbols are coded in an unknown way (" + scheme + ")");
    }
    return out;
  }

  private void must() throws DracoException {
    if (probability.length == 0) {
      throw new DracoException("its table of symbols is empty");
    }
  }
}
