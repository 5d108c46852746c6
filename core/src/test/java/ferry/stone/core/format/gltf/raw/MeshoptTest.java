package ferry.stone.core.format.gltf.raw;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.scene.Scene;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Base64;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Packed data, against what the npm package meshoptimizer 1.3.0 packed. */
class MeshoptTest {
  private static JsonNode fixture(String name) throws Exception {
    try (InputStream in = MeshoptTest.class.getResourceAsStream("/meshopt/meshopt.json")) {
      return new ObjectMapper().readTree(in).path(name);
    }
  }

  private static ByteBuffer bytes(JsonNode json, String key) {
    return ByteBuffer.wrap(Base64.getDecoder().decode(json.path(key).asText()))
        .order(ByteOrder.LITTLE_ENDIAN);
  }

  private static ByteBuffer unpacked(JsonNode json) throws Exception {
    return MeshoptDecoder.decode(
        bytes(json, "packed"),
        json.path("mode").asText(),
        json.path("count").asInt(),
        json.path("stride").asInt(),
        json.path("filter").asText());
  }

  @ParameterizedTest
  @ValueSource(strings = {"triangles", "scattered"})
  void trianglesAreThoseThatWerePacked(String name) throws Exception {
    JsonNode json = fixture(name);
    ByteBuffer wanted = bytes(json, "plain");
    ByteBuffer found = unpacked(json);
    for (int t = 0; t < json.path("count").asInt() / 3; t++) {
      int[] a = new int[3];
      int[] b = new int[3];
      for (int k = 0; k < 3; k++) {
        a[k] = wanted.getInt(4 * (3 * t + k));
        b[k] = found.getInt(4 * (3 * t + k));
      }
      // A triangle may begin at another of its corners.
      boolean same = false;
      for (int turn = 0; turn < 3; turn++) {
        same |= a[0] == b[turn] && a[1] == b[(turn + 1) % 3] && a[2] == b[(turn + 2) % 3];
      }
      assertTrue(same, name + ", triangle " + t);
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"sequence", "positions"})
  void bytesAreThoseThatWerePacked(String name) throws Exception {
    JsonNode json = fixture(name);
    assertArrayEquals(bytes(json, "plain").array(), unpacked(json).array());
  }

  /** Filters lose: normals and rotations of 16 bits to 1e-3, places of 15 bits to 1e-3 of 50. */
  @ParameterizedTest
  @ValueSource(strings = {"normals", "rotations", "places"})
  void filteredValuesAreNearThose(String name) throws Exception {
    JsonNode json = fixture(name);
    ByteBuffer wanted = bytes(json, "plain");
    ByteBuffer found = unpacked(json);
    int components = name.equals("places") ? 3 : 4;
    for (int i = 0; i < json.path("count").asInt(); i++) {
      double dot = 0;
      for (int c = 0; c < components; c++) {
        double a = wanted.getFloat(4 * (components * i + c));
        if (name.equals("places")) {
          assertEquals(a, found.getFloat(4 * (3 * i + c)), 0.05);
        } else {
          dot +=
              a * (name.equals("normals") && c == 3 ? 0 : found.getShort(8 * i + 2 * c) / 32767.0);
        }
      }
      if (!name.equals("places")) {
        assertEquals(1, Math.abs(dot), 1e-3, name + " " + i);
      }
    }
  }

  @Test
  void whatIsPackedHereIsUnpackedTheSame() throws Exception {
    Random random = new Random(8);
    for (int round = 0; round < 60; round++) {
      int stride = 4 * (1 + random.nextInt(12));
      int count = 1 + random.nextInt(900);
      byte[] data = new byte[count * stride];
      int spread = 1 + random.nextInt(255);
      for (int i = 0; i < data.length; i++) {
        data[i] = (byte) ((i >= stride ? data[i - stride] : 0) + random.nextInt(spread));
      }
      ByteBuffer found =
          MeshoptDecoder.decode(
              ByteBuffer.wrap(MeshoptEncoder.attributes(data, count, stride)),
              "ATTRIBUTES",
              count,
              stride,
              "NONE");
      assertArrayEquals(data, found.array());
    }
  }

  /** Strips, fans, grids and scattered triangles, also with vertices that none uses. */
  @Test
  void trianglesPackedHereAreUnpackedTheSame() throws Exception {
    Random random = new Random(5);
    for (int round = 0; round < 300; round++) {
      int triangles = 1 + random.nextInt(200);
      int[] indices = new int[3 * triangles];
      int kind = round % 4;
      int wide = 2 + random.nextInt(40);
      for (int t = 0; t < triangles; t++) {
        int cell = t / 2 + t / 2 / wide;
        int[] corners =
            switch (kind) {
              case 0 -> new int[] {t + t % 2, t + 1 - t % 2, t + 2};
              case 1 -> new int[] {0, t + 1, t + 2};
              case 2 ->
                  t % 2 == 0
                      ? new int[] {cell, cell + wide + 1, cell + 1}
                      : new int[] {cell + 1, cell + wide + 1, cell + wide + 2};
              default ->
                  new int[] {random.nextInt(wide), random.nextInt(70_000), random.nextInt(wide)};
            };
        System.arraycopy(corners, 0, indices, 3 * t, 3);
      }
      byte[] packed = MeshoptEncoder.triangles(indices);
      ByteBuffer found =
          MeshoptDecoder.decode(ByteBuffer.wrap(packed), "TRIANGLES", indices.length, 4, "NONE");
      for (int t = 0; t < triangles; t++) {
        boolean same = false;
        for (int turn = 0; turn < 3; turn++) {
          boolean all = true;
          for (int k = 0; k < 3; k++) {
            all &= found.getInt(4 * (3 * t + (k + turn) % 3)) == indices[3 * t + k];
          }
          same |= all;
        }
        assertTrue(same, "round " + round + ", triangle " + t);
      }
    }
  }

  @Test
  void damageEndsInASentence() throws Exception {
    Random random = new Random(3);
    for (String name : new String[] {"triangles", "sequence", "positions"}) {
      JsonNode json = fixture(name);
      byte[] packed = bytes(json, "packed").array();
      for (int i = 0; i < 400; i++) {
        byte[] bad = packed.clone();
        bad[random.nextInt(bad.length)] ^= (byte) (1 << random.nextInt(8));
        byte[] cut = java.util.Arrays.copyOf(bad, random.nextInt(bad.length));
        for (byte[] some : new byte[][] {bad, cut}) {
          try {
            MeshoptDecoder.decode(
                ByteBuffer.wrap(some),
                json.path("mode").asText(),
                json.path("count").asInt(),
                json.path("stride").asInt(),
                "NONE");
          } catch (MeshoptDecoder.Damaged e) {
            assertTrue(e.getMessage().length() > 10);
          }
        }
      }
    }
    assertThrows(
        MeshoptDecoder.Damaged.class,
        () ->
            MeshoptDecoder.decode(
                ByteBuffer.wrap(new byte[40]), "ATTRIBUTES", Integer.MAX_VALUE / 8, 12, "NONE"));
  }

  @Test
  void aPackedFileIsReadLikeAPlainOne() throws Exception {
    byte[] packed =
        MeshoptEncoder.attributes(
            ByteBuffer.allocate(36)
                .order(ByteOrder.LITTLE_ENDIAN)
                .putFloat(12, 2)
                .putFloat(28, 3)
                .array(),
            3,
            12);
    String json =
        "{\"asset\":{\"version\":\"2.0\"},\"extensionsUsed\":[\"EXT_meshopt_compression\"],"
            + "\"extensionsRequired\":[\"EXT_meshopt_compression\"],\"buffers\":[{\"byteLength\":"
            + packed.length
            + ",\"uri\":\"data:application/octet-stream;base64,"
            + Base64.getEncoder().encodeToString(packed)
            + "\"},{\"byteLength\":36,\"extensions\":{\"EXT_meshopt_compression\":{\"fallback\":true}}}],"
            + "\"bufferViews\":[{\"buffer\":1,\"byteLength\":36,\"byteStride\":12,\"extensions\":{"
            + "\"EXT_meshopt_compression\":{\"buffer\":0,\"byteLength\":"
            + packed.length
            + ",\"byteStride\":12,\"count\":3,\"mode\":\"ATTRIBUTES\"}}}],"
            + "\"accessors\":[{\"bufferView\":0,\"componentType\":5126,\"count\":3,\"type\":\"VEC3\"}],"
            + "\"meshes\":[{\"primitives\":[{\"attributes\":{\"POSITION\":0}}]}],\"nodes\":[{\"mesh\":0}]}";
    Scene scene = GltfReader.read("a.gltf", ReadContext.of(TestFiles.of("a.gltf", json)));
    assertEquals(2, scene.bounds().maxX());
    assertEquals(3, scene.bounds().maxY());
  }
}
