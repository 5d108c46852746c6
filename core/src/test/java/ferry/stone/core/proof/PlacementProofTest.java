package ferry.stone.core.proof;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityFiles;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.work.Progress;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Where images lie is compared, and lies where it did. */
class PlacementProofTest {
  private static Scene placed(TextureUse use, UvOrigin origin) {
    Scene scene = CapabilityScenes.of(Capability.UVS);
    Texture image = new Texture(900, "oak.png", "oak.png", place(), null);
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    channels.put(Channel.BASE_COLOUR, new Material.Value(new double[] {1, 1, 1}, use));
    return scene.toBuilder()
        .uvOrigin(origin)
        .textures(List.of(image))
        .materials(List.of(scene.materials().get(0).withChannels(channels)))
        .build();
  }

  private static String place() {
    return CapabilityFiles.all().paths().stream()
        .filter(p -> p.endsWith(".png"))
        .findFirst()
        .orElseThrow();
  }

  private static List<LedgerRow> rows(Scene scene, String format) throws Exception {
    return all(scene, format).stream().filter(r -> r.fact().endsWith("where it lies")).toList();
  }

  private static List<LedgerRow> all(Scene scene, String format) throws Exception {
    TestFiles cargo = CapabilityFiles.all();
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of(format);
    Landing landing = Landing.write(scene, options, "a", cargo, out, Progress.NONE);
    return Proof.of(scene, scene, landing.landed(options, out), cargo, Progress.NONE).rows();
  }

  private static TextureUse use(double turn, boolean clamp) {
    return new TextureUse(900, 0, 0.25, -0.5, 2, 3, turn, Wrap.of(clamp), (char) 0, 1, "");
  }

  @ParameterizedTest
  @ValueSource(strings = {"glb", "fbx", "obj"})
  void offsetsScalesAndBordersAreKept(String format) throws Exception {
    for (UvOrigin origin : UvOrigin.values()) {
      List<LedgerRow> rows = rows(placed(use(0, true), origin), format);
      assertEquals(1, rows.size(), format + " " + origin);
      assertEquals(LedgerRow.Verdict.KEPT, rows.get(0).verdict(), rows.toString());
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"glb", "fbx"})
  void turnsAreKept(String format) throws Exception {
    for (UvOrigin origin : UvOrigin.values()) {
      List<LedgerRow> rows = rows(placed(use(0.6, false), origin), format);
      assertEquals(LedgerRow.Verdict.KEPT, rows.get(0).verdict(), rows.toString());
    }
  }

  @Test
  void anImageThatIsNotPlacedNeedsNoRow() throws Exception {
    assertTrue(rows(placed(TextureUse.of(900), UvOrigin.BOTTOM_LEFT), "fbx").isEmpty());
  }

  /** Mirrored across, clamped up, pixels sharp. */
  private static TextureUse mirrored() {
    Wrap wrap = new Wrap(Wrap.Edge.MIRROR, Wrap.Edge.CLAMP, true);
    return new TextureUse(900, 0, 0, 0, 1, 1, 0, wrap, (char) 0, 1, "");
  }

  @ParameterizedTest
  @ValueSource(strings = {"glb", "fbx"})
  void whatLiesBeyondTheBorderIsCompared(String format) throws Exception {
    List<LedgerRow> rows = rows(placed(mirrored(), UvOrigin.BOTTOM_LEFT), format);
    assertEquals(1, rows.size());
    assertEquals(LedgerRow.Verdict.KEPT, rows.get(0).verdict(), rows.toString());
  }

  @ParameterizedTest
  @CsvSource({"fbx, OWN_VALUES", "obj, MATERIAL_CHANNELS"})
  void whatOthersWillNotSeeOfItIsToldBeforeAndAfter(String format, Capability capability)
      throws Exception {
    TestFiles cargo = CapabilityFiles.all();
    for (boolean mirror : new boolean[] {true, false}) {
      Scene scene = placed(mirror ? mirrored() : use(0, true), UvOrigin.BOTTOM_LEFT);
      List<String> told =
          Forecast.of(scene, LandingOptions.of(format), cargo).items().stream()
              .filter(item -> item.capability() == capability)
              .map(Object::toString)
              .filter(text -> text.contains("irror") || text.contains("sharp"))
              .toList();
      assertEquals(mirror, !told.isEmpty(), format + told);
      boolean proved =
          all(scene, format).stream()
              .filter(row -> row.about() == capability)
              .anyMatch(row -> row.toString().contains("irror"));
      assertEquals(mirror, proved, format);
    }
  }

  // glTF 2.0, section 5.26: 33648 is mirrored repeat, 33071 clamp to edge, 9728 nearest.
  @Test
  void gltfHasTheStandardsCodes() throws Exception {
    TestFiles out = new TestFiles();
    Scene scene = placed(mirrored(), UvOrigin.BOTTOM_LEFT);
    LandingOptions options = LandingOptions.of("gltf");
    Landing.write(scene, options, "a", CapabilityFiles.all(), out, Progress.NONE);
    JsonNode sampler = new ObjectMapper().readTree(out.bytes("a.gltf")).at("/samplers/0");
    assertEquals(33648, sampler.path("wrapS").asInt());
    assertEquals(33071, sampler.path("wrapT").asInt());
    assertEquals(9728, sampler.path("magFilter").asInt());
  }
}
