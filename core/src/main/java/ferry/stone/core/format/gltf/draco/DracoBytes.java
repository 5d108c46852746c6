package ferry.stone.core.format.gltf.draco;

/** A place in a stream: little-endian numbers, variable-length numbers, single bits. */
final class DracoBytes {
  private final byte[] bytes;
  private final int end;
  private int at;
  private long bit = -1;

  DracoBytes(byte[] bytes, int from, int end) {
    this.bytes = bytes;
    this.at = from;
    this.end = end;
  }

  byte[] array() {
    return bytes;
  }

  int at() {
    return at;
  }

  int remaining() {
    return end - at;
  }

  int u8() throws DracoException {
    need(1);
    return bytes[at++] & 0xff;
  }

  int i8() throws DracoException {
    need(1);
    return bytes[at++];
  }

  int u16() throws DracoException {
    return u8() | u8() << 8;
  }

  int i32() throws DracoException {
    return u16() | u16() << 16;
  }

  float f32() throws DracoException {
    return Float.intBitsToFloat(i32());
  }

  /** Seven bits a byte, lowest first; at most 2³¹ − 1. */
  int varint() throws DracoException {
    long value = 0;
    for (int shift = 0; shift < 35; shift += 7) {
      int b = u8();
      value |= (long) (b & 0x7f) << shift;
      if (b < 0x80) {
        if (value > Integer.MAX_VALUE) {
          throw new DracoException("a number of the stream is too large");
        }
        return (int) value;
      }
    }
    throw new DracoException("a number of the stream does not end");
  }

  /** A count of things, each of which takes a share of a byte at least. */
  int count(String what, long most) throws DracoException {
    int count = varint();
    if (count > most) {
      throw new DracoException("it claims " + count + " " + what + ", more than it can hold");
    }
    return count;
  }

  /** A part of the stream as a place of its own; this one goes on behind it. */
  DracoBytes part(int length) throws DracoException {
    need(length);
    DracoBytes part = new DracoBytes(bytes, at, at + length);
    at += length;
    return part;
  }

  void startBits() {
    bit = 8L * at;
  }

  /** The next bits, the first of them lowest. */
  int bits(int count) throws DracoException {
    if (bit + count > 8L * end) {
      throw new DracoException("the stream ends early");
    }
    int value = 0;
    for (int i = 0; i < count; i++, bit++) {
      value |= (bytes[(int) (bit >> 3)] >> (bit & 7) & 1) << i;
    }
    return value;
  }

  /** The next number begins with a byte again. */
  void endBits() {
    at = (int) (bit + 7 >> 3);
  }

  private void need(int count) throws DracoException {
    if (count < 0 || count > end - at) {
      throw new DracoException("the stream ends early");
    }
  }
}
