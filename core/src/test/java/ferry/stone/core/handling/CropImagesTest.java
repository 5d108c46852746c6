package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** What no face shows is cut away; what stays is the same pixels at the same places. */
class CropImagesTest {
  private static byte[] noise(int side, long seed) {
    Random random = new Random(seed);
    int[] argb = new int[side * side];
    for (int i = 0; i < argb.length; i++) {
      argb[i] = 0xff000000 | random.nextInt(1 << 24);
    }
    return ImageCodec.encodePng(new Pixels(side, side, argb, false));
  }

  /** A triangle that shows u 0.25 to 0.5 and v 0.5 to 0.75 of its images, two tiles on. */
  private static Scene scene(TestFiles files, String mtl) throws Exception {
    String obj =
        "mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 2.25 .5\nvt 2.5 .5\nvt 2.25 .75\n"
            + "usemtl a\nf 1/1 2/2 3/3\n";
    files.with("a.obj", obj).with("a.mtl", "newmtl a\n" + mtl);
    return CargoReader.read("a", ReadContext.of(files));
  }

  private static Handling.Stage run(Scene scene, Map<String, Object> params) {
    List<Step> steps = List.of(new Step("a", "cropImages", params, true, List.of()));
    return Handling.run(scene, steps, Progress.NONE).get(0);
  }

  private static Pixels image(Scene scene, Channel channel) throws Exception {
    int id = scene.materials().get(0).texture(channel).orElseThrow().textureId();
    Texture texture = scene.texture(id).orElseThrow();
    return ImageCodec.decode(texture.embedded(), texture.name());
  }

  @Test
  void onlyWhatIsShownStaysPixelByPixel() throws Exception {
    TestFiles files = new TestFiles().with("c.png", noise(64, 1)).with("r.png", noise(32, 2));
    Scene near = scene(files, "Kd 1 1 1\nmap_Kd c.png\nmap_Pr r.png\nPm 0\n");
    Handling.Stage stage = run(near, Map.of("margin", 2));
    // The smaller image has the grid: 8 pixels of it are shown, with 2 around.
    Pixels rough = image(stage.scene(), Channel.ROUGHNESS);
    Pixels colour = image(stage.scene(), Channel.BASE_COLOUR);
    assertThat(rough.width()).isEqualTo(12);
    assertThat(colour.width()).isEqualTo(24);
    Pixels whole = ImageCodec.decode(noise(64, 1), "c.png");
    for (int y = 0; y < 24; y++) {
      for (int x = 0; x < 24; x++) {
        // 0.25 × 64 − 4 from the left, (1 − 0.75) × 64 − 4 from the top.
        assertThat(colour.argb()[24 * y + x]).isEqualTo(whole.argb()[64 * (12 + y) + 12 + x]);
      }
    }
    PolygonMesh mesh = stage.scene().meshes().get(0);
    Attribute uv = mesh.first(Semantic.UV).orElseThrow();
    double[][] expected = {{1 / 6.0, 1 / 6.0}, {5 / 6.0, 1 / 6.0}, {1 / 6.0, 5 / 6.0}};
    for (int c = 0; c < 3; c++) {
      int row = uv.valueOf(c, mesh.faces().vertex(c), 0);
      assertThat(uv.values()[2 * row]).isCloseTo((float) expected[c][0], within(1e-5f));
      assertThat(uv.values()[2 * row + 1]).isCloseTo((float) expected[c][1], within(1e-5f));
    }
    Material material = stage.scene().materials().get(0);
    assertThat(material.texture(Channel.BASE_COLOUR).orElseThrow().wrap().u())
        .isEqualTo(Wrap.Edge.CLAMP);
    assertThat(stage.findings()).anyMatch(f -> f.measured().startsWith("86 %"));
    assertThat(stage.figure()).startsWith("1 material · ");
  }

  @Test
  void whatIsNotWorthItStays() throws Exception {
    TestFiles files = new TestFiles().with("c.png", noise(64, 1));
    Scene near = scene(files, "map_Kd c.png\n");
    Handling.Stage stage = run(near, Map.of("margin", 30));
    assertThat(stage.figure()).isEqualTo("nothing to cut away");
    assertThat(stage.scene()).isSameAs(near);
  }

  @Test
  void imagesThatLieDifferentlyOrRepeatStay() throws Exception {
    TestFiles files = new TestFiles().with("c.png", noise(64, 1)).with("r.png", noise(64, 2));
    Scene apart = scene(files, "map_Kd c.png\nmap_Pr -s 2 2 1 r.png\n");
    assertThat(run(apart, Map.of()).findings())
        .anyMatch(f -> f.message().contains("lie otherwise than each other"));
    Scene repeating = scene(files, "map_Kd -s 8 8 1 c.png\n");
    assertThat(run(repeating, Map.of()).findings())
        .anyMatch(f -> f.message().contains("repeat across faces"));
    Scene missing = scene(new TestFiles(), "map_Kd gone.png\n");
    assertThat(run(missing, Map.of()).findings())
        .anyMatch(f -> f.message().contains("gone.png is missing"));
  }
}
