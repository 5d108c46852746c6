package ferry.stone.core.format.usd.out;

import io.airlift.compress.lz4.Lz4Compressor;
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

  private CratePacking() {}

  /** One block of LZ4. */
  static byte[] lz4(byte[] bytes, int count) {
    Lz4Compressor packer = new Lz4Compressor();
    byte[] out = new byte[1 + packer.maxCompressedLength(count)];
    int size = packer.compress(bytes, 0, count, out, 1, out.length - 1);
    return Arrays.copyOf(out, 1 + size);
  }

  /** Whole numbers of 32 bits. */
  static byte[] ints(int[] all) {
    int count = all.length;
    int head = (2 * count + 7) / 8;
    ByteBuffer out = ByteBuffer.allocate(4 + head + 4 * count).order(ByteOrder.LITTLE_ENDIAN);
    int common = common(all);
    out.putInt(common);
    out.position(4 + head);
    byte[] bytes = out.array();
    int before = 0;
    for (int i = 0; i < count; i++) {
      int step = all[i] - before;
      before = all[i];
      int code;
      if (step == common) {
        code = 0;
      } else if (step == (byte) step) {
        out.put((byte) step);
        code = 1;
      } else if (step == (short) step) {
        out.putShort((short) step);
        code = 2;
      } else {
        out.putInt(step);
        code = 3;
      }
      bytes[4 + i / 4] |= (byte) (code << 2 * (i % 4));
    }
    return lz4(bytes, out.position());
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
