package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.Landings;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.match.TestImages;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Images under new names, and the files that land with them. */
class ImageNamesTest {
  private final TestFiles files = new TestFiles();

  private Scene scene() throws Exception {
    files.with("tex/a1.png", TestImages.colours(1)).with("tex/a2.png", TestImages.normals(true));
    files.with("tex/a3.png", TestImages.packed(3)).with("b.png", TestImages.colours(2));
    files.with(
        "a.obj",
        "mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nvn 0 0 1\n"
            + "usemtl oak\nf 1/1/1 2/2/1 3/3/1\nusemtl iron\nf 1/1/1 3/3/1 2/2/1\n");
    files.with(
        "a.mtl",
        "newmtl oak\nmap_Kd tex/a1.png\nnorm tex/a2.png\nmap_ORM tex/a3.png\n"
            + "newmtl iron\nmap_Kd b.png\nmap_Pr tex/a2.png\n");
    return CargoReader.read("a", ReadContext.of(files));
  }

  private static Scene renamed(Scene scene, Map<String, Object> params) {
    List<Step> steps = List.of(new Step("a", "rename", params, true, List.of()));
    Handling.Stage stage = Handling.run(scene, steps, Progress.NONE).get(0);
    assertThat(stage.failure()).isNull();
    return stage.scene();
  }

  private static List<String> names(Scene scene) {
    return scene.textures().stream().map(Texture::name).toList();
  }

  @Test
  void eachIsNamedByTheMaterialThatShowsItFirstAndByWhatItIsFor() throws Exception {
    Scene far = renamed(scene(), Map.of("what", "images", "how", "channel"));
    assertThat(names(far))
        .containsExactlyInAnyOrder(
            "oak_BaseColor.png", "oak_Normal.png", "oak_ORM.png", "iron_BaseColor.png");
  }

  @Test
  void otherWaysOfRenamingKeepTheEnding() throws Exception {
    Map<String, Object> params = Map.of("what", "images", "how", "affix", "prefix", "T_");
    assertThat(names(renamed(scene(), params))).contains("T_a1.png", "T_b.png");
    assertThatThrownBy(() -> renamed(scene(), Map.of("what", "parts", "how", "channel")))
        .hasMessageContaining("for images");
  }

  @ParameterizedTest
  @ValueSource(strings = {"gltf", "usda", "fbx"})
  void filesLandUnderTheNewNamesAndAreFoundThere(String format) throws Exception {
    Scene near = scene();
    Scene far = renamed(near, Map.of("what", "images", "how", "channel"));
    LandingOptions options = LandingOptions.of(format);
    options = format.equals("usda") ? options : options.with("embedTextures", false);
    Map<String, byte[]> written = new TreeMap<>();
    Landings landings =
        Landings.write(far, options, "a", files, path -> keeping(path, written), Progress.NONE);
    assertThat(written.keySet().stream().map(p -> p.substring(p.lastIndexOf('/') + 1)))
        .contains("oak_BaseColor.png", "iron_BaseColor.png")
        .doesNotContain("a1.png", "b.png");
    MemoryFiles landed = new MemoryFiles(written);
    Proof proof = landings.proof(near, far, options, landed, files, Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(r -> r.verdict() == Verdict.LOST)
        .extracting(LedgerRow::fact)
        .noneMatch(f -> f.contains("exture") || f.contains("mage"));
    Scene again = CargoReader.read("a", landings.mainFiles(), ReadContext.of(landed));
    assertThat(again.textures()).allMatch(Texture::isFound);
  }

  private static OutputStream keeping(String path, Map<String, byte[]> written) {
    return new ByteArrayOutputStream() {
      @Override
      public void close() {
        written.put(path, toByteArray());
      }
    };
  }
}
