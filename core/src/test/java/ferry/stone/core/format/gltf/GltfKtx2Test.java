package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.Base64;
import org.junit.jupiter.api.Test;

/**
 * KHR_texture_basisu: KTX2 images are carried as they are, with and without another beside them.
 */
class GltfKtx2Test {
  private static final byte[] KTX2 = ktx2();
  private static final byte[] PNG =
      ImageCodec.encodePng(new Pixels(2, 2, new int[] {1, 2, 3, 4}, false));

  private static byte[] ktx2() {
    byte[] file = new byte[96];
    byte[] mark = {(byte) 0xAB, 'K', 'T', 'X', ' ', '2', '0', (byte) 0xBB, '\r', '\n', 0x1A, '\n'};
    System.arraycopy(mark, 0, file, 0, mark.length);
    file[20] = 2;
    file[24] = 2;
    file[90] = 77;
    return file;
  }

  private static String uri(String type, byte[] data) {
    return "{\"uri\":\"data:image/"
        + type
        + ";base64,"
        + Base64.getEncoder().encodeToString(data)
        + "\",\"mimeType\":\"image/"
        + type
        + "\"}";
  }

  private static String file(boolean fallback) {
    float[] corners = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    java.nio.ByteBuffer data =
        java.nio.ByteBuffer.allocate(60).order(java.nio.ByteOrder.LITTLE_ENDIAN);
    for (float c : corners) {
      data.putFloat(c);
    }
    for (float c : new float[] {0, 0, 1, 0, 0, 1}) {
      data.putFloat(c);
    }
    String used = "\"extensionsUsed\":[\"KHR_texture_basisu\"],";
    String needed = fallback ? "" : "\"extensionsRequired\":[\"KHR_texture_basisu\"],";
    return "{\"asset\":{\"version\":\"2.0\"},"
        + used
        + needed
        + "\"buffers\":[{\"byteLength\":60,\"uri\":\"data:;base64,"
        + Base64.getEncoder().encodeToString(data.array())
        + "\"}],\"bufferViews\":[{\"buffer\":0,\"byteLength\":36},"
        + "{\"buffer\":0,\"byteOffset\":36,\"byteLength\":24}],\"accessors\":["
        + "{\"bufferView\":0,\"componentType\":5126,\"count\":3,\"type\":\"VEC3\"},"
        + "{\"bufferView\":1,\"componentType\":5126,\"count\":3,\"type\":\"VEC2\"}],"
        + "\"meshes\":[{\"primitives\":[{\"attributes\":{\"POSITION\":0,\"TEXCOORD_0\":1},"
        + "\"material\":0}]}],\"nodes\":[{\"mesh\":0}],\"scenes\":[{\"nodes\":[0]}],"
        + "\"materials\":[{\"pbrMetallicRoughness\":{\"baseColorTexture\":{\"index\":0}}}],"
        + "\"textures\":[{"
        + (fallback ? "\"source\":1," : "")
        + "\"extensions\":{\"KHR_texture_basisu\":{\"source\":0}}}],"
        + "\"images\":["
        + uri("ktx2", KTX2)
        + ","
        + uri("png", PNG)
        + "]}";
  }

  private static Scene read(TestFiles files, String name) throws Exception {
    return GltfReader.read(name, ReadContext.of(files));
  }

  private static JsonNode written(boolean fallback, TestFiles out) throws Exception {
    Scene scene = read(TestFiles.of("a.gltf", file(fallback)), "a.gltf");
    GltfOptions options = new GltfOptions(GltfOptions.Container.GLTF, false, true, 0);
    GltfWriter.write(scene, options, "b", new TestFiles(), out, new Findings(), Progress.NONE);
    return new ObjectMapper().readTree(out.bytes("b.gltf"));
  }

  @Test
  void besideAnotherImageBothAreCarriedAndNobodyNeedsTheExtension() throws Exception {
    TestFiles out = new TestFiles();
    JsonNode json = written(true, out);
    JsonNode texture = json.at("/textures/0");
    String plain = json.path("images").path(texture.path("source").asInt()).path("uri").asText();
    String packed =
        json.path("images")
            .path(texture.at("/extensions/KHR_texture_basisu/source").asInt())
            .path("uri")
            .asText();
    assertTrue(plain.endsWith(".png"), plain);
    assertArrayEquals(PNG, out.bytes(plain));
    assertArrayEquals(KTX2, out.bytes(packed));
    assertTrue(json.path("extensionsUsed").toString().contains("KHR_texture_basisu"));
    assertFalse(json.has("extensionsRequired"), json.path("extensionsRequired").toString());
    Texture again = read(out, "b.gltf").textures().get(0);
    assertEquals(plain, again.resource());
    assertEquals(packed, again.packed().resource());
  }

  @Test
  void aloneItIsCarriedAndTheExtensionRequired() throws Exception {
    TestFiles out = new TestFiles();
    JsonNode json = written(false, out);
    assertFalse(json.at("/textures/0").has("source"), json.at("/textures/0").toString());
    int image = json.at("/textures/0/extensions/KHR_texture_basisu/source").asInt(-1);
    assertArrayEquals(KTX2, out.bytes(json.path("images").path(image).path("uri").asText()));
    assertTrue(json.path("extensionsRequired").toString().contains("KHR_texture_basisu"));
    assertEquals(1, read(out, "b.gltf").textures().size());
  }
}
