package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Materials of an MTL as they stand in the written glTF, value by value. */
class GltfMaterialValuesTest {
  private static final String OBJ =
      "mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl a\n"
          + "f 1/1 2/2 3/3\n";

  private static JsonNode root(String mtl) throws Exception {
    TestFiles cargo = TestFiles.of("a.obj", OBJ).with("m.mtl", "newmtl a\n" + mtl);
    int[] grey = new int[16];
    Arrays.fill(grey, 0xff336699);
    cargo.with("t.png", ImageCodec.encodePng(new Pixels(4, 4, grey, false)));
    Scene scene = ObjReader.read("a.obj", ReadContext.of(cargo));
    TestFiles files = new TestFiles();
    GltfOptions options = new GltfOptions(GltfOptions.Container.GLTF, true, true, 4);
    GltfWriter.write(scene, options, "a", cargo, files, new Findings(), Progress.NONE);
    return new ObjectMapper().readTree(files.bytes("a.gltf"));
  }

  private static JsonNode material(String mtl) throws Exception {
    return root(mtl).at("/materials/0");
  }

  // sRGB 0.5 is 0.21404 of linear light (IEC 61966-2-1). Roughness (2 / (Ns + 2))^¼: see
  // PbrTranslation.
  @ParameterizedTest
  @CsvSource({
    "Kd 0.5 0 1, /pbrMetallicRoughness/baseColorFactor/0, 0.21404",
    "Kd 0.5 0 1, /pbrMetallicRoughness/baseColorFactor/2, 1",
    "d 0.25, /pbrMetallicRoughness/baseColorFactor/3, 0.25",
    "Tr 0.25, /pbrMetallicRoughness/baseColorFactor/3, 0.75",
    "Ns 30, /pbrMetallicRoughness/roughnessFactor, 0.5",
    "Pr 0.3, /pbrMetallicRoughness/roughnessFactor, 0.3",
    "Pm 0.7, /pbrMetallicRoughness/metallicFactor, 0.7",
    "Kd 0.5 0.5 0.5, /pbrMetallicRoughness/metallicFactor, 0",
    "Ke 0.5 0 0, /emissiveFactor/0, 0.21404",
    "norm -bm 0.5 t.png, /normalTexture/scale, 0.5",
    "map_Kd -s 2 2 1 t.png,"
        + " /pbrMetallicRoughness/baseColorTexture/extensions/KHR_texture_transform/scale/0, 2",
    "map_Kd -s 2 2 1 t.png,"
        + " /pbrMetallicRoughness/baseColorTexture/extensions/KHR_texture_transform/offset/1, -1",
  })
  void valuesArrive(String mtl, String path, double expected) throws Exception {
    JsonNode value = material(mtl).at(path);
    assertTrue(value.isNumber(), mtl + " gives no " + path);
    assertEquals(expected, value.asDouble(), 1e-5, mtl);
  }

  @Test
  void opacityMakesABlendAndItsAbsenceDoesNot() throws Exception {
    assertEquals("BLEND", material("d 0.5").path("alphaMode").asText());
    assertFalse(material("Kd 1 1 1").has("alphaMode"));
    assertFalse(material("Kd 1 1 1").has("emissiveFactor"));
  }

  @Test
  void strongLightUsesTheExtensionThatIsNamed() throws Exception {
    JsonNode root = root("Ke 4 2 0");
    assertEquals("KHR_materials_emissive_strength", root.at("/extensionsUsed/0").asText());
    assertEquals(1, root.at("/materials/0/emissiveFactor/0").asDouble(), 1e-6, "the largest is 1");
  }

  @Test
  void clampAndRepeatAreSamplersOfTheirOwn() throws Exception {
    JsonNode root = root("map_Kd -clamp on t.png\nmap_Ke t.png");
    assertEquals(33071, root.at("/samplers/0/wrapS").asInt());
    assertEquals(10497, root.at("/samplers/1/wrapS").asInt());
    assertEquals(1, root.at("/images").size());
  }

  @Test
  void aMissingImageLeavesNoTextureBehind() throws Exception {
    JsonNode json = material("map_Kd gone.png\nmap_Pm gone.png\nPm 1");
    assertFalse(json.at("/pbrMetallicRoughness").has("baseColorTexture"));
    assertEquals(0, json.at("/pbrMetallicRoughness/metallicFactor").asDouble());
  }
}
