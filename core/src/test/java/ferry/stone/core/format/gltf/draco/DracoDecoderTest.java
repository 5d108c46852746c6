package ferry.stone.core.format.gltf.draco;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;

/**
 * Streams that draco3d 1.5.7 wrote: 128 of four shapes (closed and open with holes, a cube with
 * seams, faces at random that share edges), with all kinds of attributes, Edgebreaker at five
 * speeds and sequential, quantized and not. What is expected is what its own decoder reads.
 */
class DracoDecoderTest {
  private static final DracoMemory ANY = faces -> {};

  private static Map<String, byte[]> streams() throws IOException {
    Map<String, byte[]> all = new TreeMap<>();
    try (ZipInputStream zip =
        new ZipInputStream(DracoDecoderTest.class.getResourceAsStream("/draco/streams.zip"))) {
      for (ZipEntry e = zip.getNextEntry(); e != null; e = zip.getNextEntry()) {
        all.put(e.getName(), zip.readAllBytes());
      }
    }
    return all;
  }

  @Test
  void everyStreamIsReadAsItsOwnLibraryReadsIt() throws Exception {
    Map<String, byte[]> streams = streams();
    String expected = new String(streams.get("expected.tsv"), StandardCharsets.UTF_8);
    int compared = 0;
    for (String line : expected.strip().split("\n")) {
      String[] is = line.split("\t");
      DracoMesh mesh = DracoDecoder.read(streams.get(is[0] + ".drc"), ANY);
      assertThat(mesh.points()).as(is[0]).isEqualTo(Integer.parseInt(is[1]));
      assertThat(mesh.triangles().length / 3).as(is[0]).isEqualTo(Integer.parseInt(is[2]));
      double sum = 0;
      for (int i = 0; i < mesh.triangles().length; i++) {
        sum += mesh.triangles()[i] * (1 + i % 97);
      }
      assertThat(sum).as(is[0] + " triangles").isEqualTo(Double.parseDouble(is[3]));
      for (int k = 4; k < is.length; k += 3) {
        int id = Integer.parseInt(is[k]);
        DracoMesh.Values values =
            mesh.attributes().stream().filter(v -> v.id() == id).findFirst().orElseThrow();
        assertThat(values.components()).isEqualTo(Integer.parseInt(is[k + 1]));
        double whole = Double.parseDouble(is[k + 2]);
        assertThat(sum(mesh, values)).as(is[0]).isCloseTo(whole, within(1e-3 + 1e-6 * whole));
        compared++;
      }
    }
    assertThat(compared).isEqualTo(352);
  }

  private static double sum(DracoMesh mesh, DracoMesh.Values values) {
    double sum = 0;
    int n = values.components();
    for (int i = 0; i < n * mesh.points(); i++) {
      double number = values.numbers()[n * values.valueOf()[i / n] + i % n];
      sum += (values.normalized() ? number / 255 : number) * (1 + i % 97);
    }
    return sum;
  }

  @Test
  void damagedStreamsEndInASentence() throws Exception {
    int refused = 0;
    int read = 0;
    for (Map.Entry<String, byte[]> stream : streams().entrySet()) {
      if (!stream.getKey().endsWith(".drc")) {
        continue;
      }
      Random random = new Random(stream.getKey().hashCode());
      for (int round = 0; round < 60; round++) {
        byte[] bad = stream.getValue().clone();
        if (round % 3 == 0) {
          bad = Arrays.copyOf(bad, random.nextInt(bad.length));
        } else {
          for (int i = 0; i <= round % 4; i++) {
            bad[7 + random.nextInt(bad.length - 7)] = (byte) random.nextInt();
          }
        }
        try {
          DracoDecoder.read(
              bad,
              faces -> {
                if (faces > 100_000) {
                  throw new DracoException("too large");
                }
              });
          read++;
        } catch (DracoException e) {
          assertThat(e.getMessage()).hasSizeGreaterThan(8);
          refused++;
        }
      }
    }
    assertThat(refused).isGreaterThan(3000);
    assertThat(read).isGreaterThan(100);
  }

  private static TestFiles file(String name) throws IOException {
    return new TestFiles()
        .with(
            "lantern.glb",
            DracoDecoderTest.class.getResourceAsStream("/draco/" + name).readAllBytes());
  }

  private static Scene read(TestFiles files) throws Exception {
    return CargoReader.read(
        "lantern", new ReadContext(files, Map.of(), new Findings(), Progress.NONE));
  }

  /** Written by glTF-Transform: 14 bits for positions of a lantern of 2.5 m, so 0.1 mm. */
  @Test
  void aPackedFileIsReadProvedAndLandsPlain() throws Exception {
    TestFiles packed = file("lantern.glb");
    Scene scene = read(packed);
    Scene plain = read(file("lantern-plain.glb"));
    assertThat(scene.meshes()).hasSameSizeAs(plain.meshes());
    assertThat(scene.bounds().maxY()).isCloseTo(plain.bounds().maxY(), within(2e-4));
    for (PolygonMesh mesh : scene.meshes()) {
      assertThat(mesh.first(Semantic.NORMAL)).isPresent();
      assertThat(mesh.first(Semantic.UV)).isPresent();
    }
    for (int m = 0; m < scene.meshes().size(); m++) {
      assertThat(farthest(plain.meshes().get(m), scene.meshes().get(m))).isLessThan(2e-4);
    }
    TestFiles out = new TestFiles();
    LandingOptions glb = LandingOptions.of("glb");
    Landing landing = Landing.write(scene, glb, "landed", packed, out, Progress.NONE);
    Proof proof = Proof.of(scene, scene, landing.landed(glb, out), packed, Progress.NONE);
    assertThat(proof.rows()).extracting(LedgerRow::verdict).doesNotContain(Verdict.LOST);
    String json = new String(out.bytes("landed.glb"), StandardCharsets.ISO_8859_1);
    assertThat(json).doesNotContain("KHR_draco");
  }

  /** How far any vertex of the first lies from the nearest of the second, in metres. */
  private static double farthest(PolygonMesh a, PolygonMesh b) {
    double most = 0;
    for (int i = 0; i < a.points().count(); i++) {
      double least = Double.MAX_VALUE;
      for (int j = 0; j < b.points().count(); j++) {
        double x = a.points().x(i) - b.points().x(j);
        double y = a.points().y(i) - b.points().y(j);
        double z = a.points().z(i) - b.points().z(j);
        least = Math.min(least, x * x + y * y + z * z);
      }
      most = Math.max(most, Math.sqrt(least));
    }
    return most;
  }

  @Test
  void aStreamThatDoesNotGoWithItsAccessorIsRefusedByItsPlace() throws Exception {
    byte[] file = file("lantern.glb").bytes("lantern.glb");
    String text = new String(file, StandardCharsets.ISO_8859_1);
    int at = text.indexOf("\"count\":") + 8;
    file[at] = file[at] == '9' ? (byte) '1' : (byte) (file[at] + 1);
    TestFiles bad = new TestFiles().with("lantern.glb", file);
    assertThatThrownBy(() -> read(bad))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("KHR_draco_mesh_compression")
        .hasMessageContaining("accessor");
  }
}
