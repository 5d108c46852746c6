package ferry.stone.core.format.gltf;

import java.io.ByteArrayOutputStream;
import java.util.Arrays;

/**
 * Packs vertex attributes into the bitstream that EXT_meshopt_compression publishes, for tests of
 * {@link MeshoptDecoder}.
 */
final class MeshoptEncoder {
  private static final int GROUP = 16;
  private static final int TAIL = 32;

  private MeshoptEncoder() {}

  /**
   * @param data {@code count} elements of {@code stride} bytes, a multiple of 4 up to 256
   */
  static byte[] attributes(byte[] data, int count, int stride) {
    ByteArrayOutputStream out = new ByteArrayOutputStream(data.length / 2 + 64);
    out.write(0xa0);
    byte[] first = Arrays.copyOf(data, stride);
    byte[] last = first.clone();
    int most = MeshoptDecoder.blockElements(stride);
    int[] deltas = new int[most];
    for (int from = 0; from < count; from += most) {
      int elements = Math.min(most, count - from);
      for (int b = 0; b < stride; b++) {
        int value = last[b] & 0xff;
        Arrays.fill(deltas, 0);
        for (int i = 0; i < elements; i++) {
          int now = data[(from + i) * stride + b] & 0xff;
          int delta = (byte) (now - value);
          deltas[i] = (delta << 1 ^ delta >> 31) & 0xff;
          value = now;
        }
        last[b] = (byte) value;
        block(out, deltas, (elements + GROUP - 1) / GROUP);
      }
    }
    int pad = Math.max(0, TAIL - stride);
    out.writeBytes(new byte[pad]);
    out.writeBytes(first);
    return out.toByteArray();
  }

  private static void block(ByteArrayOutputStream out, int[] deltas, int groups) {
    byte[] header = new byte[(groups + 3) / 4];
    int[] codes = new int[groups];
    for (int g = 0; g < groups; g++) {
      codes[g] = cheapest(deltas, GROUP * g);
      header[g / 4] |= (byte) (codes[g] << 2 * (g % 4));
    }
    out.writeBytes(header);
    for (int g = 0; g < groups; g++) {
      group(out, deltas, GROUP * g, codes[g]);
    }
  }

  private static int cheapest(int[] deltas, int from) {
    int zeros = 0;
    int overTwo = 0;
    int overFour = 0;
    for (int i = from; i < from + GROUP; i++) {
      zeros += deltas[i] == 0 ? 1 : 0;
      overTwo += deltas[i] >= 3 ? 1 : 0;
      overFour += deltas[i] >= 15 ? 1 : 0;
    }
    if (zeros == GROUP) {
      return 0;
    }
    int two = 4 + overTwo;
    int four = 8 + overFour;
    return two <= four && two < GROUP ? 1 : four < GROUP ? 2 : 3;
  }

  private static void group(ByteArrayOutputStream out, int[] deltas, int from, int code) {
    if (code == 0) {
      return;
    }
    if (code == 3) {
      for (int i = from; i < from + GROUP; i++) {
        out.write(deltas[i]);
      }
      return;
    }
    int bits = 2 * code;
    int escape = (1 << bits) - 1;
    int packed = 0;
    for (int i = 0; i < GROUP; i++) {
      packed = packed << bits | Math.min(escape, deltas[from + i]);
      if ((i + 1) * bits % 8 == 0) {
        out.write(packed);
        packed = 0;
      }
    }
    for (int i = from; i < from + GROUP; i++) {
      if (deltas[i] >= escape) {
        out.write(deltas[i]);
      }
    }
  }
}
