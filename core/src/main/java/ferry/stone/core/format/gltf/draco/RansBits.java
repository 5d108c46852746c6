package ferry.stone.core.format.gltf.draco;

/** Bits coded by rANS with one probability (specification, section "rANS Bit Decoder"). */
final class RansBits {
  private static final int PRECISION = 256;
  private static final int LOWEST = 4096;

  private final byte[] bytes;
  private final int from;
  private final int zero;
  private int at;
  private int state;

  /** Reads the head and goes past the coded bits. */
  RansBits(DracoBytes in) throws DracoException {
    zero = in.u8();
    DracoBytes part = in.part(in.varint());
    bytes = part.array();
    from = part.at();
    int size = part.remaining();
    if (size < 1) {
      throw new DracoException("coded bits are missing");
    }
    int last = bytes[from + size - 1] & 0xff;
    int kind = last >> 6;
    if (kind == 3 || kind >= size) {
      throw new DracoException("coded bits do not end as they should");
    }
    at = from + size - 1 - kind;
    state = last & 0x3f;
    for (int i = kind - 1; i >= 0; i--) {
      state = state << 8 | bytes[at + i] & 0xff;
    }
    state += LOWEST;
    if (state >= LOWEST * 256) {
      throw new DracoException("coded bits do not end as they should");
    }
  }

  boolean next() {
    int one = PRECISION - zero;
    if (state < LOWEST && at > from) {
      state = state << 8 | bytes[--at] & 0xff;
    }
    int whole = state / PRECISION * one;
    int rest = state % PRECISION;
    boolean bit = rest < one;
    state = bit ? whole + rest : state - whole - one;
    return bit;
  }
}
