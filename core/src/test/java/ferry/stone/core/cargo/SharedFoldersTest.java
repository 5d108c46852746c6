package ferry.stone.core.cargo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Images that are not in a cargo are found in folders that many assets use. */
class SharedFoldersTest {
  @TempDir Path folder;

  private static final byte[] OAK =
      ImageCodec.encodePng(new Pixels(2, 1, new int[] {0xff804020, 0xff402010}, false));

  private static Scene plank() throws Exception {
    TestFiles files = new TestFiles();
    files.with(
        "plank.obj",
        "mtllib p.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl oak\nf 1/1 2/2 3/3\n");
    files.with("p.mtl", "newmtl oak\nKd 1 1 1\nmap_Kd oak.png\n");
    files.with("oak.png", OAK);
    return CargoReader.read("plank", ReadContext.of(files));
  }

  /** Landed with its image beside it, which then moves into the library. */
  @ParameterizedTest
  @ValueSource(strings = {"obj", "gltf", "fbx", "usda"})
  void anImageIsFoundByItsNameAndLands(String format) throws Exception {
    LandingOptions options = LandingOptions.of(format);
    options = format.equals("fbx") ? options.with("embedTextures", false) : options;
    TestFiles source = new TestFiles().with("oak.png", OAK);
    TestFiles out = new TestFiles();
    Landing landing = Landing.write(plank(), options, "plank", source, out, Progress.NONE);
    Path library = Files.createDirectories(folder.resolve("wood/hard"));
    Map<String, Path> files = new TreeMap<>();
    int images = 0;
    for (String path : out.paths()) {
      boolean image = path.endsWith(".png");
      images += image ? 1 : 0;
      String name = path.substring(path.lastIndexOf('/') + 1);
      Path place =
          image ? library.resolve(name.toUpperCase(java.util.Locale.ROOT)) : folder.resolve(name);
      Files.write(place, out.bytes(path));
      if (!image) {
        files.put(path, place);
      }
    }
    assertThat(images).isEqualTo(1);
    Resources alone = new CargoFolder(files);
    Scene without = CargoReader.read("plank", ReadContext.of(alone));
    assertThat(without.textures()).allMatch(t -> t.resource() == null);
    Resources both = new CargoFolder(files, SharedFolders.of(List.of(folder.resolve("wood"))));
    Findings told = new Findings();
    Scene read = CargoReader.read("plank", new ReadContext(both, Map.of(), told, Progress.NONE));
    assertThat(read.textures()).hasSize(1).allMatch(t -> t.resource() != null);
    assertThat(told.list()).anyMatch(f -> f.code().equals("file-of-library"));
    assertThat(both.paths()).noneMatch(p -> p.toLowerCase().endsWith(".png"));
    TestFiles again = new TestFiles();
    Landing.write(read, LandingOptions.of("gltf"), "again", both, again, Progress.NONE);
    String landed = again.paths().stream().filter(p -> p.endsWith(".png")).findFirst().get();
    assertThat(landed).doesNotContain("library:");
    assertThat(ImageCodec.decode(again.bytes(landed), landed).argb())
        .isEqualTo(ImageCodec.decode(OAK, "oak.png").argb());
    assertThat(landing.mainFile()).endsWith(format);
  }

  @Test
  void onlyImagesBelowTheFoldersAreThere() throws Exception {
    Path library = Files.createDirectory(folder.resolve("library"));
    Files.write(folder.resolve("secret.png"), OAK);
    Files.write(library.resolve("oak.png"), OAK);
    Files.writeString(library.resolve("notes.txt"), "secret");
    Files.createSymbolicLink(library.resolve("link.png"), folder.resolve("secret.png"));
    SharedFolders shared = SharedFolders.of(library.toString());
    CargoFolder cargo = new CargoFolder(Map.of(), shared);
    assertThat(cargo.shared("OAK.PNG")).hasSize(1);
    try (InputStream in = cargo.open(cargo.shared("oak.png").get(0))) {
      assertThat(in.readAllBytes()).isEqualTo(OAK);
    }
    Stream.of("notes.txt", "link.png", "../secret.png", "secret.png")
        .forEach(
            name -> {
              assertThat(cargo.shared(name)).isEmpty();
              String path = SharedFolders.PREFIX + "0/" + name;
              assertThat(cargo.contains(path)).isFalse();
              assertThatThrownBy(() -> cargo.open(path)).isInstanceOf(NoSuchFileException.class);
            });
  }

  @Test
  void aFolderThatIsNotThereIsSaid() {
    assertThatThrownBy(() -> SharedFolders.of(folder.resolve("gone").toString()))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("is not there");
    assertThat(SharedFolders.of("")).isSameAs(SharedFolders.NONE);
    assertThat(SharedFolders.of((String) null)).isSameAs(SharedFolders.NONE);
  }
}
