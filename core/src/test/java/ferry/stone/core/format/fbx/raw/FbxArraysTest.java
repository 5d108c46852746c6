package ferry.stone.core.format.fbx.raw;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;

import ferry.stone.core.format.FormatException;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.Random;
import java.util.zip.DeflaterOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FbxArraysTest {
  /** More than waits at once, and of sizes that are unpacked at once, elsewhere, and in pieces. */
  private static final int[] COUNTS = {0, 1, 7, 300, 5_000, 40_000};

  private static byte[] deflated(byte[] bytes) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (DeflaterOutputStream packing = new DeflaterOutputStream(out)) {
      packing.write(bytes);
    }
    return out.toByteArray();
  }

  private static byte[] bytes(char type, long[] bits) {
    int width = new FbxArrays.Packed(type, 0, false, new byte[0], 0).width();
    ByteBuffer all = ByteBuffer.allocate(bits.length * width).order(ByteOrder.LITTLE_ENDIAN);
    for (long value : bits) {
      switch (width) {
        case 8 -> all.putLong(value);
        case 4 -> all.putInt((int) value);
        default -> all.put((byte) value);
      }
    }
    return all.array();
  }

  private static Object expected(char type, long[] bits) {
    return switch (type) {
      case 'd' -> Arrays.stream(bits).mapToDouble(Double::longBitsToDouble).toArray();
      case 'f' -> Arrays.stream(bits).mapToDouble(b -> Float.intBitsToFloat((int) b)).toArray();
      case 'l' -> bits;
      case 'i' -> Arrays.stream(bits).mapToInt(b -> (int) b).toArray();
      default -> Arrays.stream(bits).mapToInt(b -> (byte) b).toArray();
    };
  }

  @ParameterizedTest
  @ValueSource(chars = {'d', 'f', 'l', 'i', 'b', 'c'})
  void allArraysAreThereInTheirPlaces(char type) throws Exception {
    Random random = new Random(type);
    FbxRecord record = new FbxRecord("Numbers", "byte 0");
    long[][] bits = new long[150][];
    try (FbxArrays arrays = new FbxArrays("a.fbx")) {
      for (int a = 0; a < bits.length; a++) {
        bits[a] = random.longs(COUNTS[a % COUNTS.length]).toArray();
        byte[] plain = bytes(type, bits[a]);
        boolean packed = a % 4 != 0;
        byte[] raw = packed ? deflated(plain) : plain;
        arrays.add(record, new FbxArrays.Packed(type, bits[a].length, packed, raw, a));
        record.values().add("behind " + a);
      }
      arrays.finish();
    }
    for (int a = 0; a < bits.length; a++) {
      Object wanted = expected(type, bits[a]);
      Object found = record.values().get(2 * a);
      assertArrayEquals(new Object[] {wanted}, new Object[] {found}, "array " + a);
      assertEquals("behind " + a, record.values().get(2 * a + 1));
    }
  }

  /** Times and others, packed or not, in any turn: only times that follow their like are shared. */
  @Test
  void keyTimesThatStandAgainAreOneArray() throws Exception {
    long[] march = new Random(1).longs(900).toArray();
    long[] rest = new Random(2).longs(900).toArray();
    long[][] all = {march, march, rest, rest, march, march};
    boolean[] packed = {true, true, true, true, true, false};
    FbxRecord record = new FbxRecord("KeyTime", "byte 0");
    try (FbxArrays arrays = new FbxArrays("a.fbx")) {
      for (int a = 0; a < all.length; a++) {
        byte[] plain = bytes('l', all[a]);
        byte[] raw = packed[a] ? deflated(plain) : plain;
        arrays.add(record, new FbxArrays.Packed('l', 900, packed[a], raw, a));
        // Numbers of the same bytes are no times.
        arrays.add(record, new FbxArrays.Packed('d', 900, packed[a], raw, a));
      }
      arrays.finish();
    }
    for (int a = 0; a < all.length; a++) {
      assertArrayEquals(all[a], (long[]) record.values().get(2 * a), "array " + a);
      assertArrayEquals(
          (double[]) expected('d', all[a]), (double[]) record.values().get(2 * a + 1), "" + a);
    }
    assertSame(record.values().get(0), record.values().get(2));
    assertSame(record.values().get(4), record.values().get(6));
  }

  @Test
  void theFirstDamagedArrayIsTold() throws Exception {
    byte[] good = deflated(bytes('d', new Random(1).longs(9_000).toArray()));
    byte[] damaged = good.clone();
    Arrays.fill(damaged, 20, 400, (byte) 0xff);
    byte[] cut = Arrays.copyOf(good, good.length / 2);
    for (int first = 0; first < 2; first++) {
      byte[][] raws = first == 0 ? new byte[][] {damaged, cut} : new byte[][] {cut, damaged};
      FbxRecord record = new FbxRecord("Vertices", "byte 0");
      FormatException e =
          assertThrows(
              FormatException.class,
              () -> {
                try (FbxArrays arrays = new FbxArrays("a.fbx")) {
                  arrays.add(record, new FbxArrays.Packed('d', 9_000, true, good, 100));
                  arrays.add(record, new FbxArrays.Packed('d', 9_000, true, raws[0], 200));
                  arrays.add(record, new FbxArrays.Packed('d', 9_000, true, raws[1], 300));
                  // One that is unpacked at once.
                  arrays.add(record, new FbxArrays.Packed('d', 50, true, new byte[9], 400));
                  arrays.finish();
                }
              });
      assertEquals("byte 200", e.place());
      String end = first == 0 ? "is damaged." : "ends too early.";
      assertEquals(
          "the packed array of Vertices " + end,
          e.getMessage().substring(e.getMessage().indexOf("the packed")));
    }
  }
}
