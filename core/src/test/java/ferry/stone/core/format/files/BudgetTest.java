package ferry.stone.core.format.files;

import static org.junit.jupiter.api.Assertions.assertDoesNotThrow;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.gltf.read.GltfReader;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.zip.Deflater;
import org.junit.jupiter.api.Test;

class BudgetTest {
  private static final long CEILING = 1L << 40;

  private static Kind kind(ThrowingRead read) {
    return assertThrows(FormatException.class, read::run).kind();
  }

  private interface ThrowingRead {
    void run() throws Exception;
  }

  @Test
  void smallCargosMayClaimTheFloorAndLargeOnesInProportion() {
    Budget small = new Budget("a", 242, CEILING);
    assertDoesNotThrow(() -> small.claim(Budget.FLOOR, "", "x"));
    assertEquals(Kind.TOO_LARGE, kind(() -> small.claim(Budget.FLOOR, "", "x")));
    Budget large = new Budget("a", 1 << 20, CEILING);
    assertTrue(large.allows(Budget.GROWTH << 20));
    assertEquals(Kind.TOO_LARGE, kind(() -> large.claim(1L << 40, "", "x")));
  }

  @Test
  void claimsAddUpAndTheCeilingHoldsForAllOfThem() throws Exception {
    Budget budget = new Budget("a", 1 << 20, 1000);
    budget.claim(600, "", "x");
    budget.derive(300, "", "x");
    assertEquals(Kind.TOO_LARGE, kind(() -> budget.derive(101, "take", "x")));
    assertEquals(Kind.TOO_LARGE, kind(() -> budget.claim(101, "", "x")));
    assertEquals(Kind.TOO_LARGE, kind(() -> budget.claim(Long.MIN_VALUE, "", "x")));
    budget.claim(100, "", "x");
  }

  /** A mesh of zeros without any data behind them. */
  private static String zeros(int count, int accessors) {
    StringBuilder meshes = new StringBuilder();
    StringBuilder all = new StringBuilder();
    for (int i = 0; i < accessors; i++) {
      String comma = i == 0 ? "" : ",";
      meshes.append(comma).append("{\"primitives\":[{\"attributes\":{\"POSITION\":" + i + "}}]}");
      all.append(comma)
          .append("{\"componentType\":5126,\"count\":" + count + ",\"type\":\"VEC3\"}");
    }
    return "{\"asset\":{\"version\":\"2.0\"},\"meshes\":["
        + meshes
        + "],\"accessors\":["
        + all
        + "]}";
  }

  @Test
  void aFewBytesOfGltfCannotClaimMillionsOfZeros() throws Exception {
    FormatException e =
        assertThrows(
            FormatException.class,
            () ->
                GltfReader.read(
                    "a.gltf", ReadContext.of(TestFiles.of("a.gltf", zeros(7_000_000, 1)))));
    assertEquals(Kind.TOO_LARGE, e.kind());
    assertEquals("/accessors/0/count", e.place());
    // Nor in many small claims, one after another.
    assertEquals(
        Kind.TOO_LARGE,
        kind(
            () ->
                GltfReader.read(
                    "a.gltf", ReadContext.of(TestFiles.of("a.gltf", zeros(900_000, 200))))));
    assertEquals(
        1,
        GltfReader.read("a.gltf", ReadContext.of(TestFiles.of("a.gltf", zeros(300, 1))))
            .meshes()
            .size());
  }

  @Test
  void deflatedArraysOfFbxCannotUnpackToAnySize() {
    ByteArrayOutputStream file = new ByteArrayOutputStream();
    file.writeBytes("Kaydara FBX Binary  \0\u001a\0".getBytes(StandardCharsets.ISO_8859_1));
    file.writeBytes(bytes(4).putInt(7400).array());
    // Records of one packed array of four million zeros each: 32 MB in some 30 KB.
    Deflater deflater = new Deflater(9);
    deflater.setInput(new byte[32 << 20]);
    deflater.finish();
    byte[] packed = new byte[1 << 20];
    int size = deflater.deflate(packed);
    deflater.end();
    for (int i = 0; i < 20; i++) {
      int start = file.size();
      int values = 13 + size;
      int end = start + 13 + 1 + values;
      file.writeBytes(bytes(12).putInt(end).putInt(1).putInt(values).array());
      file.write(1);
      file.write('A');
      file.write('d');
      file.writeBytes(bytes(12).putInt(4 << 20).putInt(1).putInt(size).array());
      file.write(packed, 0, size);
    }
    TestFiles files = new TestFiles().with("a.fbx", file.toByteArray());
    FormatException e =
        assertThrows(FormatException.class, () -> FbxReader.read("a.fbx", ReadContext.of(files)));
    assertEquals(Kind.TOO_LARGE, e.kind());
    assertTrue(e.getMessage().contains("proportion"), e.getMessage());
  }

  private static ByteBuffer bytes(int size) {
    return ByteBuffer.allocate(size).order(ByteOrder.LITTLE_ENDIAN);
  }
}
