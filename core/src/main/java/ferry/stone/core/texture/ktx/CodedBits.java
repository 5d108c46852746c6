package ferry.stone.core.texture.ktx;

import ferry.stone.core.texture.ImageException;

/** Bits of a stream, the lowest of each byte first; behind the end there are zeros. */
final class CodedBits {
  private final byte[] bytes;
  private final int end;
  private long at;

  CodedBits(byte[] bytes, int from, int length) throws ImageException {
    if (from < 0 || length < 0 || (long) from + length > bytes.length) {
      throw new ImageException("a part of the image lies behind the end of the file");
    }
    this.bytes = bytes;
    at = 8L * from;
    end = from + length;
  }

  int bits(int count) throws ImageException {
    int value = 0;
    for (int i = 0; i < count; i++, at++) {
      int b = (int) (at >> 3);
      if (b >= end + 4) {
        throw new ImageException("the image ends early");
      }
      value |= (b < end ? bytes[b] >> (at & 7) & 1 : 0) << i;
    }
    return value;
  }

  /** Groups of so many bits, each with a bit that says whether another follows. */
  int groups(int size) throws ImageException {
    int value = 0;
    for (int shift = 0; shift < 32; shift += size) {
      int group = bits(size + 1);
      value |= (group & (1 << size) - 1) << shift;
      if (group >> size == 0) {
        return value;
      }
    }
    throw new ImageException("a number of the image does not end");
  }
}
