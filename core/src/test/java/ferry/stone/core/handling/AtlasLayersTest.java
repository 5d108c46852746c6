package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Material.Value;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Layers above metallic and roughness in an atlas, and shade on a second set of UVs. */
class AtlasLayersTest {
  private static final int COUNT = 4;

  /** Quads, each with a material of its own and both its corners' UVs in one image. */
  private static Scene scene(TestFiles files, List<Map<Channel, Value>> channels) throws Exception {
    StringBuilder obj = new StringBuilder("mtllib a.mtl\nvt .1 .1\nvt .9 .1\nvt .9 .9\nvt .1 .9\n");
    StringBuilder mtl = new StringBuilder();
    for (int i = 0; i < channels.size(); i++) {
      obj.append(String.format("v %d 0 0\nv %d.9 0 0\nv %d.9 1 0\nv %d 1 0\n", i, i, i, i));
      int v = 4 * i;
      obj.append("usemtl m").append(i);
      obj.append(String.format("\nf %d/1 %d/2 %d/3 %d/4\n", v + 1, v + 2, v + 3, v + 4));
      mtl.append("newmtl m").append(i).append("\nPr 1\nPm 0\nmap_Kd c").append(i).append(".png\n");
      files.with("c" + i + ".png", flat(0xff000000 | 0x203040 * (i + 1)));
    }
    files.with("a.obj", obj.toString()).with("a.mtl", mtl.toString());
    Scene near = CargoReader.read("a", ReadContext.of(files));
    List<Material> materials = new ArrayList<>();
    for (Material old : near.materials()) {
      Map<Channel, Value> own = channels.get(Integer.parseInt(old.name().substring(1)));
      Map<Channel, Value> all = new java.util.EnumMap<>(old.channels());
      own.forEach(
          (channel, value) -> {
            TextureUse use = value.texture();
            // An image of id −1 is the material's own colour, read in a part.
            TextureUse mine =
                use == null || use.textureId() >= 0
                    ? use
                    : use.withTexture(old.texture(Channel.BASE_COLOUR).orElseThrow().textureId());
            all.put(channel, new Value(value.factor(), mine));
          });
      materials.add(old.withChannels(all));
    }
    return near.toBuilder().materials(materials).build();
  }

  private static byte[] flat(int argb) {
    int[] all = new int[16];
    java.util.Arrays.fill(all, argb);
    return ImageCodec.encodePng(new Pixels(4, 4, all, true));
  }

  private static Value number(double... factor) {
    return new Value(factor, null);
  }

  private static Value image(char part, double... factor) {
    return new Value(factor, TextureUse.of(-1).withComponent(part));
  }

  private static Handling.Stage atlas(Scene scene) {
    List<Step> steps = List.of(new Step("a", "atlas", Map.of(), true, List.of()));
    return Handling.run(scene, steps, Progress.NONE).get(0);
  }

  /** What a channel has at the middle of a face, 0 to 255 times its factor. */
  private static double at(Scene scene, int face, Channel channel, int part, int set)
      throws Exception {
    PolygonMesh mesh = scene.meshes().get(0);
    Material material = scene.material(mesh.materialOf(face)).orElseThrow();
    Value value = material.channels().get(channel);
    double factor =
        value.factor() == null ? 1 : value.factor()[Math.min(part, value.factor().length - 1)];
    if (value.texture() == null) {
      return factor;
    }
    assertThat(value.texture().uvSet()).isEqualTo(set);
    Attribute uv = mesh.all(Semantic.UV).get(set);
    double u = 0;
    double v = 0;
    for (int c = mesh.faces().start(face); c < mesh.faces().end(face); c++) {
      int row = uv.valueOf(c, mesh.faces().vertex(c), face);
      u += uv.values()[2 * row] / 4;
      v += uv.values()[2 * row + 1] / 4;
    }
    var texture = scene.texture(value.texture().textureId()).orElseThrow();
    byte[] file =
        texture.embedded() != null ? texture.embedded() : scene.images().read(texture.resource());
    Pixels pixels = ImageCodec.decode(file, texture.name());
    int x = Math.min(pixels.width() - 1, (int) (u * pixels.width()));
    int y = Math.min(pixels.height() - 1, (int) ((1 - v) * pixels.height()));
    char read = channel.isColour() ? "rgb".charAt(part) : LayerParts.of(channel, value.texture());
    int stored = pixels.get(y * pixels.width() + x, read == 0 ? 'l' : read);
    return factor * (channel.isColour() ? ColourSpace.toLinear(stored / 255.0) : stored / 255.0);
  }

  private static double[] linear(Scene scene, Value value) {
    return scene.linearColours() ? value.factor() : ColourSpace.toLinear(value.factor());
  }

  @Test
  void layersAreAsBeforeAtEveryFace() throws Exception {
    List<Map<Channel, Value>> channels =
        List.of(
            Map.of(
                Channel.CLEARCOAT, image('g', 0.8),
                Channel.CLEARCOAT_ROUGHNESS, number(0.25)),
            Map.of(
                Channel.SHEEN, number(0.9, 0.2, 0.4),
                Channel.SHEEN_ROUGHNESS, image('b', 1)),
            Map.of(Channel.SPECULAR_WEIGHT, number(0.3), Channel.THICKNESS, number(2.5)),
            Map.of());
    TestFiles files = new TestFiles();
    Scene near = scene(files, channels);
    Handling.Stage stage = atlas(near);
    assertThat(stage.figure()).isEqualTo("4 materials → 1");
    Scene far = stage.scene();
    for (int f = 0; f < COUNT; f++) {
      int tone = 0x203040 * (f + 1);
      double green = (tone >> 8 & 0xff) / 255.0;
      double blue = (tone & 0xff) / 255.0;
      assertThat(at(far, f, Channel.CLEARCOAT, 0, 0))
          .isCloseTo(f == 0 ? 0.8 * green : 0, within(0.004));
      assertThat(at(far, f, Channel.CLEARCOAT_ROUGHNESS, 0, 0))
          .isCloseTo(f == 0 ? 0.25 : 0, within(0.004));
      for (int c = 0; c < 3; c++) {
        double sheen = f == 1 ? linear(near, channels.get(1).get(Channel.SHEEN))[c] : 0;
        double[] factor = far.materials().get(0).factor(Channel.SHEEN);
        double most = far.linearColours() ? factor[c] : factor[c];
        assertThat(at(far, f, Channel.SHEEN, c, 0)).isCloseTo(sheen, within(0.01 * most + 0.004));
      }
      assertThat(at(far, f, Channel.SHEEN_ROUGHNESS, 0, 0))
          .isCloseTo(f == 1 ? blue : 0, within(0.004));
      assertThat(at(far, f, Channel.SPECULAR_WEIGHT, 0, 0))
          .isCloseTo(f == 2 ? 0.3 : 1, within(0.004));
      assertThat(at(far, f, Channel.THICKNESS, 0, 0)).isCloseTo(f == 2 ? 2.5 : 0, within(0.02));
    }
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of("glb");
    Landing landing = Landing.write(far, options, "b", files, out, Progress.NONE);
    Proof proof = Proof.of(far, far, landing.landed(options, out), files, Progress.NONE);
    assertThat(proof.rows()).noneMatch(row -> row.verdict() == Verdict.LOST);
  }

  @Test
  void numbersThatNoImageHoldsKeepMaterialsApart() throws Exception {
    List<Map<Channel, Value>> channels =
        List.of(
            Map.of(Channel.IOR, number(1.33)),
            Map.of(Channel.IOR, number(1.33)),
            Map.of(Channel.TRANSMISSION_WEIGHT, number(0.9)),
            Map.of(Channel.TRANSMISSION_WEIGHT, number(0.5)));
    Handling.Stage stage = atlas(scene(new TestFiles(), channels));
    assertThat(stage.figure()).isEqualTo("4 materials → 2");
    List<Material> made = stage.scene().materials();
    assertThat(made).extracting(Material::name).containsExactly("atlas", "atlas_2");
    assertThat(made.get(0).factor(Channel.IOR)[0]).isEqualTo(1.33);
    assertThat(at(stage.scene(), 3, Channel.TRANSMISSION_WEIGHT, 0, 0))
        .isCloseTo(0.5, within(0.004));
  }

  @Test
  void shadeOnASecondSetOfUvsKeepsASetOfItsOwn() throws Exception {
    TextureUse second =
        new TextureUse(-1, 1, 0, 0, 1, 1, 0, ferry.stone.core.scene.look.Wrap.REPEATED, 'r', 1, "");
    Map<Channel, Value> shaded = Map.of(Channel.OCCLUSION, new Value(null, second));
    Scene scene = scene(new TestFiles(), List.of(shaded, Map.of(), shaded, Map.of()));
    PolygonMesh mesh = scene.meshes().get(0);
    List<Attribute> layers = new ArrayList<>(mesh.attributes());
    float[] uvs = new float[2 * mesh.faces().cornerCount()];
    for (int i = 0; i < uvs.length; i++) {
      uvs[i] = 0.2f + 0.5f * (i % 8 / 8f);
    }
    layers.add(new Attribute("light", Semantic.UV, Domain.CORNER, 2, uvs, null));
    Scene near = scene.toBuilder().meshes(List.of(mesh.withAttributes(layers))).build();
    Handling.Stage stage = atlas(near);
    assertThat(stage.figure()).isEqualTo("4 materials → 1");
    for (int f = 0; f < COUNT; f++) {
      int red = 0x203040 * (f + 1) >> 16 & 0xff;
      assertThat(at(stage.scene(), f, Channel.OCCLUSION, 0, 1))
          .isCloseTo(f % 2 == 0 ? red / 255.0 : 1, within(0.004));
    }
    assertThat(stage.scene().meshes().get(0).all(Semantic.UV))
        .extracting(Attribute::name)
        .containsExactly(mesh.first(Semantic.UV).orElseThrow().name(), "light");
  }
}
