package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.PartSource;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.match.TestImages;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Images made of parts of others, pixel by pixel. */
class PackImageTest {
  private static Scene scene(String material, TestFiles files) throws Exception {
    files
        .with(
            "a.obj", "mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nusemtl oak\nf 1/1 2/1 3/1\n")
        .with("a.mtl", "newmtl oak\n" + material);
    return CargoReader.read("a", ReadContext.of(files));
  }

  private static Handling.Stage run(Scene scene, Map<String, Object> params) {
    List<Step> steps = List.of(new Step("a", "packImage", params, true, List.of()));
    return Handling.run(scene, steps, Progress.NONE).get(0);
  }

  private static TextureUse use(Scene scene, Channel channel) {
    return scene.materials().get(0).texture(channel).orElseThrow();
  }

  private static Pixels image(Scene scene, Channel channel) throws Exception {
    Texture texture = scene.texture(use(scene, channel).textureId()).orElseThrow();
    return ImageCodec.decode(texture.embedded(), texture.name());
  }

  @Test
  void threeGreyImagesBecomeOneWithEachValueWhereItBelongs() throws Exception {
    TestFiles files = new TestFiles();
    files.with("r.png", TestImages.grey(1)).with("m.png", TestImages.grey(2));
    files.with("o.png", TestImages.grey(3));
    Scene near = scene("map_Pr r.png\nmap_Pm m.png\n", files);
    Handling.Stage stage = run(near, Map.of("red", "o.png", "target", "orm"));
    assertThat(stage.figure()).isEqualTo("1 image");
    Scene far = stage.scene();
    Pixels packed = image(far, Channel.ROUGHNESS);
    Pixels o = ImageCodec.decode(TestImages.grey(3), "o.png");
    Pixels r = ImageCodec.decode(TestImages.grey(1), "r.png");
    Pixels m = ImageCodec.decode(TestImages.grey(2), "m.png");
    for (int i = 0; i < packed.argb().length; i++) {
      assertThat(packed.get(i, 'r')).isEqualTo(o.get(i, 'g'));
      assertThat(packed.get(i, 'g')).isEqualTo(r.get(i, 'g'));
      assertThat(packed.get(i, 'b')).isEqualTo(m.get(i, 'g'));
    }
    assertThat(use(far, Channel.OCCLUSION).component()).isEqualTo('r');
    assertThat(use(far, Channel.METALLIC).component()).isEqualTo('b');
    assertThat(use(far, Channel.METALLIC).textureId())
        .isEqualTo(use(far, Channel.OCCLUSION).textureId());
    assertThat(packed.hasAlpha()).isFalse();
  }

  @Test
  void numbersOfTheMaterialGoIntoTheImageAndDoNotCountTwice() throws Exception {
    TestFiles files = new TestFiles().with("r.png", TestImages.grey(1));
    Scene near = scene("Pr 0.5\nmap_Pr r.png\nPm 0.25\n", files);
    Scene far = run(near, Map.of("red", "1", "target", "orm")).scene();
    Pixels packed = image(far, Channel.ROUGHNESS);
    Pixels r = ImageCodec.decode(TestImages.grey(1), "r.png");
    for (int i = 0; i < packed.argb().length; i++) {
      assertThat(packed.get(i, 'r')).isEqualTo(255);
      assertThat(packed.get(i, 'g')).isEqualTo((int) Math.round(r.get(i, 'g') * 0.5));
      assertThat(packed.get(i, 'b')).isEqualTo(64);
    }
    Material oak = far.materials().get(0);
    assertThat(oak.get(Channel.ROUGHNESS).orElseThrow().isOne()).isTrue();
    assertThat(oak.get(Channel.METALLIC).orElseThrow().isOne()).isTrue();
  }

  @Test
  void gloss_turnsAndAlphaGoesIntoColour() throws Exception {
    TestFiles files = new TestFiles();
    files.with("c.png", TestImages.colours(4)).with("g.png", TestImages.grey(5));
    Scene near = scene("map_Kd c.png\n", files);
    Map<String, Object> params =
        Map.of(
            "red", "@base colour:r",
            "green", "c.png:g",
            "blue", "c.png:b",
            "alpha", "!g.png",
            "target", "cutout");
    Scene far = run(near, params).scene();
    Pixels packed = image(far, Channel.BASE_COLOUR);
    Pixels c = ImageCodec.decode(TestImages.colours(4), "c.png");
    Pixels g = ImageCodec.decode(TestImages.grey(5), "g.png");
    assertThat(packed.hasAlpha()).isTrue();
    for (int i = 0; i < packed.argb().length; i++) {
      assertThat(packed.argb()[i] & 0xffffff).isEqualTo(c.argb()[i] & 0xffffff);
      assertThat(packed.get(i, 'a')).isEqualTo(255 - g.get(i, 'l'));
    }
    assertThat(use(far, Channel.OPACITY).component()).isEqualTo('a');
    assertThat(far.materials().get(0).alpha()).isEqualTo(Material.Alpha.BLEND);
  }

  /** What is packed and taken apart again is what it was, whatever the sizes. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8})
  void whatIsPackedUnpacksPixelByPixel(int seed) {
    Random random = new Random(seed);
    Pixels[] four = new Pixels[4];
    for (int i = 0; i < 4; i++) {
      int side = 1 << (1 + random.nextInt(4));
      int[] argb = random.ints(side * side).toArray();
      four[i] = new Pixels(side, side, argb, true);
    }
    String parts = "rgba";
    PartSource[] sources = new PartSource[4];
    for (int i = 0; i < 4; i++) {
      sources[i] = new PartSource(four[i], parts.charAt(i), random.nextBoolean(), 1);
    }
    Pixels packed = PartSource.pack(sources[0], sources[1], sources[2], sources[3]);
    int side = packed.width();
    assertThat(side).isEqualTo(Arrays.stream(four).mapToInt(Pixels::width).max().orElseThrow());
    for (int i = 0; i < 4; i++) {
      int step = side / four[i].width();
      char part = parts.charAt(i);
      for (int y = 0; y < side; y++) {
        for (int x = 0; x < side; x++) {
          int was = four[i].get(y / step * four[i].width() + x / step, part);
          assertThat(packed.get(y * side + x, part))
              .isEqualTo(sources[i].inverted() ? 255 - was : was);
        }
      }
    }
  }

  @ParameterizedTest
  @CsvSource({
    "gone.png, there is no image \"gone.png\"",
    "@shine, \"shine\" is no channel",
    "1.5, from 0 to 1"
  })
  void whatIsNotThereIsSaid(String red, String told) throws Exception {
    Handling.Stage stage = run(scene("Kd 1 1 1\n", new TestFiles()), Map.of("red", red));
    String all = stage.failure() + " " + stage.findings().stream().map(Finding::message).toList();
    assertThat(all).contains(told);
  }

  @Test
  void anImageThatIsAvifIsRefusedInASentence() throws Exception {
    byte[] avif = new byte[64];
    System.arraycopy("ftypavif".getBytes(), 0, avif, 4, 8);
    TestFiles files = new TestFiles().with("c.png", avif);
    Scene near = scene("map_Kd c.png\n", files);
    assertThat(Survey.of(near, List.of(), Progress.NONE).findings())
        .anyMatch(f -> (f.message() + f.evidence()).contains("AVIF"));
  }
}
