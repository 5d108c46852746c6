package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import ferry.stone.core.TestFiles;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Base64;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Indices of every width, more than are looked at in one piece, and those that point nowhere. */
class GltfIndicesTest {
  private static final int BYTE = 5121;
  private static final int SHORT = 5123;
  private static final int INT = 5125;
  private static final int VERTICES = 200;
  private static final int MANY = 3 * 5_001;

  private static String file(int type, long[] indices, String more) {
    int width = type == BYTE ? 1 : type == SHORT ? 2 : 4;
    int points = 3 * Float.BYTES * VERTICES;
    ByteBuffer data =
        ByteBuffer.allocate(points + width * indices.length + 12).order(ByteOrder.LITTLE_ENDIAN);
    for (int v = 0; v < VERTICES; v++) {
      data.putFloat(v % 7).putFloat(v % 5).putFloat(v);
    }
    for (long index : indices) {
      switch (width) {
        case 1 -> data.put((byte) index);
        case 2 -> data.putShort((short) index);
        default -> data.putInt((int) index);
      }
    }
    // For a sparse accessor: its place 1 becomes index 200.
    data.position(data.capacity() - 8).putInt(1).putInt(VERTICES);
    return """
        {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],
        "meshes":[{"primitives":[{"attributes":{"POSITION":0},"indices":1}]}],
        "accessors":[{"bufferView":0,"componentType":5126,"count":%d,"type":"VEC3"},
        {"bufferView":1,"componentType":%d,"count":%d,"type":"SCALAR"%s}],
        "bufferViews":[{"buffer":0,"byteLength":%d},
        {"buffer":0,"byteOffset":%d,"byteLength":%d},
        {"buffer":0,"byteOffset":%d,"byteLength":8}],
        "buffers":[{"byteLength":%d,"uri":"data:application/octet-stream;base64,%s"}]}
        """
        .formatted(
            VERTICES,
            type,
            indices.length,
            more,
            points,
            points,
            width * indices.length,
            data.capacity() - 8,
            data.capacity(),
            Base64.getEncoder().encodeToString(data.array()));
  }

  private static PolygonMesh read(String json) throws Exception {
    TestFiles files = TestFiles.of("a.gltf", json);
    return GltfReader.read("a.gltf", ReadContext.of(files)).meshes().get(0);
  }

  private static long[] indices() {
    return IntStream.concat(IntStream.of(VERTICES - 1), new Random(3).ints(MANY - 1, 0, VERTICES))
        .asLongStream()
        .toArray();
  }

  private static String refused(String json) {
    return assertThrows(FormatException.class, () -> read(json)).getMessage();
  }

  @ParameterizedTest
  @CsvSource({"5121", "5123", "5125"})
  void indicesOfAllVerticesAreRead(int type) throws Exception {
    long[] indices = indices();
    PolygonMesh mesh = read(file(type, indices, ""));
    int[] found = mesh.faces().vertices();
    assertEquals(MANY, found.length);
    for (int i = 0; i < MANY; i++) {
      assertEquals(indices[i], found[i], "corner " + i);
    }
  }

  @ParameterizedTest
  @CsvSource({
    "5121,0",
    "5121,15002",
    "5123,4096",
    "5125,0",
    "5125,4095",
    "5125,4096",
    "5125,15002"
  })
  void theFirstThatNamesNoVertexIsTold(int type, int place) {
    long[] indices = indices();
    indices[place] = VERTICES;
    indices[MANY - 1] = VERTICES + 1 - (place == MANY - 1 ? 1 : 0);
    String told = "index 200 at place " + place + ", but there are 200 vertices.";
    String said = refused(file(type, indices, ""));
    assertEquals(told, said.substring(Math.max(0, said.indexOf("index 200"))));
  }

  @Test
  void oneBeyondAllWholeNumbersIsTold() {
    long[] indices = indices();
    indices[9_000] = 0xffff_fffeL;
    String said = refused(file(INT, indices, ""));
    assertEquals(
        "index 4294967294 is out of range.", said.substring(Math.max(0, said.indexOf("index 4"))));
  }

  @ParameterizedTest
  @CsvSource({"5123", "5125"})
  void oneThatASparseAccessorPutsThereIsTold(int type) {
    String sparse =
        """
        ,"sparse":{"count":1,"indices":{"bufferView":2,"componentType":5125},
        "values":{"bufferView":2,"byteOffset":4}}""";
    String said = refused(file(type, indices(), sparse));
    assertEquals(
        "index 200 at place 1, but there are 200 vertices.",
        said.substring(Math.max(0, said.indexOf("index 200"))));
  }
}
