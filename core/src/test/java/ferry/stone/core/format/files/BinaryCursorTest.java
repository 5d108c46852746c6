package ferry.stone.core.format.files;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.format.FormatException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Numbers and blocks across the edges of the window, forwards and back. */
class BinaryCursorTest {
  private static BinaryCursor cursor(byte[] bytes) {
    return new BinaryCursor(
        "a.bin", new TestFiles().with("a.bin", bytes).random("a.bin"), ByteOrder.LITTLE_ENDIAN);
  }

  @Test
  void readsWhatAPlainBufferReads() throws Exception {
    byte[] bytes = new byte[200_003];
    new Random(7).nextBytes(bytes);
    ByteBuffer plain = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
    BinaryCursor in = cursor(bytes);
    Random random = new Random(11);
    for (int i = 0; i < 20_000; i++) {
      int at = random.nextInt(bytes.length - 8);
      if (i % 3 == 0) {
        in.position(at);
        plain.position(at);
      }
      if (in.remaining() < 8) {
        in.position(0);
        plain.position(0);
      }
      switch (i % 5) {
        case 0 -> assertEquals(plain.get(), in.readByte());
        case 1 -> assertEquals(plain.getShort(), in.readShort());
        case 2 -> assertEquals(plain.getInt() & 0xffff_ffffL, in.readUnsignedInt());
        case 3 -> assertEquals(plain.getLong(), in.readLong());
        default -> assertEquals(0, Float.compare(plain.getFloat(), in.readFloat()));
      }
      assertEquals(plain.position(), in.position());
    }
    for (int length : new int[] {0, 1, 65_536, 65_537, 150_000}) {
      in.position(31);
      assertArrayEquals(Arrays.copyOfRange(bytes, 31, 31 + length), in.bytes(length, "a block"));
      assertEquals(31 + length, in.position());
    }
  }

  @Test
  void claimsAreCheckedBeforeMemoryIsTaken() {
    ByteBuffer claims = ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN);
    claims.putInt(Integer.MAX_VALUE).putInt(-1);
    BinaryCursor in = cursor(claims.array());
    FormatException large = assertThrows(FormatException.class, () -> in.readCount("the list", 4));
    assertTrue(large.getMessage().contains("there is room for 4"), large.getMessage());
    assertThrows(FormatException.class, () -> in.readCount("the list", 4));
    FormatException end = assertThrows(FormatException.class, in::readInt);
    assertTrue(end.getMessage().contains("byte 8"), end.getMessage());
    in.position(0);
    assertThrows(FormatException.class, () -> in.bytes(9, "a block"));
    assertThrows(IllegalArgumentException.class, () -> in.position(9));
  }
}
