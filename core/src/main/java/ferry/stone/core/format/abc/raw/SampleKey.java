package ferry.stone.core.format.abc.raw;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * The key of a sample: 128 bits that equal values share. Austin Appleby's MurmurHash3, the variant
 * x64_128 with seed 0 (public domain), as the standard's own library computes it; {@code
 * AbcWritingTest} holds it to keys in an archive which that library wrote.
 *
 * @param low first half in the file
 * @param high second half
 * @param size bytes of the values
 */
record SampleKey(long low, long high, long size) {
  private static final long C1 = 0x87c37b91114253d5L;
  private static final long C2 = 0x4cf5ad432745937fL;
  private static final int BLOCK = 16;

  private static final VarHandle LONGS =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

  /** Of the first bytes of an array. */
  static SampleKey of(byte[] bytes, int size) {
    long h1 = 0;
    long h2 = 0;
    int whole = size / BLOCK * BLOCK;
    for (int i = 0; i < whole; i += BLOCK) {
      h1 ^= first((long) LONGS.get(bytes, i));
      h1 = (Long.rotateLeft(h1, 27) + h2) * 5 + 0x52dce729;
      h2 ^= second((long) LONGS.get(bytes, i + 8));
      h2 = (Long.rotateLeft(h2, 31) + h1) * 5 + 0x38495ab5;
    }
    long k1 = 0;
    long k2 = 0;
    for (int i = size - 1; i >= whole; i--) {
      int place = i - whole;
      long b = bytes[i] & 0xffL;
      if (place < 8) {
        k1 |= b << 8 * place;
      } else {
        k2 |= b << 8 * (place - 8);
      }
    }
    h1 ^= first(k1);
    h2 ^= second(k2);
    h1 ^= size;
    h2 ^= size;
    h1 += h2;
    h2 += h1;
    h1 = mixed(h1);
    h2 = mixed(h2);
    h1 += h2;
    h2 += h1;
    return new SampleKey(h1, h2, size);
  }

  private static long first(long k) {
    return Long.rotateLeft(k * C1, 31) * C2;
  }

  private static long second(long k) {
    return Long.rotateLeft(k * C2, 33) * C1;
  }

  private static long mixed(long value) {
    long k = value;
    k ^= k >>> 33;
    k *= 0xff51afd7ed558ccdL;
    k ^= k >>> 33;
    k *= 0xc4ceb9fe1a85ec53L;
    return k ^ k >>> 33;
  }
}
