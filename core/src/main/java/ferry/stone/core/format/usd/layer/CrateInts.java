package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import io.airlift.compress.MalformedInputException;
import io.airlift.compress.lz4.Lz4Decompressor;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * How crates pack bytes and whole numbers, after the standard's sources ({@code
 * pxr/base/tf/fastCompression.cpp}, {@code pxr/usd/sdf/integerCoding.cpp}): LZ4 blocks, and in them
 * differences of 0, 1, 2 or 4 bytes (0, 2, 4 or 8 for numbers of 64 bits), told by two bits each.
 */
final class CrateInts {
  /** Most bytes of one LZ4 block. */
  private static final int CHUNK = 0x7e00_0000;

  private CrateInts() {}

  /** Most bytes that packed whole numbers take before LZ4. */
  static long coded(long count, int bytes) {
    return count == 0 ? 0 : bytes + (2 * count + 7) / 8 + bytes * count;
  }

  /**
   * @param packed a count of chunks, then LZ4 blocks
   * @param most bytes that it unpacks to
   */
  static ByteBuffer unpack(CrateFile file, byte[] packed, long most, long place)
      throws FormatException {
    if (packed.length == 0 || most > Integer.MAX_VALUE - 16) {
      throw file.corrupt(place, "packed data has no room for what it claims.");
    }
    byte[] out = new byte[(int) most];
    int made = 0;
    int chunks = packed[0] & 0xff;
    try {
      if (chunks == 0) {
        made = decompress(packed, 1, packed.length - 1, out, 0);
      }
      ByteBuffer in = ByteBuffer.wrap(packed).order(ByteOrder.LITTLE_ENDIAN).position(1);
      for (int i = 0; i < chunks; i++) {
        int size = in.getInt();
        if (size < 0 || size > in.remaining()) {
          throw file.corrupt(place, "a packed block claims " + size + " bytes.");
        }
        made += decompress(packed, in.position(), size, out, made);
        in.position(in.position() + size);
      }
    } catch (MalformedInputException | IllegalArgumentException | BufferUnderflowException e) {
      throw file.corrupt(place, "a packed block cannot be unpacked.");
    }
    return ByteBuffer.wrap(out, 0, made).order(ByteOrder.LITTLE_ENDIAN);
  }

  private static int decompress(byte[] in, int from, int size, byte[] out, int at) {
    int room = Math.min(CHUNK, out.length - at);
    return new Lz4Decompressor().decompress(in, from, size, out, at, room);
  }

  /** Numbers of 32 bits. */
  static int[] ints(CrateFile file, ByteBuffer coded, int count, long place)
      throws FormatException {
    int[] all = new int[count];
    if (count == 0) {
      return all;
    }
    try {
      int common = coded.getInt();
      ByteBuffer codes = coded.slice();
      coded.position(coded.position() + (2 * count + 7) / 8);
      int before = 0;
      for (int i = 0; i < count; i++) {
        int code = codes.get(i / 4) >> 2 * (i % 4) & 3;
        before +=
            switch (code) {
              case 0 -> common;
              case 1 -> coded.get();
              case 2 -> coded.getShort();
              default -> coded.getInt();
            };
        all[i] = before;
      }
    } catch (BufferUnderflowException | IllegalArgumentException | IndexOutOfBoundsException e) {
      throw file.corrupt(place, "packed whole numbers end before all " + count + " are there.");
    }
    return all;
  }

  /** Numbers of 64 bits. */
  static long[] longs(CrateFile file, ByteBuffer coded, int count, long place)
      throws FormatException {
    long[] all = new long[count];
    if (count == 0) {
      return all;
    }
    try {
      long common = coded.getLong();
      ByteBuffer codes = coded.slice();
      coded.position(coded.position() + (2 * count + 7) / 8);
      long before = 0;
      for (int i = 0; i < count; i++) {
        int code = codes.get(i / 4) >> 2 * (i % 4) & 3;
        before +=
            switch (code) {
              case 0 -> common;
              case 1 -> coded.getShort();
              case 2 -> coded.getInt();
              default -> coded.getLong();
            };
        all[i] = before;
      }
    } catch (BufferUnderflowException | IllegalArgumentException | IndexOutOfBoundsException e) {
      throw file.corrupt(place, "packed whole numbers end before all " + count + " are there.");
    }
    return all;
  }
}
