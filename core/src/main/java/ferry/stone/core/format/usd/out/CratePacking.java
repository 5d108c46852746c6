package ferry.stone.core.format.usd.out;

import io.airlift.compress.lz4.Lz4Compressor;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;

/**
 * Packs bytes and whole numbers as crates have them: one LZ4 block behind a 0, and in it
 * differences of 0, 1, 2 or 4 bytes told by two bits each.
 */
final class CratePacking {
  /** So many differences are looked at to find the one that is most frequent. */
  private static final int LOOKED_AT = 4096;

  private static final VarHandle WORD =
      MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);

  private CratePacking() {}

  /** One block of LZ4. */
  static byte[] lz4(byte[] bytes, int count) {
    ByteBuffer block = block(bytes, count, 0);
    return Arrays.copyOf(block.array(), block.position());
  }

  /**
   * One block of LZ4, which ends at the position of the buffer.
   *
   * @param room bytes left free before it
   */
  private static ByteBuffer block(byte[] bytes, int count, int room) {
    Lz4Compressor packer = new Lz4Compressor();
    int start = room + 1;
    byte[] out = new byte[start + packer.maxCompressedLength(count)];
    int size = packer.compress(bytes, 0, count, out, start, out.length - start);
    return ByteBuffer.wrap(out).order(ByteOrder.LITTLE_ENDIAN).position(start + size);
  }

  /** Whole numbers of 32 bits. */
  static byte[] ints(int[] all) {
    ByteBuffer block = ints(all, 0);
    return Arrays.copyOf(block.array(), block.position());
  }

  /**
   * Whole numbers of 32 bits, packed up to the position of the buffer. Sizes are worked out without
   * a branch, and four bytes are written of each step whatever its size: the next one begins where
   * it ends.
   *
   * @param room bytes left free before them
   */
  static ByteBuffer ints(int[] all, int room) {
    int count = all.length;
    int at = 4 + (2 * count + 7) / 8;
    byte[] bytes = new byte[at + 4 * count];
    int common = common(all);
    WORD.set(bytes, 0, common);
    int before = 0;
    int i = 0;
    for (; i + 3 < count; i += 4) {
      int a = all[i] - before;
      int b = all[i + 1] - all[i];
      int c = all[i + 2] - all[i + 1];
      int d = all[i + 3] - all[i + 2];
      before = all[i + 3];
      int ofA = code(a, common);
      int ofB = code(b, common);
      int ofC = code(c, common);
      int ofD = code(d, common);
      bytes[4 + (i >> 2)] = (byte) (ofA | ofB << 2 | ofC << 4 | ofD << 6);
      WORD.set(bytes, at, a);
      at += 1 << ofA >> 1;
      WORD.set(bytes, at, b);
      at += 1 << ofB >> 1;
      WORD.set(bytes, at, c);
      at += 1 << ofC >> 1;
      WORD.set(bytes, at, d);
      at += 1 << ofD >> 1;
    }
    int codes = 0;
    for (int k = 0; i < count; i++, k++) {
      int step = all[i] - before;
      before = all[i];
      int code = code(step, common);
      WORD.set(bytes, at, step);
      at += 1 << code >> 1;
      codes |= code << 2 * k;
      bytes[4 + (i >> 2)] = (byte) codes;
    }
    return block(bytes, at, room);
  }

  /** 0 for the common step, else 1, 2 or 3 for one of 8, 16 or 32 bits. */
  private static int code(int step, int common) {
    int other = step ^ common;
    int size = step ^ step >> 31;
    return -((other | -other) >>> 31) & 1 + isMore(size >>> 7) + isMore(size >>> 15);
  }

  /** 1 for a number above 0, 0 for 0. */
  private static int isMore(int number) {
    return -number >>> 31;
  }

  private static int common(int[] all) {
    int count = Math.min(LOOKED_AT, all.length);
    int[] steps = new int[count];
    for (int i = 0; i < count; i++) {
      steps[i] = all[i] - (i == 0 ? 0 : all[i - 1]);
    }
    Arrays.sort(steps);
    int best = count == 0 ? 0 : steps[0];
    int most = 0;
    int run = 0;
    for (int i = 0; i < count; i++) {
      run = i > 0 && steps[i] == steps[i - 1] ? run + 1 : 1;
      if (run > most) {
        most = run;
        best = steps[i];
      }
    }
    return best;
  }
}
