package ferry.stone.core.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * Layers are read from one part of their image (the material extensions of glTF 2.0): clear coat
 * from red, its roughness from green, the roughness of sheen from alpha. A value that stands in
 * another part is put there, and the proof looks at that part.
 */
class LayerPartsTest {
  private static final String OBJ =
      "mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl a\nf 1/1 2/2 3/3\n";

  private static byte[] noise(long seed) {
    Random random = new Random(seed);
    int[] argb = new int[64];
    for (int i = 0; i < argb.length; i++) {
      argb[i] = random.nextInt();
    }
    return ImageCodec.encodePng(new Pixels(8, 8, argb, true));
  }

  private static TestFiles cargo() throws Exception {
    return TestFiles.of("a.obj", OBJ)
        .with("m.mtl", "newmtl a\nKd 1 1 1\nPr 1\nPm 0\nmap_Pr n.png\n")
        .with("n.png", noise(3));
  }

  /** A scene whose material has one layer, in a part of the image. */
  private static Scene layered(TestFiles cargo, Channel channel, char part) throws Exception {
    Scene near = CargoReader.read("a", ReadContext.of(cargo));
    Material old = near.materials().get(0);
    TextureUse use = TextureUse.of(near.textures().get(0).id()).withComponent(part);
    double[] factor = {1};
    Map<Channel, Material.Value> channels = Map.of(channel, new Material.Value(factor, use));
    Material material =
        new Material(
            old.id(),
            old.name(),
            Material.Shading.METALLIC_ROUGHNESS,
            channels,
            Material.Alpha.OPAQUE,
            0.5,
            false,
            Map.of());
    return near.toBuilder().materials(List.of(material)).build();
  }

  private static int at(Pixels pixels, int i, char part) {
    return pixels.get(i, part == 0 ? 'l' : part);
  }

  @ParameterizedTest
  @EnumSource(
      value = Channel.class,
      names = {
        "CLEARCOAT",
        "CLEARCOAT_ROUGHNESS",
        "SHEEN_ROUGHNESS",
        "SPECULAR_WEIGHT",
        "TRANSMISSION_WEIGHT",
        "THICKNESS",
        "IRIDESCENCE",
        "IRIDESCENCE_THICKNESS",
        "DIFFUSE_TRANSMISSION"
      })
  void theValueStandsWhereItIsRead(Channel channel) throws Exception {
    for (char part : new char[] {'r', 'g', 'b', 'a'}) {
      TestFiles cargo = cargo();
      Scene far = layered(cargo, channel, part);
      TestFiles out = new TestFiles();
      LandingOptions options = LandingOptions.of("gltf");
      Landing landing = Landing.write(far, options, "b", cargo, out, Progress.NONE);
      Scene again = CargoReader.read("b.gltf", ReadContext.of(out));
      TextureUse use = again.materials().get(0).texture(channel).orElseThrow();
      assertThat(use.component()).isEqualTo(LayerParts.standard(channel));
      String uri = again.texture(use.textureId()).orElseThrow().resource();
      Pixels landed = ImageCodec.decode(out.bytes(uri), uri);
      Pixels own = ImageCodec.decode(noise(3), "n.png");
      for (int i = 0; i < 64; i++) {
        assertThat(at(landed, i, use.component())).isEqualTo(at(own, i, part));
      }
      LedgerRow row = row(far, landing, options, out, cargo);
      assertThat(row.verdict()).as(channel + " from " + part).isEqualTo(Verdict.KEPT);
      // Another image in the file: the part that is read is looked at.
      out.with(uri, noise(4));
      assertThat(row(far, landing, options, out, cargo).verdict()).isEqualTo(Verdict.CHANGED);
    }
  }

  private static LedgerRow row(
      Scene far, Landing landing, LandingOptions options, TestFiles out, TestFiles cargo)
      throws Exception {
    Proof proof = Proof.of(far, far, landing.landed(options, out), cargo, Progress.NONE);
    List<LedgerRow> rows =
        proof.rows().stream().filter(r -> r.fact().endsWith(" texture")).toList();
    assertThat(rows).hasSize(1);
    return rows.get(0);
  }

  @Test
  void alphaAloneThatDiffersIsSeen() throws Exception {
    TestFiles cargo = cargo();
    Scene far = layered(cargo, Channel.SHEEN_ROUGHNESS, 'a');
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of("gltf");
    Landing landing = Landing.write(far, options, "b", cargo, out, Progress.NONE);
    Pixels pixels = ImageCodec.decode(noise(3), "n.png");
    int[] argb = pixels.argb().clone();
    argb[9] ^= 0x40000000;
    out.with("textures/n.png", ImageCodec.encodePng(new Pixels(8, 8, argb, true)));
    assertThat(row(far, landing, options, out, cargo).verdict()).isEqualTo(Verdict.CHANGED);
  }

  @Test
  void otherFormatsGetThePartThatWasRead() throws Exception {
    TestFiles cargo = cargo();
    Scene far = layered(cargo, Channel.CLEARCOAT_ROUGHNESS, 'g');
    TestFiles gltf = new TestFiles();
    Landing.write(far, LandingOptions.of("glb"), "b", cargo, gltf, Progress.NONE);
    Scene read = CargoReader.read("b.glb", ReadContext.of(gltf));
    for (String format : List.of("usda", "obj", "fbx")) {
      TestFiles out = new TestFiles();
      LandingOptions options = LandingOptions.of(format);
      Landing landing = Landing.write(read, options, "c", gltf, out, Progress.NONE);
      Proof proof = Proof.of(read, read, landing.landed(options, out), gltf, Progress.NONE);
      assertThat(proof.rows())
          .filteredOn(r -> r.fact().equals("Clearcoat roughness texture"))
          .as(format)
          .hasSize(1)
          .allMatch(r -> r.verdict() == Verdict.KEPT);
      if (format.equals("usda")) {
        assertThat(new String(out.bytes("c.usda"), java.nio.charset.StandardCharsets.UTF_8))
            .containsPattern("inputs:clearcoatRoughness.connect = <[^>]*outputs:g>");
      }
    }
  }
}
