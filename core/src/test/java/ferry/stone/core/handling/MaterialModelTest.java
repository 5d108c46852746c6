package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Material.Shading;
import ferry.stone.core.texture.BumpMap;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.match.TestImages;
import ferry.stone.core.texture.model.MaterialLoss;
import ferry.stone.core.texture.model.MaterialReflection;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Materials in other models: images and numbers, there and back, and what that is off. */
class MaterialModelTest {
  private static Scene scene(String mtl, TestFiles files) throws Exception {
    String obj = "mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nusemtl oak\nf 1/1 2/1 3/1\n";
    files.with("a.obj", obj).with("a.mtl", "newmtl oak\n" + mtl);
    return CargoReader.read("a", ReadContext.of(files));
  }

  private static Scene run(Scene scene, String... params) {
    return stage(scene, params).scene();
  }

  private static Handling.Stage stage(Scene scene, String... to) {
    List<Step> steps = new ArrayList<>();
    for (String model : to) {
      String[] is = model.split(" ");
      String highlight = is.length > 1 ? is[1] : "practice";
      Map<String, Object> params = Map.of("to", is[0], "highlight", highlight);
      steps.add(new Step("s" + steps.size(), "materialModel", params, true, List.of()));
    }
    List<Handling.Stage> stages = Handling.run(scene, steps, Progress.NONE);
    return stages.get(stages.size() - 1);
  }

  private static Material oak(Scene scene) {
    return scene.materials().get(0);
  }

  private static double[] linear(Scene scene, Channel channel) {
    double[] f = oak(scene).factor(channel);
    return scene.linearColours() ? f : ColourSpace.toLinear(f);
  }

  @Test
  void numbersFollowThePublishedConversion() throws Exception {
    // A full metal mirrors its colour and scatters nothing; a body scatters its colour and mirrors
    // 0.04 (glTF 2.0, appendix B.3.5).
    Scene metal = run(scene("Kd .9 .6 .3\nPm 1\nPr .4\n", new TestFiles()), "specular");
    assertThat(oak(metal).shading()).isEqualTo(Shading.SPECULAR_GLOSSINESS);
    assertThat(linear(metal, Channel.BASE_COLOUR)).containsOnly(0);
    assertThat(linear(metal, Channel.SPECULAR)[1])
        .isCloseTo(ColourSpace.toLinear(0.6), within(1e-6));
    assertThat(oak(metal).factor(Channel.ROUGHNESS)[0]).isCloseTo(0.4, within(1e-9));
    Scene body = run(scene("Kd .9 .6 .3\nPm 0\nPr .4\n", new TestFiles()), "specular");
    assertThat(linear(body, Channel.SPECULAR)[2]).isCloseTo(0.04, within(1e-6));
    assertThat(linear(body, Channel.BASE_COLOUR)[0])
        .isCloseTo(ColourSpace.toLinear(0.9), within(1e-6));
    assertThat(oak(body).channels()).doesNotContainKey(Channel.METALLIC);
  }

  @Test
  void phongComesAndGoes() throws Exception {
    Scene near = scene("Kd .5 .4 .3\nKs .2 .2 .2\nNs 30\n", new TestFiles());
    Scene metallic = run(near, "metallic");
    // (2 / (n + 2))^¼: Walter et al. 2007 and glTF 2.0, appendix B.2.3.
    assertThat(oak(metallic).factor(Channel.ROUGHNESS)[0])
        .isCloseTo(Math.pow(2 / 32.0, 0.25), within(1e-9));
    assertThat(oak(metallic).factor(Channel.METALLIC)[0]).isCloseTo(0, within(1e-6));
    Scene again = run(metallic, "phong");
    assertThat(oak(again).factor(Channel.SHININESS)[0]).isCloseTo(30, within(1e-6));
    assertThat(oak(again).channels()).doesNotContainKeys(Channel.ROUGHNESS, Channel.METALLIC);
    Scene mirrored = run(near, "specular reflectance");
    assertThat(linear(mirrored, Channel.SPECULAR)[0])
        .isCloseTo(ColourSpace.toLinear(0.2), within(1e-6));
  }

  private static Pixels random(int side, long seed, boolean cut) {
    Random random = new Random(seed);
    int[] argb = new int[side * side];
    for (int i = 0; i < argb.length; i++) {
      int v = random.nextInt();
      argb[i] = 0xff000000 | (cut ? (v & 0x7f7f7f) + 0x202020 : v & 0xffffff);
    }
    return new Pixels(side, side, argb, false);
  }

  private static MaterialReflection reflection(Scene scene) {
    return new MaterialReflection(
        oak(scene),
        scene.linearColours(),
        use -> {
          try {
            var texture = scene.texture(use.textureId()).orElseThrow();
            byte[] file =
                texture.embedded() != null
                    ? texture.embedded()
                    : scene.images().read(texture.resource());
            return ImageCodec.decode(file, texture.name());
          } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
          }
        },
        true);
  }

  @Test
  void imagesGoThereAndBack() throws Exception {
    for (String by : List.of("specular", "phong")) {
      TestFiles files = new TestFiles();
      files.with("c.png", ImageCodec.encodePng(random(16, 3, true)));
      files.with("m.png", ImageCodec.encodePng(random(8, 4, false)));
      files.with("r.png", ImageCodec.encodePng(random(16, 5, true)));
      Scene near = scene("Kd 1 1 1\nmap_Kd c.png\nmap_Pm m.png\nmap_Pr r.png\n", files);
      Handling.Stage stage = stage(near, by);
      assertThat(oak(stage.scene()).texture(Channel.SPECULAR)).isPresent();
      assertThat(stage.findings())
          .anyMatch(f -> f.code().equals("material-model-changed") && f.measured().contains("%"));
      Scene back = run(stage.scene(), "metallic reflectance");
      assertThat(oak(back).shading()).isEqualTo(Shading.METALLIC_ROUGHNESS);
      // What both reflect is as before, but for 8 bits a channel twice over.
      MaterialLoss loss = MaterialLoss.of(reflection(near), reflection(back), 64);
      assertThat(loss.mean()).as(by).isLessThan(0.004);
      assertThat(loss.most()).as(by).isLessThan(0.05);
      assertThat(loss.picture().width()).isEqualTo(16);
    }
  }

  @Test
  void whatDiffersIsSeenInThePicture() throws Exception {
    Scene one = scene("Kd .5 .5 .5\nPm 0\nPr .5\n", new TestFiles());
    Scene other = scene("Kd .5 .5 .5\nPm 0\nPr .9\n", new TestFiles());
    MaterialLoss loss = MaterialLoss.of(reflection(one), reflection(other), 64);
    // Roughness is one of seven numbers.
    assertThat(loss.mean()).isCloseTo(0.4 / 7, within(1e-9));
    assertThat(loss.picture().argb()[0] & 0xff).isEqualTo((int) Math.round(255 * 8 * 0.4 / 7));
    assertThat(MaterialLoss.of(reflection(one), reflection(one), 64).most()).isZero();
  }

  @Test
  void imagesThatLieDifferentlyStay() throws Exception {
    TestFiles files = new TestFiles();
    files.with("c.png", TestImages.colours(1)).with("r.png", TestImages.grey(2));
    Scene near = scene("map_Kd c.png\nmap_Pr -s 2 2 1 r.png\nPm 0\n", files);
    Handling.Stage stage = stage(near, "phong");
    assertThat(oak(stage.scene()).shading()).isEqualTo(oak(near).shading());
    assertThat(stage.findings()).anyMatch(f -> f.message().contains("lie differently"));
  }

  @Test
  void missingImagesStay() throws Exception {
    Handling.Stage stage = stage(scene("map_Kd gone.png\nPm 0\nPr 1\n", new TestFiles()), "phong");
    assertThat(stage.findings()).anyMatch(f -> f.message().contains("gone.png is missing"));
  }

  @Test
  void bumpsBecomeNormalsByAStatedScale() throws Exception {
    TestFiles files = new TestFiles().with("b.png", TestImages.grey(7));
    Scene near = scene("Kd .5 .5 .5\nNs 10\nmap_Bump -bm 0.5 b.png\n", files);
    Map<String, Object> params = Map.of("to", "metallic", "bumps", true, "bumpScale", 3);
    List<Step> steps = List.of(new Step("s", "materialModel", params, true, List.of()));
    Handling.Stage stage = Handling.run(near, steps, Progress.NONE).get(0);
    int id = oak(stage.scene()).texture(Channel.NORMAL).orElseThrow().textureId();
    byte[] made = stage.scene().texture(id).orElseThrow().embedded();
    Pixels heights = ImageCodec.decode(TestImages.grey(7), "b.png");
    assertThat(ImageCodec.decode(made, "n").argb())
        .isEqualTo(BumpMap.toNormalMap(heights, 1.5).argb());
    assertThat(oak(stage.scene()).channels()).doesNotContainKey(Channel.BUMP);
    assertThat(stage.findings()).anyMatch(f -> f.measured().equals("heights × 1.5"));
  }

  @Test
  void sixteenBitsStay() throws Exception {
    var deep = new ferry.stone.core.texture.PixelSink(4, 4, Pixels.DEEP);
    for (int i = 0; i < 16; i++) {
      deep.put(i, Pixels.DEEP, 4000 * i, 3000 * i, 1001 * i);
    }
    TestFiles files = new TestFiles();
    files.with("c.png", ImageCodec.encodePng(deep.pixels(false)));
    Scene far = run(scene("map_Kd c.png\nPm 0\nPr .5\n", files), "specular");
    int id = oak(far).texture(Channel.BASE_COLOUR).orElseThrow().textureId();
    assertThat(ImageCodec.decode(far.texture(id).orElseThrow().embedded(), "d").isDeep()).isTrue();
  }
}
