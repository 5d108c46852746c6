package ferry.stone.e2e;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Images written as WebP and KTX2, before the glTF validator and three's transcoder. */
class ImageKindsIT {
  @TempDir Path folder;

  private Path landed(String kind) throws Exception {
    CargoFolder cargo = DemoCargo.unpack(DemoWorld.Cargo.GATE_LANTERN, folder);
    Scene near = CargoReader.read("demo", ReadContext.of(cargo));
    List<Step> steps =
        List.of(new Step("a", "textures", Map.of("find", "fitting"), true, List.of()));
    Scene far = Handling.result(near, Handling.run(near, steps, Progress.NONE));
    Path out = Files.createDirectories(folder.resolve(kind));
    LandingOptions options = LandingOptions.of("glb").with("imageKind", kind);
    Landing.write(
        far,
        options,
        "lantern",
        cargo,
        path -> Files.newOutputStream(out.resolve(path)),
        Progress.NONE);
    return out.resolve("lantern.glb");
  }

  @ParameterizedTest
  @ValueSource(strings = {"exact", "webp"})
  void theValidatorIsSilentOnWebp(String kind) throws Exception {
    Path glb = landed(kind);
    JsonNode report = Node.run("validate-gltf.mjs", glb);
    assertEquals(
        0,
        report.path("errors").asInt() + report.path("warnings").asInt(),
        report.path("messages").toString());
    JsonNode images = Node.run("read-images.mjs", glb).path("images");
    assertEquals(9, images.size());
    for (JsonNode image : images) {
      assertEquals("image/webp", image.path("type").asText());
      assertTrue(image.path("valid").asBoolean(), image.toString());
    }
  }

  @Test
  void theTranscoderSeesOurPixelsAndMakesEveryForm() throws Exception {
    Path glb = landed("ktx2");
    CargoFolder written = CargoFolder.of(glb.getParent());
    Scene again = CargoReader.read("lantern", ReadContext.of(written));
    Map<String, Long> ours = new TreeMap<>();
    for (Texture texture : again.textures()) {
      ours.put(texture.stem(), sum(ImageCodec.decode(texture.embedded(), texture.name())));
    }
    JsonNode images = Node.run("read-images.mjs", glb).path("images");
    assertEquals(9, images.size());
    int colours = 0;
    for (JsonNode image : images) {
      String name = image.path("name").asText();
      assertTrue(image.path("valid").asBoolean(), name);
      assertEquals(0, image.path("failed").size(), image.toString());
      assertEquals(9, image.path("levels").asInt(), name);
      assertEquals(ours.get(name), image.path("sum").asLong(), name);
      // sRGB for colours (2), linear for data (1): KHR_texture_basisu.
      boolean data = name.matches("(?i).*(orm|normal|nrm|rough|occlusion).*");
      assertEquals(data ? 1 : 2, image.path("transfer").asInt(), name);
      colours += data ? 0 : 1;
    }
    assertEquals(4, colours);
  }

  private static long sum(Pixels pixels) {
    long sum = 0;
    for (int i = 0; i < pixels.argb().length; i++) {
      int p = pixels.argb()[i];
      int[] rgba = {p >> 16 & 0xff, p >> 8 & 0xff, p & 0xff, p >>> 24};
      for (int c = 0; c < 4; c++) {
        sum += (long) rgba[c] * (1 + (4 * i + c) % 97);
      }
    }
    return sum;
  }
}
