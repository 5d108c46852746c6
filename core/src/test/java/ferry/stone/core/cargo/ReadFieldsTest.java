package ferry.stone.core.cargo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.TestFiles;
import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Reading otherwise than as usual: what is offered, what it does, what is refused. */
class ReadFieldsTest {
  private static final String CRATE =
      """
      mtllib crate.mtl
      o crate
      v 0 0 0
      v 1 0 0
      v 1 1 0
      v 0 1 0
      v 2 0 0
      v 2 1 0
      g planks
      usemtl oak
      f 1 2 3
      g bands
      usemtl iron
      f 1 3 4
      o lid
      g planks
      usemtl oak
      f 2 5 6 3
      v 9 9 9
      """;

  private static final String TWO_SCENES =
      """
      {"asset":{"version":"2.0"},"scene":0,
       "scenes":[{"name":"quay","nodes":[0]},{"name":"loft","nodes":[1,2]}],
       "nodes":[{"name":"bollard"},{"name":"loom"},{"name":"sail"}]}
      """;

  private static final String TWO_DAE_SCENES =
      """
      <?xml version="1.0"?>
      <COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
        <asset><unit name="meter" meter="1"/><up_axis>Y_UP</up_axis></asset>
        <library_visual_scenes>
          <visual_scene id="a" name="quay"><node id="n" name="bollard"/></visual_scene>
          <visual_scene id="b" name="loft"><node id="m" name="loom"/></visual_scene>
        </library_visual_scenes>
        <scene><instance_visual_scene url="#b"/></scene>
      </COLLADA>
      """;

  private final Findings findings = new Findings();

  private Scene read(TestFiles files, Map<String, Object> options) throws Exception {
    return CargoReader.read(
        "yard", new ReadContext(files, Map.of(), findings, Progress.NONE).withOptions(options));
  }

  private static List<String> names(Scene scene) {
    return scene.nodes().stream().map(Node::name).toList();
  }

  private Finding finding(String code) {
    return findings.list().stream().filter(f -> f.code().equals(code)).findFirst().orElseThrow();
  }

  @ParameterizedTest
  @CsvSource({
    "objects, crate;lid, 3;2",
    "groups, planks;bands, 2;1",
    "materials, oak;iron, 2;1",
    "whole, crate, 3"
  })
  void anObjIsDividedAsChosen(String from, String names, String facesOf) throws Exception {
    TestFiles files = TestFiles.of("crate.obj", CRATE);
    Scene scene = read(files, Map.of("partsFrom", from));
    List<String> expected = List.of(names.split(";"));
    assertThat(names(scene)).containsAll(expected);
    int faces = scene.meshes().stream().mapToInt(m -> m.faces().faceCount()).sum();
    assertThat(faces).as("no face is lost or doubled").isEqualTo(3);
    int vertices = (int) scene.meshes().stream().filter(m -> m.faces().faceCount() > 0).count();
    assertThat(vertices).isEqualTo(expected.size());
    assertThat(scene.bounds().max(0))
        .as("the vertex that nothing uses is kept in every division")
        .isEqualTo(9);
  }

  @Test
  void theWholeFileKeepsItsGroupsAsSetsAndItsMaterials() throws Exception {
    Scene scene = read(TestFiles.of("crate.obj", CRATE), Map.of("partsFrom", "whole"));
    assertThat(scene.meshes()).hasSize(1);
    assertThat(scene.meshes().get(0).faceSets())
        .extracting(FaceSet::name)
        .containsExactly("planks", "bands");
    assertThat(scene.meshes().get(0).materialIds()).hasSize(2);
  }

  @Test
  void theUsualReadingIsThatOfNoChoice() throws Exception {
    TestFiles files = TestFiles.of("crate.obj", CRATE);
    assertThat(names(read(files, Map.of())))
        .isEqualTo(names(read(files, Map.of("partsFrom", "objects"))));
    // Choices for other formats do not matter to this one.
    assertThat(names(read(files, Map.of("scene", 4)))).isEqualTo(names(read(files, Map.of())));
  }

  @ParameterizedTest
  @CsvSource({"0, bollard", "1, bollard", "2, loom;sail", "9, bollard"})
  void theSceneOfAGltfIsChosenFromOne(int scene, String names) throws Exception {
    Scene read = read(TestFiles.of("yard.gltf", TWO_SCENES), Map.of("scene", scene));
    assertThat(names(read)).containsExactly(names.split(";"));
  }

  @Test
  void theSceneThatIsNotReadIsOffered() throws Exception {
    Scene first = read(TestFiles.of("yard.gltf", TWO_SCENES), Map.of());
    Offer offer = finding("several-scenes").offers().get(0);
    assertThat(offer.action()).isEqualTo("read");
    assertThat(first.unread()).anyMatch(text -> text.contains("\"loft\""));
    Scene other =
        read(
            TestFiles.of("yard.gltf", TWO_SCENES),
            Map.of(offer.kind(), offer.params().get("value")));
    assertThat(names(other)).containsExactly("loom", "sail");
    assertThat(other.unread()).anyMatch(text -> text.contains("\"quay\""));
  }

  @ParameterizedTest
  @CsvSource({"0, loom", "1, bollard", "2, loom", "3, loom"})
  void theSceneOfAColladaIsChosenFromOne(int scene, String name) throws Exception {
    Scene read = read(TestFiles.of("yard.dae", TWO_DAE_SCENES), Map.of("scene", scene));
    assertThat(names(read)).containsExactly(name);
    Finding told = finding("other-scenes-not-read");
    assertThat(told.message()).contains("2 scenes");
    assertThat(told.offers()).hasSize(1);
    int other = ((Number) told.offers().get(0).params().get("value")).intValue();
    assertThat(told.offers().get(0).label()).contains(other == 1 ? "quay" : "loft");
  }

  private static byte[] pc2(int points, int samples) {
    ByteBuffer bytes =
        ByteBuffer.allocate(32 + 12 * points * samples).order(ByteOrder.LITTLE_ENDIAN);
    bytes.put("POINTCACHE2\0".getBytes(StandardCharsets.US_ASCII));
    bytes.putInt(1).putInt(points).putFloat(0).putFloat(1).putInt(samples);
    return bytes.array();
  }

  @Test
  void aCacheThatCountsFramesTakesTheChosenRate() throws Exception {
    TestFiles files = new TestFiles().with("sail.pc2", pc2(3, 5));
    assertThat(read(files, Map.of()).caches().get(0).endSeconds()).isEqualTo(4 / 24.0);
    Offer offer = finding("cache-rate-assumed").offers().get(0);
    Scene read = read(files, Map.of(offer.kind(), offer.params().get("value")));
    assertThat(read.caches().get(0).endSeconds()).isEqualTo(4 / 25.0);
    Findings again = new Findings();
    CargoReader.read(
        "yard",
        new ReadContext(files, Map.of(), again, Progress.NONE)
            .withOptions(Map.of("cacheRate", 60)));
    assertThat(again.list()).noneMatch(f -> f.code().equals("cache-rate-assumed"));
  }

  @Test
  void onlyWhatCountsForACargoIsAsked() throws Exception {
    TestFiles objs = TestFiles.of("crate.obj", CRATE).with("note.txt", "for the yard");
    assertThat(ReadFields.of(objs)).extracting(Field::name).containsExactly("partsFrom");
    objs.with("sail.pc2", pc2(3, 5));
    assertThat(ReadFields.of(objs))
        .extracting(Field::name)
        .containsExactlyInAnyOrder("partsFrom", "cacheRate");
    assertThat(ReadFields.of(TestFiles.of("a.stl", "solid a\nendsolid a\n"))).isEmpty();
  }

  @Test
  void choicesThatFitNothingAreRefusedInASentence() {
    assertThatThrownBy(() -> ReadFields.check(Map.of("colour", "red")))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("\"colour\"")
        .hasMessageContaining("partsFrom");
    assertThatThrownBy(() -> ReadFields.check(Map.of("partsFrom", "doors")))
        .hasMessageContaining("objects, groups, materials, whole");
    assertThatThrownBy(() -> ReadFields.check(Map.of("scene", -1)))
        .hasMessageContaining("scene must be");
    ReadFields.check(Map.of("scene", 2, "partsFrom", "groups"));
  }

  @Test
  void namesOfReadingAndLandingAreNeverMixedUp() {
    Set<String> landing = new HashSet<>();
    for (Format format : Formats.written()) {
      format.writer().orElseThrow().fields().forEach(f -> landing.add(f.name()));
    }
    assertThat(ReadFields.all())
        .extracting(Field::name)
        .doesNotHaveDuplicates()
        .doesNotContainAnyElementsOf(landing);
    for (Field field : ReadFields.all()) {
      assertThat(ReadFields.formats(field)).as(field.name()).isNotEmpty();
      assertThat(field.help()).as(field.name()).endsWith(".");
    }
  }
}
