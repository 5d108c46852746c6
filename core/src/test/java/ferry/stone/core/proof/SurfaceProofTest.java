package ferry.stone.core.proof;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityFiles;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
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

/** Light, layers, strengths and sides of a landed glTF are compared: changed, they are told. */
class SurfaceProofTest {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String EXTENSIONS = "/materials/0/extensions/KHR_materials_";

  private static Scene varnished() {
    Scene scene = CapabilityScenes.of(Capability.UVS);
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    channels.put(Channel.BASE_COLOUR, new Material.Value(new double[] {1, 1, 1}, null));
    channels.put(Channel.EMISSIVE, new Material.Value(new double[] {4, 2, 1}, null));
    channels.put(Channel.CLEARCOAT, new Material.Value(new double[] {0.7}, null));
    channels.put(Channel.SHEEN, new Material.Value(new double[] {0.2, 0.4, 0.6}, null));
    channels.put(Channel.CLEARCOAT_NORMAL, new Material.Value(null, use(0.5)));
    channels.put(Channel.NORMAL, new Material.Value(null, use(0.25)));
    channels.put(Channel.OCCLUSION, new Material.Value(null, use(0.75)));
    Material own = scene.materials().get(0);
    return scene.toBuilder()
        .linearColours(true)
        .textures(List.of(new Texture(900, "oak.png", "oak.png", "oak.png", null)))
        .materials(
            List.of(
                new Material(
                    own.id(),
                    own.name(),
                    Material.Shading.METALLIC_ROUGHNESS,
                    channels,
                    Material.Alpha.MASK,
                    0.3,
                    true,
                    Map.of())))
        .build();
  }

  private static TextureUse use(double amount) {
    return new TextureUse(900, 0, 0, 0, 1, 1, 0, Wrap.REPEATED, (char) 0, amount, "");
  }

  private interface Change {
    void make(ObjectNode root);
  }

  private static Map<String, LedgerRow.Verdict> rows(Change change) throws Exception {
    Scene scene = varnished();
    TestFiles cargo = CapabilityFiles.all();
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of("gltf");
    Landing landing = Landing.write(scene, options, "a", cargo, out, Progress.NONE);
    ObjectNode root = (ObjectNode) JSON.readTree(out.bytes("a.gltf"));
    change.make(root);
    out.with("a.gltf", JSON.writeValueAsBytes(root));
    Proof proof = Proof.of(scene, scene, landing.landed(options, out), cargo, Progress.NONE);
    Map<String, LedgerRow.Verdict> verdicts = new java.util.TreeMap<>();
    proof.rows().stream()
        .filter(row -> row.group().startsWith("Material "))
        .forEach(row -> verdicts.put(row.fact(), row.verdict()));
    return verdicts;
  }

  @Test
  void untouchedAllIsKept() throws Exception {
    Map<String, LedgerRow.Verdict> rows = rows(root -> {});
    for (String fact :
        List.of(
            "Emission",
            "Surface",
            "Clearcoat",
            "Sheen",
            "Clearcoat normal texture",
            "Clearcoat normal texture, its strength",
            "Normal texture, its strength",
            "Occlusion texture, its strength")) {
      assertEquals(LedgerRow.Verdict.KEPT, rows.get(fact), fact + " in " + rows);
    }
  }

  @ParameterizedTest
  @CsvSource({
    "/materials/0, doubleSided, false, Surface, CHANGED",
    "/materials/0, alphaMode, '\"BLEND\"', Surface, CHANGED",
    "/materials/0, alphaCutoff, 0.6, Surface, CHANGED",
    "/materials/0, emissiveFactor, '[1,1,1]', Emission, CHANGED",
    "/materials/0/normalTexture, scale, 1, 'Normal texture, its strength', CHANGED",
    "/materials/0/occlusionTexture, strength, 0.5, 'Occlusion texture, its strength', CHANGED",
    EXTENSIONS + "emissive_strength, emissiveStrength, 2, Emission, CHANGED",
    EXTENSIONS + "clearcoat, clearcoatFactor, 0.2, Clearcoat, CHANGED",
    EXTENSIONS + "sheen, sheenColorFactor, '[0,0,0]', Sheen, CHANGED",
    "/materials/0/extensions, KHR_materials_clearcoat, , Clearcoat, LOST",
    "/materials/0/extensions, KHR_materials_clearcoat, , Clearcoat normal texture, LOST",
    EXTENSIONS
        + "clearcoat/clearcoatNormalTexture, scale, 2,"
        + " 'Clearcoat normal texture, its strength', CHANGED",
  })
  void aChangeIsTold(
      String place, String member, String value, String fact, LedgerRow.Verdict verdict)
      throws Exception {
    Map<String, LedgerRow.Verdict> rows =
        rows(
            root -> {
              JsonNode owner = root.at(place);
              assertTrue(owner.has(member), member + " in " + owner);
              if (value == null) {
                ((ObjectNode) owner).remove(member);
              } else {
                ((ObjectNode) owner).set(member, parsed(value));
              }
            });
    assertEquals(verdict, rows.get(fact), rows.toString());
  }

  private static JsonNode parsed(String value) {
    try {
      return JSON.readTree(value);
    } catch (java.io.IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }
}
