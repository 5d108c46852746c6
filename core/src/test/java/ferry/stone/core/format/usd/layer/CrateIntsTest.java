package ferry.stone.core.format.usd.layer;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.MemoryFiles;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Packed whole numbers: packed here as the standard's sources say, and unpacked by the reader. */
class CrateIntsTest {
  private static CrateFile file() throws Exception {
    try (InputStream in = CrateIntsTest.class.getResourceAsStream("/usd/rich.usdc")) {
      MemoryFiles files = new MemoryFiles(Map.of("a.usdc", in.readAllBytes()));
      return new CrateFile("a.usdc", files.random("a.usdc"), Budget.of("a.usdc", files));
    }
  }

  /** Two bits a number: 0 the commonest difference, then one of 1, 2 or 4 bytes (2, 4 or 8). */
  private static ByteBuffer packed(long[] values, long common, boolean wide) {
    ByteBuffer out = ByteBuffer.allocate(32 + 9 * values.length).order(ByteOrder.LITTLE_ENDIAN);
    if (wide) {
      out.putLong(common);
    } else {
      out.putInt((int) common);
    }
    int codes = out.position();
    out.position(codes + (2 * values.length + 7) / 8);
    long before = 0;
    for (int i = 0; i < values.length; i++) {
      long difference = wide ? values[i] - before : (int) values[i] - (int) before;
      before = values[i];
      int code = 3;
      if (difference == common) {
        code = 0;
      } else if (wide ? difference == (short) difference : difference == (byte) difference) {
        code = 1;
        put(out, difference, wide ? 2 : 1);
      } else if (wide ? difference == (int) difference : difference == (short) difference) {
        code = 2;
        put(out, difference, wide ? 4 : 2);
      } else {
        put(out, difference, wide ? 8 : 4);
      }
      int at = codes + i / 4;
      out.put(at, (byte) (out.get(at) | code << 2 * (i % 4)));
    }
    return out.flip();
  }

  private static void put(ByteBuffer out, long value, int bytes) {
    for (int i = 0; i < bytes; i++) {
      out.put((byte) (value >> 8 * i));
    }
  }

  @Test
  void whatIsPackedComesBack() throws Exception {
    CrateFile file = file();
    Random random = new Random(2);
    for (int round = 0; round < 300; round++) {
      int count = 1 + random.nextInt(40);
      long[] values = new long[count];
      boolean wide = round % 2 == 0;
      for (int i = 0; i < count; i++) {
        int bits = random.nextInt(wide ? 64 : 32);
        long any = random.nextLong() >> 63 - bits;
        values[i] = wide ? any : (int) any;
      }
      if (wide) {
        ByteBuffer bytes = packed(values, values[0], true);
        assertThat(CrateInts.longs(file, bytes, count, 0)).isEqualTo(values);
      } else {
        int[] wanted = new int[count];
        for (int i = 0; i < count; i++) {
          wanted[i] = (int) values[i];
        }
        ByteBuffer bytes = packed(values, 1, false);
        assertThat(CrateInts.ints(file, bytes, count, 0)).isEqualTo(wanted);
      }
    }
  }

  @Test
  void whatEndsTooEarlyIsToldAndNoMemoryIsTakenForIt() throws Exception {
    CrateFile file = file();
    ByteBuffer few = packed(new long[] {1, 70_000, 3}, 1, false);
    assertThatThrownBy(() -> CrateInts.ints(file, few, 30, 0))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("end before all 30");
    assertThatThrownBy(() -> CrateInts.unpack(file, new byte[0], 8, 0))
        .isInstanceOf(FormatException.class);
    assertThatThrownBy(() -> CrateInts.unpack(file, new byte[] {0, 1, 2}, 1L << 40, 0))
        .isInstanceOf(FormatException.class);
    assertThatThrownBy(() -> CrateInts.unpack(file, new byte[] {3, 0, 0, 0, 127}, 64, 0))
        .isInstanceOf(FormatException.class);
    assertThatThrownBy(() -> file.claim(1L << 50, 0, "a table"))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("a table claims");
  }
}
