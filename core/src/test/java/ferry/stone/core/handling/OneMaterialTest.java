package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.match.TestImages;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Twelve materials become one, and every point of the surface looks as before. */
class OneMaterialTest {
  /** Twelve quads, every third without an image, UVs of each in a square of its own. */
  private static TestFiles twelve(boolean repeating) {
    StringBuilder obj = new StringBuilder("mtllib a.mtl\n");
    StringBuilder mtl = new StringBuilder();
    TestFiles files = new TestFiles();
    for (int i = 0; i < 12; i++) {
      int size = 1 + i % 4;
      obj.append("o part_").append(i).append('\n');
      for (int k = 0; k < 4; k++) {
        int x = k == 1 || k == 2 ? 1 : 0;
        int y = k >> 1;
        double u = 0.1 + 0.8 * (repeating && i == 4 ? 3 : 1) * x - (i == 7 ? 2 : 0);
        obj.append("v ").append(3 * i + size * x).append(' ').append(size * y).append(" 0\n");
        obj.append("vt ").append(u).append(' ').append(0.05 + 0.9 * y).append('\n');
      }
      obj.append("usemtl m").append(i).append("\nf");
      for (int k = 1; k <= 4; k++) {
        obj.append(' ').append(4 * i + k).append('/').append(4 * i + k);
      }
      obj.append('\n');
      mtl.append("newmtl m").append(i).append("\nPm ").append(i / 12.0).append("\nPr 0.").append(i);
      mtl.append("\nKd 0.5 0.").append(1 + i % 9).append(" 0.9\n");
      if (i % 3 != 0) {
        mtl.append("map_Kd c").append(i).append(".png\n");
        files.with("c" + i + ".png", TestImages.colours(i));
      }
      if (i == 5) {
        mtl.append("norm n.png\n");
        files.with("n.png", TestImages.normals(true));
      }
    }
    return files.with("a.obj", obj.toString()).with("a.mtl", mtl.toString());
  }

  private static Handling.Stage join(Scene scene, Map<String, Object> params) {
    List<Step> steps = List.of(new Step("a", "atlas", params, true, List.of()));
    return Handling.run(scene, steps, Progress.NONE).get(0);
  }

  @Test
  void twelveMaterialsLandAsOne() throws Exception {
    TestFiles files = twelve(false);
    Scene near = CargoReader.read("a", ReadContext.of(files));
    Handling.Stage stage = join(near, Map.of("name", "yard"));
    assertThat(stage.failure()).isNull();
    assertThat(stage.figure()).isEqualTo("12 materials → 1");
    Scene far = stage.scene();
    assertThat(far.materials()).extracting(Material::name).containsExactly("yard");
    assertThat(sameLooks(near, far, files)).isEqualTo(12 * 25);

    TestFiles out = new TestFiles();
    LandingOptions glb = LandingOptions.of("glb");
    Landing landing = Landing.write(far, glb, "yard", files, out, Progress.NONE);
    Proof proof = Proof.of(near, far, landing.landed(glb, out), files, Progress.NONE);
    assertThat(proof.rows()).noneMatch(r -> r.verdict() == Verdict.LOST);
    Scene landed = CargoReader.read("yard", ReadContext.of(out));
    assertThat(landed.materials()).hasSize(1);
  }

  @Test
  void whatRepeatsStaysOrIsLaidOut() throws Exception {
    TestFiles files = twelve(true);
    Scene near = CargoReader.read("a", ReadContext.of(files));
    Handling.Stage stays = join(near, Map.of());
    assertThat(stays.figure()).isEqualTo("11 materials → 1");
    assertThat(stays.findings())
        .anyMatch(f -> f.where().equals("m4") && f.message().contains("repeat"));
    Handling.Stage unrolled = join(near, Map.of("repeating", "unroll"));
    assertThat(unrolled.figure()).isEqualTo("12 materials → 1");
    assertThat(sameLooks(near, unrolled.scene(), files)).isEqualTo(12 * 25);
  }

  @Test
  void aSmallAtlasGivesSurfacesPixelsByTheirArea() throws Exception {
    TestFiles files = twelve(false);
    Scene near = CargoReader.read("a", ReadContext.of(files));
    Handling.Stage small = join(near, Map.of("side", 128, "padding", 2));
    assertThat(small.figure()).isEqualTo("12 materials → 1");
    assertThat(small.findings()).anyMatch(f -> f.measured().contains("% of their resolution"));
    Map<String, Double> areas = new java.util.HashMap<>();
    for (PolygonMesh mesh : small.scene().meshes()) {
      float[] uv = mesh.first(Semantic.UV).orElseThrow().values();
      areas.put(mesh.name(), Math.abs((uv[2] - uv[0]) * (double) (uv[5] - uv[3])));
    }
    // part_7 is four times as long and high as part_4, so it has up to sixteen times the pixels.
    assertThat(areas.get("part_7")).isGreaterThan(4 * areas.get("part_4"));
    assertThat(join(near, Map.of("padding", 3)).failure()).contains("padding");
  }

  /** Compares the colour at 25 places of each quad, as linear light; how many are alike. */
  private static int sameLooks(Scene near, Scene far, TestFiles files) throws Exception {
    int same = 0;
    for (int m = 0; m < near.meshes().size(); m++) {
      for (int k = 0; k < 25; k++) {
        double s = 0.1137 + 0.1891 * (k % 5);
        double t = 0.1273 + 0.1817 * (k / 5);
        double[] before = colour(near, near.meshes().get(m), s, t, files);
        double[] after = colour(far, far.meshes().get(m), s, t, files);
        boolean alike = true;
        for (int c = 0; c < 3; c++) {
          alike &= Math.abs(before[c] - after[c]) < 0.01;
        }
        same += alike ? 1 : 0;
      }
    }
    return same;
  }

  private static double[] colour(Scene scene, PolygonMesh mesh, double s, double t, TestFiles files)
      throws Exception {
    Attribute uv = mesh.first(Semantic.UV).orElseThrow();
    double[] at = new double[2];
    double[] weight = {(1 - s) * (1 - t), s * (1 - t), s * t, (1 - s) * t};
    for (int k = 0; k < 4; k++) {
      int value = uv.valueOf(k, mesh.faces().vertex(k), 0);
      at[0] += weight[k] * uv.values()[2 * value];
      at[1] += weight[k] * uv.values()[2 * value + 1];
    }
    Material material = scene.material(mesh.materialOf(0)).orElseThrow();
    double[] factor = ColourSpace.toLinear(material.factor(Channel.BASE_COLOUR, 1, 1, 1));
    var use = material.texture(Channel.BASE_COLOUR);
    if (use.isEmpty()) {
      return factor;
    }
    var texture = scene.texture(use.get().textureId()).orElseThrow();
    byte[] file = texture.embedded() != null ? texture.embedded() : files.bytes(texture.resource());
    Pixels image = ImageCodec.decode(file, "a.png");
    int x = Math.floorMod((int) Math.floor(at[0] * image.width()), image.width());
    int y = Math.floorMod((int) Math.floor((1 - at[1]) * image.height()), image.height());
    int p = image.argb()[y * image.width() + x];
    double[] colour = new double[3];
    for (int c = 0; c < 3; c++) {
      colour[c] = factor[c] * ColourSpace.toLinear((p >> 16 - 8 * c & 0xff) / 255.0);
    }
    return colour;
  }
}
