package ferry.stone.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What is told of OBJ, STL, caches and cargos of several files, and where it is said to be. */
class TextFaultsTest {
  private static final String FACE = "v 0 0 0\nv 1 0 0\nv 0 1 0\nf -3 -2 -1\n";

  private final Findings findings = new Findings();

  private Scene read(TestFiles files) throws Exception {
    return CargoReader.read("yard", new ReadContext(files, Map.of(), findings, Progress.NONE));
  }

  private Finding told(String code) {
    return findings.list().stream()
        .filter(f -> f.code().equals(code))
        .findFirst()
        .orElseThrow(
            () ->
                new AssertionError(
                    code
                        + " is not among "
                        + findings.list().stream().map(Finding::code).toList()));
  }

  private boolean silentOf(String code) {
    return findings.list().stream().noneMatch(f -> f.code().equals(code));
  }

  @Test
  void aMaterialThatIsDefinedTwiceIsNamedWithItsLine() throws Exception {
    TestFiles files =
        TestFiles.of("a.obj", "mtllib a.mtl\nusemtl oak\n" + FACE)
            .with("a.mtl", "newmtl oak\nKd 1 0 0\nnewmtl elm\nnewmtl oak\nKd 0 1 0\n");
    Scene scene = read(files);
    assertThat(told("material-defined-twice").where()).isEqualTo("a.mtl, line 4");
    assertThat(told("material-defined-twice").message()).contains("oak");
    assertThat(scene.materials().get(0).channels().values().iterator().next().factor()[0])
        .as("the first counts")
        .isEqualTo(1);
  }

  @Test
  void keysThatNobodyKnowsAreKeptAsText() throws Exception {
    TestFiles files =
        TestFiles.of("a.obj", "mtllib a.mtl\nusemtl oak\n" + FACE)
            .with("a.mtl", "newmtl oak\nKd 1 0 0\nglitter 0.5 0.25\n");
    Scene scene = read(files);
    assertThat(told("material-keys-not-read").message()).contains("glitter 0.5 0.25");
    assertThat(scene.materials().get(0).properties().get("unread")).isEqualTo("glitter 0.5 0.25");
  }

  @Test
  void aMaterialFileWithoutMaterialsSaysWhatWasExpected() throws Exception {
    TestFiles files =
        TestFiles.of("a.obj", "mtllib a.mtl\nusemtl oak\n" + FACE).with("a.mtl", "# none yet\n");
    read(files);
    assertThat(told("no-materials").message()).contains("newmtl name");
    assertThat(told("no-materials").where()).isEqualTo("a.mtl");
  }

  @Test
  void aFileThatStandsElsewhereIsFoundAndSaid() throws Exception {
    TestFiles files =
        TestFiles.of("scene/a.obj", "mtllib ../looks/yard.mtl\nusemtl oak\n" + FACE)
            .with("materials/yard.mtl", "newmtl oak\nmap_Kd D:\\work\\oak.png\n")
            .with("images/oak.png", new byte[] {1});
    Scene scene = read(files);
    assertThat(findings.list().stream().filter(f -> f.code().equals("file-found-elsewhere")))
        .extracting(Finding::message)
        .anyMatch(m -> m.contains("materials/yard.mtl"))
        .anyMatch(m -> m.contains("images/oak.png"));
    assertThat(scene.textures().get(0).resource()).isEqualTo("images/oak.png");
  }

  @Test
  void aFileInItsPlaceIsNotMentioned() throws Exception {
    TestFiles files =
        TestFiles.of("a.obj", "mtllib a.mtl\nusemtl oak\n" + FACE)
            .with("a.mtl", "newmtl oak\nKd 1 0 0\n");
    read(files);
    assertThat(silentOf("file-found-elsewhere")).isTrue();
    assertThat(silentOf("material-defined-twice")).isTrue();
    assertThat(silentOf("material-keys-not-read")).isTrue();
    assertThat(silentOf("no-materials")).isTrue();
  }

  private static byte[] stl(int beside) {
    ByteBuffer bytes = ByteBuffer.allocate(84 + 50).order(ByteOrder.LITTLE_ENDIAN);
    bytes.position(80).putInt(1);
    float[] numbers = {0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0};
    for (float number : numbers) {
      bytes.putFloat(number);
    }
    bytes.putShort((short) beside);
    return bytes.array();
  }

  @Test
  void bytesBesideTrianglesMayBeColours() throws Exception {
    read(new TestFiles().with("a.stl", stl(0)));
    assertThat(silentOf("colours-not-read")).isTrue();
    read(new TestFiles().with("a.stl", stl(0x7c00)));
    assertThat(told("colours-not-read").where()).isEqualTo("a.stl");
  }

  private static byte[] pc2(int points) {
    ByteBuffer bytes = ByteBuffer.allocate(32 + 2 * 12 * points).order(ByteOrder.LITTLE_ENDIAN);
    bytes.put("POINTCACHE2\0".getBytes(StandardCharsets.US_ASCII));
    bytes.putInt(1).putInt(points).putFloat(0).putFloat(1).putInt(2);
    for (int p = 0; p < 2 * points; p++) {
      bytes.putFloat(p).putFloat(0).putFloat(0);
    }
    return bytes.array();
  }

  @Test
  void aCacheForAllPartsIsDividedInTheirOrder() throws Exception {
    TestFiles files =
        TestFiles.of(
                "a.obj",
                "o mast\n"
                    + FACE
                    + "o sail\n"
                    + FACE.replace("f -3 -2 -1", "v 1 1 0\nf -4 -3 -2 -1"))
            .with("all.pc2", pc2(7));
    Scene scene = read(files);
    assertThat(told("cache-divided").where()).isEqualTo("all.pc2");
    assertThat(scene.caches()).hasSize(2);
    float[] first = new float[3];
    scene.caches().get(1).read(1, 0, 1, first);
    assertThat(first[0]).as("the second part begins where the first ends").isEqualTo(7 + 3);
  }

  @Test
  void filesOfOtherRatesAreKeptInSeconds() throws Exception {
    String gltf = "{\"asset\":{\"version\":\"2.0\"},\"nodes\":[{\"name\":\"n\"}]}";
    TestFiles files = TestFiles.of("a.gltf", gltf).with("b.gltf", gltf);
    read(files);
    assertThat(silentOf("frame-rates-differ")).as("files without a rate").isTrue();
    String dae =
        """
        <?xml version="1.0"?>
        <COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
          <asset><unit meter="1"/><up_axis>Y_UP</up_axis></asset>
          <library_visual_scenes><visual_scene id="a"><node id="n" name="n"/>
            <extra><technique profile="any"><frame_rate>RATE</frame_rate></technique></extra>
          </visual_scene></library_visual_scenes>
          <scene><instance_visual_scene url="#a"/></scene>
        </COLLADA>
        """;
    Scene scene =
        read(
            TestFiles.of("a.dae", dae.replace("RATE", "24"))
                .with("b.dae", dae.replace("RATE", "30")));
    assertThat(told("frame-rates-differ").measured()).isEqualTo("30 against 24 frames a second");
    assertThat(told("frame-rates-differ").where()).isEqualTo("b.dae");
    assertThat(scene.framesPerSecond()).isEqualTo(24);
  }
}
