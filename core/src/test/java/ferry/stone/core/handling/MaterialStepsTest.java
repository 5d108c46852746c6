package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageLoss;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.match.TestImages;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Materials that are the same become one; images become smaller, and say what that loses. */
class MaterialStepsTest {
  private static Scene scene(String mtl, TestFiles files) throws Exception {
    StringBuilder obj = new StringBuilder("mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\n");
    for (String line : mtl.split("\n")) {
      if (line.startsWith("newmtl ")) {
        obj.append("usemtl ").append(line.substring(7)).append("\nf 1/1 2/1 3/1\n");
      }
    }
    files.with("a.obj", obj.toString()).with("a.mtl", mtl);
    return CargoReader.read("a", ReadContext.of(files));
  }

  private static Handling.Stage run(Scene scene, String kind, Map<String, Object> params) {
    List<Step> steps = List.of(new Step("a", kind, params, true, List.of()));
    return Handling.run(scene, steps, Progress.NONE).get(0);
  }

  @Test
  void sameMaterialsBecomeOneAndFacesFollow() throws Exception {
    String mtl =
        "newmtl oak\nKd 1 0 0\nnewmtl oak.001\nKd 1 0 0\nnewmtl ash\nKd 1 0 0\nPr 0.5\n"
            + "newmtl ash.002\nKd 0 1 0\nPr 0.5\n";
    Scene near = scene(mtl, new TestFiles());
    List<Finding> found = Survey.of(near, List.of(), Progress.NONE).findings();
    assertThat(found).anyMatch(f -> f.code().equals("materials-alike") && f.where().equals("oak"));
    Finding differ =
        found.stream()
            .filter(f -> f.code().equals("materials-of-one-name"))
            .findFirst()
            .orElseThrow();
    assertThat(differ.evidence()).contains("ash, ash.002").contains("base colour");

    Handling.Stage alike = run(near, "sameMaterials", Map.of());
    assertThat(alike.figure()).isEqualTo("4 materials → 3");
    assertThat(names(alike.scene())).containsExactly("oak", "ash", "ash.002");
    int oak = alike.scene().materials().get(0).id();
    assertThat(alike.scene().meshes().get(0).materialOf(1)).isEqualTo(oak);
    assertThat(Survey.of(alike.scene(), List.of(), Progress.NONE).findings())
        .noneMatch(f -> f.code().equals("materials-alike"));

    Handling.Stage named = run(near, "sameMaterials", Map.of("which", "named"));
    assertThat(names(named.scene())).containsExactly("oak", "ash");
    assertThat(named.findings()).anyMatch(f -> f.message().contains("it differed: base colour"));
  }

  private static List<String> names(Scene scene) {
    return scene.materials().stream().map(Material::name).toList();
  }

  @Test
  void imagesBecomeSmallerAndSayWhatIsLost() throws Exception {
    TestFiles files = new TestFiles();
    files.with("c.png", TestImages.colours(1)).with("n.png", TestImages.normals(true));
    Scene near = scene("newmtl oak\nmap_Kd c.png\nnorm n.png\n", files);
    Handling.Stage small = run(near, "images", Map.of("side", 32));
    assertThat(small.figure()).startsWith("2 images · ");
    for (Texture texture : small.scene().textures()) {
      assertThat(ImageCodec.probe(texture.embedded(), "a").width()).isEqualTo(32);
    }
    assertThat(small.findings()).allMatch(f -> f.measured().endsWith("dB"));
    // Waves keep more than noise does.
    assertThat(decibels(small, "n.png")).isGreaterThan(decibels(small, "c.png") + 5);

    Handling.Stage jpeg = run(near, "images", Map.of("kind", "jpeg"));
    assertThat(jpeg.scene().textures()).extracting(Texture::name).contains("c.jpg", "n.png");
    assertThat(run(near, "images", Map.of()).figure()).isEqualTo("all are small enough");
    assertThat(run(near, "images", Map.of("side", 48, "powers", true)).findings())
        .allMatch(f -> f.message().contains("became 32 × 32"));
  }

  private static double decibels(Handling.Stage stage, String image) {
    return stage.findings().stream()
        .filter(f -> f.where().equals(image))
        .mapToDouble(f -> Double.parseDouble(f.measured().split(" ")[0]))
        .findFirst()
        .orElseThrow();
  }

  /** 10 log₁₀(255² / MSE): one of 255 off everywhere is 48.13 dB, by hand. */
  @Test
  void lossIsThePeakSignalToNoiseRatio() {
    int[] a = new int[64];
    int[] b = new int[64];
    Arrays.fill(a, 0x80808080);
    Arrays.fill(b, 0x81818181);
    assertThat(ImageLoss.decibels(new Pixels(8, 8, a, true), new Pixels(8, 8, b, true)))
        .isCloseTo(48.13, within(0.01));
    assertThat(ImageLoss.decibels(new Pixels(8, 8, a, true), new Pixels(8, 8, a, true)))
        .isInfinite();
  }

  /** A quad over the whole image, red at the left and blue at the right. */
  private static Scene coloured() throws Exception {
    String obj =
        "v 0 0 0 1 0 0\nv 1 0 0 0 0 1\nv 1 1 0 0 0 1\nv 0 1 0 1 0 0\n"
            + "vt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nf 1/1 2/2 3/3 4/4\n";
    return CargoReader.read("a", ReadContext.of(TestFiles.of("a.obj", obj)));
  }

  @Test
  void coloursBecomeAnImageAndComeBack() throws Exception {
    Handling.Stage drawn = run(coloured(), "coloursToImage", Map.of("side", 64));
    assertThat(drawn.failure()).isNull();
    assertThat(drawn.figure()).isEqualTo("1 image");
    Scene scene = drawn.scene();
    assertThat(scene.meshes().get(0).first(Semantic.COLOUR)).isEmpty();
    Pixels image = ImageCodec.decode(scene.textures().get(0).embedded(), "a.png");
    for (int y = 0; y < 64; y++) {
      for (int x = 0; x < 64; x++) {
        int p = image.argb()[64 * y + x];
        double across = (x + 0.5) / 64;
        assertThat((p >> 16 & 0xff) / 255.0).isCloseTo(1 - across, within(0.01));
        assertThat((p & 0xff) / 255.0).isCloseTo(across, within(0.01));
      }
    }
    Handling.Stage back = run(scene, "imageToColours", Map.of());
    float[] colours = back.scene().meshes().get(0).first(Semantic.COLOUR).orElseThrow().values();
    assertThat(colours).hasSize(16);
    float[] red = {1, 0, 0, 1};
    for (int c = 0; c < 4; c++) {
      assertThat(colours[c]).isCloseTo(red[c], within(0.02f));
      assertThat(colours[4 + c]).isCloseTo(red[c < 3 ? 2 - c : 3], within(0.02f));
    }
  }

  @Test
  void whatCannotBeDrawnSaysWhy() throws Exception {
    String bare = "v 0 0 0 1 0 0\nv 1 0 0 0 0 1\nv 0 1 0 0 1 0\nf 1 2 3\n";
    Scene near = CargoReader.read("a", ReadContext.of(TestFiles.of("a.obj", bare)));
    Handling.Stage stage = run(near, "coloursToImage", Map.of());
    assertThat(stage.figure()).isEqualTo("no colours to draw");
    assertThat(stage.findings()).anyMatch(f -> f.message().contains("no UVs"));
    assertThat(stage.scene()).isSameAs(near);
  }

  @Test
  void aDifferenceIsShownEightTimesAsStrongAndOnlyWhereThereIsOne() {
    int[] grey = new int[64];
    Arrays.fill(grey, 0xff404040);
    int[] other = grey.clone();
    other[9] = 0xff404540;
    other[20] = 0xc0404040;
    Pixels off = ImageLoss.picture(new Pixels(8, 8, grey, false), new Pixels(8, 8, other, true));
    assertThat(off.argb()[9]).isEqualTo(0xff002800);
    assertThat(off.argb()[20]).isEqualTo(0xffffffff);
    assertThat(Arrays.stream(off.argb()).filter(p -> p != 0xff000000).count()).isEqualTo(2);
  }
}
