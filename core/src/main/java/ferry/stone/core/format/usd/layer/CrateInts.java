package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import io.airlift.compress.MalformedInputException;
import io.airlift.compress.lz4.Lz4Decompressor;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
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

  private static final VarHandle SHORTS =
      MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.LITTLE_ENDIAN);
  private static final VarHandle INTS =
      MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);

  private static final byte[] FOUR = four();

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
    int codes = coded.position() + Integer.BYTES;
    int at = codes + (int) ((2L * count + 7) / 8);
    byte[] bytes = coded.array();
    if (at > coded.limit() || differences(bytes, codes, count) > coded.limit() - at) {
      throw file.corrupt(place, "packed whole numbers end before all " + count + " are there.");
    }
    int common = coded.getInt();
    int before = 0;
    for (int i = 0; i < count; i++) {
      switch (bytes[codes + (i >> 2)] >> 2 * (i & 3) & 3) {
        case 0 -> before += common;
        case 1 -> before += bytes[at++];
        case 2 -> {
          before += (short) SHORTS.get(bytes, at);
          at += Short.BYTES;
        }
        default -> {
          before += (int) INTS.get(bytes, at);
          at += Integer.BYTES;
        }
      }
      all[i] = before;
    }
    return all;
  }

  /** How many bytes the differences of 32 bits take that codes tell of. */
  private static long differences(byte[] bytes, int codes, int count) {
    long sum = 0;
    int whole = count / 4;
    for (int i = 0; i < whole; i++) {
      sum += FOUR[bytes[codes + i] & 0xff];
    }
    int left = count % 4;
    return left == 0 ? sum : sum + FOUR[bytes[codes + whole] & (1 << 2 * left) - 1];
  }

  /** How many bytes the differences take that one byte of codes tells of. */
  private static byte[] four() {
    byte[] bytes = new byte[256];
    for (int codes = 0; codes < bytes.length; codes++) {
      for (int i = 0; i < 4; i++) {
        int code = codes >> 2 * i & 3;
        // 0, 1, 2 or 4.
        bytes[codes] += (byte) (code + (code + 1 >> 2));
      }
    }
    return bytes;
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
