package ferry.stone.core.cargo;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.StoppedProgress;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CargoTest {
  private static final String OBJ = "v 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl a\nf 1 2 3\n";
  @TempDir Path folder;

  private Path zip(String... namesAndTexts) throws IOException {
    Path zip = folder.resolve("cargo.zip");
    try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(zip))) {
      for (int i = 0; i < namesAndTexts.length; i += 2) {
        out.putNextEntry(new ZipEntry(namesAndTexts[i]));
        out.write(namesAndTexts[i + 1].getBytes(StandardCharsets.UTF_8));
        out.closeEntry();
      }
    }
    return zip;
  }

  private FormatException refused(Path zip, ZipUnpacker.Limits limits) {
    TestFiles out = new TestFiles();
    FormatException e =
        assertThrows(
            FormatException.class,
            () -> ZipUnpacker.unpack(zip, "cargo.zip", limits, out, Progress.NONE));
    assertTrue(e.getMessage().startsWith("cargo.zip"), e.getMessage());
    return e;
  }

  @Test
  void unpacksWithoutSystemFiles() throws Exception {
    TestFiles out = new TestFiles();
    Path zip = zip("a/b.obj", OBJ, "__MACOSX/a/._b.obj", "x", "a/.DS_Store", "x");
    List<String> paths =
        ZipUnpacker.unpack(zip, "cargo.zip", ZipUnpacker.Limits.USUAL, out, Progress.NONE);
    assertEquals(List.of("a/b.obj"), paths);
    assertEquals(List.of("a/b.obj"), out.paths());
  }

  @ParameterizedTest
  @ValueSource(strings = {"../evil.obj", "a/../../evil.obj", "/etc/evil.obj", "C:\\evil.obj"})
  void refusesPathsThatLeadOutside(String name) throws Exception {
    FormatException e = refused(zip("good.obj", OBJ, name, "x"), ZipUnpacker.Limits.USUAL);
    assertEquals(FormatException.Kind.CORRUPT, e.kind());
    assertTrue(e.getMessage().contains("outside"), e.getMessage());
  }

  @Test
  void refusesBombsBySizeRatioAndCount() throws Exception {
    String much = "0".repeat(3_000_000);
    Path zip = zip("a.txt", much);
    assertEquals(
        FormatException.Kind.TOO_LARGE,
        refused(zip, new ZipUnpacker.Limits(10, 1_000_000, 1000)).kind());
    assertEquals(
        FormatException.Kind.TOO_LARGE,
        refused(zip("a", "1", "b", "2"), new ZipUnpacker.Limits(1, 1_000_000, 1000)).kind());
    Path bomb = folder.resolve("bomb.zip");
    try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(bomb))) {
      out.putNextEntry(new ZipEntry("zeros.bin"));
      byte[] block = new byte[1 << 20];
      for (int i = 0; i < 80; i++) {
        out.write(block);
      }
      out.closeEntry();
    }
    assertEquals(FormatException.Kind.TOO_LARGE, refused(bomb, ZipUnpacker.Limits.USUAL).kind());
  }

  @Test
  void countsAgainWhereAZipLiesAboutItsSizes() throws Exception {
    Path zip = zip("a.txt", "0".repeat(3_000_000));
    byte[] bytes = Files.readAllBytes(zip);
    // The central directory's uncompressed size, 24 bytes into its record.
    for (int i = 0; i + 4 < bytes.length; i++) {
      if (bytes[i] == 'P' && bytes[i + 1] == 'K' && bytes[i + 2] == 1 && bytes[i + 3] == 2) {
        bytes[i + 24] = 10;
        bytes[i + 25] = 0;
        bytes[i + 26] = 0;
        bytes[i + 27] = 0;
      }
    }
    Files.write(zip, bytes);
    refused(zip, new ZipUnpacker.Limits(10, 1_000_000, 1000));
  }

  @Test
  void refusesWhatIsNoZip() throws Exception {
    Path zip = Files.writeString(folder.resolve("cargo.zip"), "no zip at all");
    assertEquals(FormatException.Kind.CORRUPT, refused(zip, ZipUnpacker.Limits.USUAL).kind());
  }

  @Test
  void canBeCancelled() throws Exception {
    Path zip = zip("a.obj", OBJ);
    Progress cancelled = new StoppedProgress();
    assertThrows(
        CancelledException.class,
        () ->
            ZipUnpacker.unpack(
                zip,
                "cargo.zip",
                ZipUnpacker.Limits.USUAL,
                path -> OutputStream.nullOutputStream(),
                cancelled));
  }

  @Test
  void pathsNeverLeadOutside() {
    assertTrue(CargoPath.safe("a/../b").isEmpty());
    assertTrue(CargoPath.safe("").isEmpty());
    assertTrue(CargoPath.safe("a\0b").isEmpty());
    assertEquals("a/b", CargoPath.safe("./a//b").orElseThrow());
    assertEquals("x", CargoPath.resolve("a/b", "../../../../x"));
  }

  @Test
  void severalFilesMakeOneSceneAndShareMaterials() throws Exception {
    TestFiles files =
        TestFiles.of("high.obj", "mtllib m.mtl\n" + OBJ)
            .with("low.obj", "mtllib m.mtl\n" + OBJ)
            .with("m.mtl", "newmtl a\nKd 1 0 0\nmap_Kd t.png\n");
    Scene scene = CargoReader.read("pair", ReadContext.of(files));
    assertEquals(List.of("high", "high/high", "low", "low/low"), scene.paths());
    assertEquals(1, scene.materials().size());
    assertEquals(1, scene.textures().size());
    assertEquals(4, scene.nodes().stream().mapToInt(n -> n.id()).distinct().count());
  }

  /** What a reader passes over must stay with the scene: the proof lists it from there. */
  @Test
  void keepsWithTheSceneWhatAReaderLeftOut() throws Exception {
    String text =
        "mtllib m.mtl\nv 0 0 0 2\nv 1 0 0\nv 0 1 0\nvt 0 0 0.5\nvt 1 0\nvt 0 1\n"
            + "usemtl a\nf 1/1 2/2 3/3\nf 1 2\n";
    TestFiles files =
        TestFiles.of("plank.obj", text).with("m.mtl", "newmtl a\nKd 1 0 0\nNs much\n");
    String told = String.join("\n", CargoReader.read("plank", ReadContext.of(files)).unread());
    assertTrue(told.contains("a third coordinate is left out"), told);
    assertTrue(told.contains("fewer than 3 corners make no surface"), told);
    assertTrue(told.contains("weights other than 1"), told);
    assertTrue(told.contains("\"much\" is no number"), told);
  }

  @Test
  void saysWhichReadingOfANumberedRunWasTaken() throws Exception {
    TestFiles files = new TestFiles();
    for (int i = 1; i <= 4; i++) {
      files.with("plank_0" + i + ".obj", OBJ);
    }
    ReadContext context = ReadContext.of(files);
    CargoReader.read("planks", context);
    assertTrue(context.findings().list().stream().anyMatch(f -> f.code().equals("numbered-run")));
  }

  @Test
  void saysWhenThereIsNothingToRead() {
    FormatException none =
        assertThrows(
            FormatException.class,
            () -> CargoReader.read("x", ReadContext.of(TestFiles.of("notes.txt", "x"))));
    assertEquals(FormatException.Kind.MISSING, none.kind());
  }

  /** One scene as OBJ in metres, FBX in inches with Z up and GLB: three frames, UVs both ways. */
  @Test
  void filesOfOtherUnitsAxesAndFormatsMakeOneScene() throws Exception {
    Scene scene = ferry.stone.core.RandomScene.of(new java.util.Random(11));
    TestFiles files = new TestFiles();
    LandingOptions fbx = LandingOptions.of("fbx").with("unit", "in").with("up", "z");
    int number = 0;
    for (LandingOptions options :
        List.of(fbx, LandingOptions.of("glb"), LandingOptions.of("obj"))) {
      Landing.write(scene, options, "f" + number++, files, files, Progress.NONE);
    }
    Findings findings = new Findings();
    Scene all = CargoReader.read("yard", new ReadContext(files, Map.of(), findings, Progress.NONE));
    Scene read = Rebase.intoData(all, Frame.Y_UP_METRE);
    assertEquals("z", all.frame().up().text());
    assertEquals(0.0254, all.frame().metresPerUnit(), 1e-9);
    assertEquals(
        List.of("brought-to-one-frame", "brought-to-one-frame"),
        findings.list().stream()
            .map(f -> f.code())
            .filter(c -> c.equals("brought-to-one-frame"))
            .toList());
    List<Scene.ShownMesh> shown = read.shownMeshes();
    int parts = scene.meshes().size();
    assertEquals(3 * parts, shown.size());
    for (int m = 0; m < parts; m++) {
      PolygonMesh first = shown.get(m).mesh();
      for (int f = 1; f < 3; f++) {
        Scene.ShownMesh other = shown.get(m + f * parts);
        var a = first.points().bounds(shown.get(m).world());
        var b = other.mesh().points().bounds(other.world());
        assertEquals(0, a.centre().distance(b.centre()), 1e-5);
        assertEquals(a.diagonal(), b.diagonal(), 1e-5);
        assertEquals(means(first), means(other.mesh()), 1e-4, "UVs of file " + f);
      }
    }
  }

  /** Mean of V over all corners of triangles. */
  private static double means(PolygonMesh mesh) {
    PolygonMesh cut = ferry.stone.core.geometry.triangle.Triangulate.of(mesh);
    var uv = cut.first(ferry.stone.core.scene.mesh.Attribute.Semantic.UV).orElseThrow();
    double sum = 0;
    for (int c = 0; c < cut.faces().cornerCount(); c++) {
      sum += uv.values()[2 * uv.valueOf(c, cut.faces().vertex(c), c / 3) + 1];
    }
    return sum / cut.faces().cornerCount();
  }
}
