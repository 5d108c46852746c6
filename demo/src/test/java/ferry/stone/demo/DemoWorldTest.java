package ferry.stone.demo;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld.Cargo;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.assertj.core.data.Percentage;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * The demo world is made anew with every build: the same bytes, readable, with what it is to show.
 */
class DemoWorldTest {
  static byte[] zip(Cargo cargo) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    DemoWorld.write(cargo, out);
    return out.toByteArray();
  }

  static Map<String, byte[]> entries(byte[] zip) throws IOException {
    Map<String, byte[]> entries = new HashMap<>();
    try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(zip))) {
      for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
        assertThat(entries.put(entry.getName(), in.readAllBytes())).as(entry.getName()).isNull();
      }
    }
    return entries;
  }

  private static Scene read(Cargo cargo, Findings findings) throws Exception {
    MemoryFiles files = new MemoryFiles(entries(zip(cargo)));
    return CargoReader.read(
        cargo.label(), new ReadContext(files, Map.of(), findings, Progress.NONE));
  }

  @ParameterizedTest
  @EnumSource(Cargo.class)
  void theSameBytesEveryTime(Cargo cargo) throws Exception {
    assertThat(zip(cargo)).isEqualTo(zip(cargo));
  }

  @ParameterizedTest
  @EnumSource(Cargo.class)
  void itIsReadAsASceneThatShowsSomething(Cargo cargo) throws Exception {
    Findings findings = new Findings();
    Scene scene = read(cargo, findings);
    assertThat(scene.shownMeshes()).isNotEmpty();
    assertThat(scene.bounds().isEmpty()).isFalse();
    for (PolygonMesh mesh : scene.meshes()) {
      for (int v = 0; v < mesh.points().count(); v++) {
        assertThat(Double.isFinite(mesh.points().x(v) + mesh.points().y(v) + mesh.points().z(v)))
            .as(mesh.name())
            .isTrue();
      }
    }
    assertThat(findings.list())
        .extracting(Finding::code)
        .doesNotContain("layer-too-short", "reference-broken", "statements-not-read");
  }

  @ParameterizedTest
  @EnumSource(Cargo.class)
  void itStaysSmallEnoughToLoadAtTheFirstStart(Cargo cargo) throws Exception {
    assertThat(zip(cargo).length).isLessThan(12_000_000);
  }

  @ParameterizedTest
  @CsvSource({
    // cargo, skins, clips, morph targets, caches, textures at least
    "HERON, 1, 2, 1, 0, 0",
    "HERON_FBX, 1, 2, 1, 0, 0",
    "CAPSTAN, 0, 1, 0, 0, 0",
    "CAPSTAN_FBX, 0, 1, 0, 0, 0",
    "ARCH, 0, 1, 0, 0, 0",
    "BOLLARD_SET, 0, 0, 0, 0, 1",
    "LANTERN_STRING, 0, 0, 0, 0, 0",
    "GATE_LANTERN, 0, 0, 0, 0, 0",
    "PENNANT, 0, 0, 0, 1, 0",
    "PENNANT_CACHE, 0, 0, 0, 1, 0",
    "ARCH_CACHE, 0, 0, 0, 40, 0",
    "SINGING_HEAD, 0, 0, 0, 1, 0",
    "BARGE, 1, 1, 1, 1, 0"
  })
  void eachShowsWhatItIsFor(Cargo cargo, int skins, int clips, int morphs, int caches, int textures)
      throws Exception {
    Scene scene = read(cargo, new Findings());
    assertThat(scene.skins().size()).isGreaterThanOrEqualTo(skins);
    assertThat(scene.clips().size()).isGreaterThanOrEqualTo(clips);
    assertThat(scene.meshes().stream().mapToInt(m -> m.morphs().size()).sum())
        .isGreaterThanOrEqualTo(morphs);
    assertThat(scene.caches().size()).isGreaterThanOrEqualTo(caches);
    assertThat(scene.textures().size()).isGreaterThanOrEqualTo(textures);
  }

  @Test
  void theHeronIsTheSameBirdInBothFormats() throws Exception {
    Scene gltf = read(Cargo.HERON, new Findings());
    Scene fbx = read(Cargo.HERON_FBX, new Findings());
    assertThat(fbx.clips())
        .extracting(c -> c.name())
        .containsAll(gltf.clips().stream().map(c -> c.name()).toList());
    double tall = gltf.bounds().diagonal() * gltf.frame().metresPerUnit();
    double other = fbx.bounds().diagonal() * fbx.frame().metresPerUnit();
    assertThat(other).isCloseTo(tall, Percentage.withPercentage(2));
  }

  @Test
  void theIndexListsEveryCargoOnce(@TempDir Path folder) throws Exception {
    DemoWorld.main(new String[] {folder.toString()});
    Set<String> files = new HashSet<>();
    for (String line : Files.readAllLines(folder.resolve("index.tsv"))) {
      String[] columns = line.split("\t");
      assertThat(columns).hasSize(2);
      assertThat(folder.resolve(columns[1])).exists();
      assertThat(files.add(columns[1])).isTrue();
    }
    assertThat(files).hasSize(Cargo.values().length);
  }
}
