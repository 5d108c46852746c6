package ferry.stone.core.landing;

import static org.junit.jupiter.api.Assertions.assertEquals;

import ferry.stone.core.TestFiles;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What the forecast of a GLB says of each image is what the proof finds. */
class MaterialPlansTest {
  private static final List<Capability> OF_IMAGES =
      List.of(
          Capability.MISSING_TEXTURES,
          Capability.IMAGE_FORMATS,
          Capability.SEPARATE_CHANNELS,
          Capability.BUMP_MAPS,
          Capability.OPACITY_PLACEMENT);

  /** The images of the capabilities, a PNG cut short after its head, and the head of a KTX2. */
  private static TestFiles cargo() {
    TestFiles files = CapabilityFiles.all();
    byte[] ktx2 = new byte[96];
    byte[] mark = {(byte) 0xAB, 'K', 'T', 'X', ' ', '2', '0', (byte) 0xBB, '\r', '\n', 0x1A, '\n'};
    System.arraycopy(mark, 0, ktx2, 0, mark.length);
    ktx2[20] = 4;
    ktx2[24] = 4;
    return files
        .with("short.png", Arrays.copyOf(files.bytes("oak.png"), 40))
        .with("oak.ktx2", ktx2);
  }

  private static Scene scene(String channels) {
    SceneBuilder builder = CapabilityScenes.of(Capability.IMAGE_FORMATS).toBuilder();
    Map<Channel, Material.Value> values = new EnumMap<>(Channel.class);
    values.put(Channel.METALLIC, new Material.Value(new double[] {0.5}, null));
    for (String each : channels.split(" ")) {
      String[] pair = each.split("=");
      int id = builder.newId();
      builder.add(
          new Texture(id, pair[1], pair[1], pair[1].equals("gone.png") ? null : pair[1], null));
      Channel channel = Channel.valueOf(pair[0]);
      double[] factor = channel.isColour() ? new double[] {1, 1, 1} : new double[] {1};
      values.put(channel, new Material.Value(factor, TextureUse.of(id)));
    }
    return builder
        .materials(
            List.of(
                new Material(
                    1,
                    "oak",
                    Material.Shading.METALLIC_ROUGHNESS,
                    values,
                    Material.Alpha.OPAQUE,
                    0.5,
                    false,
                    Map.of())))
        .build();
  }

  @ParameterizedTest
  @CsvSource({
    "BASE_COLOUR=oak.png, ''",
    "BASE_COLOUR=oak.ktx2, ''",
    "BASE_COLOUR=oak.bmp, IMAGE_FORMATS",
    "BASE_COLOUR=gone.png, MISSING_TEXTURES",
    "CLEARCOAT=oak.bmp, IMAGE_FORMATS",
    "CLEARCOAT=gone.png, MISSING_TEXTURES",
    "SHEEN=gone.png CLEARCOAT=oak.bmp, IMAGE_FORMATS MISSING_TEXTURES",
    "BUMP=height.png, BUMP_MAPS",
    "BUMP=short.png, MISSING_TEXTURES",
    "BUMP=gone.png, MISSING_TEXTURES",
    "BASE_COLOUR=gone.png OPACITY=height.png, MISSING_TEXTURES SEPARATE_CHANNELS",
    "ROUGHNESS=height.png, SEPARATE_CHANNELS",
    "METALLIC=gone.png ROUGHNESS=height.png, MISSING_TEXTURES SEPARATE_CHANNELS",
  })
  void forecastAndProofSayTheSame(String channels, String expected) throws Exception {
    Scene far = scene(channels);
    TestFiles cargo = cargo();
    LandingOptions options = LandingOptions.of("glb");
    TreeSet<String> foretold = new TreeSet<>();
    for (Forecast.Item item : Forecast.of(far, options, cargo).items()) {
      if (OF_IMAGES.contains(item.capability())) {
        foretold.add(item.capability().name());
      }
    }
    assertEquals(expected, String.join(" ", foretold));
    TestFiles out = new TestFiles();
    Landing landing = Landing.write(far, options, "out", cargo, out, Progress.NONE);
    Proof proof = Proof.of(far, far, landing.landed(options, out), cargo, Progress.NONE);
    TreeSet<String> proved = new TreeSet<>();
    for (LedgerRow row : proof.rows()) {
      if (row.verdict() != LedgerRow.Verdict.KEPT && OF_IMAGES.contains(row.about())) {
        proved.add(row.about().name());
      }
    }
    assertEquals(expected, String.join(" ", proved));
  }
}
