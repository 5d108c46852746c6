package ferry.stone.core.texture.ktx;

/** Bits of a block, the lowest of each byte first. */
final class UastcBits {
  private final byte[] into;
  private int at;

  UastcBits(byte[] into) {
    this.into = into;
  }

  /** Begins a block at a byte, which must be clear. */
  void begin(int from) {
    at = 8 * from;
  }

  void put(int value, int count) {
    for (int i = 0; i < count; i++, at++) {
      into[at >> 3] |= (byte) ((value >> i & 1) << (at & 7));
    }
  }
}
