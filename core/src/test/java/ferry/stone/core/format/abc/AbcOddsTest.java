package ferry.stone.core.format.abc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Table;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Map;
import org.joml.Vector3d;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** {@code odds.abc}, written by the standard's own library with {@code make-odds.py}. */
class AbcOddsTest {
  private static Scene scene;
  private static List<Finding> findings;

  @BeforeAll
  static void read() throws Exception {
    ReadContext context = ReadContext.of(new MemoryFiles(Map.of("odds.abc", bytes())));
    scene = AbcFormat.ABC.reader().orElseThrow().read("odds.abc", context);
    findings = context.findings().list();
  }

  private static byte[] bytes() throws IOException {
    try (InputStream in = AbcOddsTest.class.getResourceAsStream("/abc/odds.abc")) {
      return in.readAllBytes();
    }
  }

  private static PolygonMesh mesh(String path) {
    Node node = scene.nodes().get(scene.paths().indexOf(path));
    return scene.mesh(((Node.Content.MeshContent) node.content()).meshId()).orElseThrow();
  }

  private static Attribute layer(String name) {
    return mesh("hull").attributes().stream()
        .filter(a -> a.name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  private static List<String> told(String code) {
    return findings.stream().filter(f -> f.code().equals(code)).map(Finding::where).toList();
  }

  @Test
  void materialsAreThoseThatMeshAndSetsAreGiven() {
    assertThat(scene.materials()).extracting(Material::name).containsExactly("tar", "copper");
    PolygonMesh hull = mesh("hull");
    assertThat(scene.material(hull.materialOf(0)).orElseThrow().name()).isEqualTo("tar");
    assertThat(scene.material(hull.materialOf(1)).orElseThrow().name()).isEqualTo("copper");
    assertThat(hull.faceSets().get(0).faces()).containsExactly(1);
    assertThat(told("faces-of-sets-left-out")).containsExactly("odds.abc /hull/lid");
    assertThat(scene.paths()).doesNotContain("tar");
  }

  @Test
  void layersLieOnWhatTheirScopeSays() {
    Attribute dye = layer("dye");
    assertThat(dye.semantic()).isEqualTo(Semantic.COLOUR);
    assertThat(dye.domain()).isEqualTo(Domain.VERTEX);
    assertThat(dye.table().number(4, 0)).isEqualTo(0.5);
    Attribute paint = layer("paint");
    assertThat(paint.semantic()).isEqualTo(Semantic.COLOUR);
    assertThat(paint.domain()).isEqualTo(Domain.FACE);
    assertThat(paint.table().number(0, 2)).isCloseTo(0.2, within(1e-7));
    Attribute lightmap = layer("lightmap");
    assertThat(lightmap.semantic()).isEqualTo(Semantic.UV);
    assertThat(lightmap.domain()).isEqualTo(Domain.CORNER);
    // Corners 0 1 2 3, 4 5 6 are taken as 0 3 2 1, 4 6 5.
    assertThat(lightmap.indices()).containsExactly(0, 1, 0, 1, 0, 0, 1);
    assertThat(layer("plank").table()).isInstanceOf(Table.Wholes.class);
    assertThat(layer("plank").domain()).isEqualTo(Domain.FACE);
    assertThat(layer("age").domain()).isEqualTo(Domain.CONSTANT);
    assertThat(((Table.Texts) layer("mark").table()).texts()).containsExactly("bow", "stern");
    assertThat(told("layer-too-short")).containsExactly("odds.abc /hull");
  }

  @Test
  void curvesKeepTheirForm() {
    LooseElements bezier = mesh("bezier").loose();
    assertThat(bezier.form().basis()).isEqualTo(CurveForm.Basis.BEZIER);
    assertThat(bezier.lineOffsets()).containsExactly(0, 4, 7);
    LooseElements ring = mesh("ring").loose();
    assertThat(ring.form().basis()).isEqualTo(CurveForm.Basis.BSPLINE);
    assertThat(ring.lineVertices()).containsExactly(0, 1, 2, 3, 0, 1, 2, 4, 5, 6, 4, 5, 6);
    assertThat(mesh("hermite").loose().form()).isNull();
    assertThat(told("curve-form-not-read")).containsExactly("odds.abc /hermite");
    CurveForm nurbs = mesh("nurbs").loose().form();
    assertThat(nurbs.basis()).isEqualTo(CurveForm.Basis.NURBS);
    assertThat(nurbs.degree()).isEqualTo(2);
    assertThat(nurbs.knots()).containsExactly(0, 0, 0, 1, 2, 2, 2);
    assertThat(nurbs.weights()).containsExactly(1, 2, 1, 1);
  }

  @Test
  void turnsKeepTheirWayAndValuesTheirTime() {
    Clip clip = scene.clips().get(0);
    int boom = scene.paths().indexOf("boom");
    for (double part : new double[] {0, 0.25, 0.6, 1}) {
      Pose pose = Pose.at(scene, clip, 0.04 * part);
      Vector3d along = pose.world()[boom].transformDirection(new Vector3d(1, 0, 0));
      double angle = Math.toRadians(170 * part);
      assertThat(along.distance(Math.cos(angle), Math.sin(angle), 0)).isLessThan(1e-6);
    }
    int id = scene.nodes().get(boom).id();
    assertThat(clip.tracks())
        .filteredOn(t -> t.targetId() == id && t.property().equals(Clip.CUSTOM + "depth"))
        .singleElement()
        .satisfies(t -> assertThat(t.values()).containsExactly(3, 5));
    assertThat(scene.framesPerSecond()).isEqualTo(25);
  }

  @Test
  void matricesAndShearsStandAsTheyAre() {
    Node slant = scene.nodes().get(scene.paths().indexOf("boom/slant"));
    assertThat(slant.transform()).isInstanceOf(LocalTransform.MatrixTransform.class);
    Vector3d x = slant.transform().toMatrix().transformDirection(new Vector3d(1, 0, 0));
    // Turned by 45°, then twice as long along Y.
    assertThat(x.distance(Math.sqrt(0.5), 2 * Math.sqrt(0.5), 0)).isLessThan(1e-9);
    Node placed = scene.nodes().get(scene.paths().indexOf("boom/placed"));
    Vector3d at = placed.transform().toMatrix().getTranslation(new Vector3d());
    assertThat(at).isEqualTo(new Vector3d(1, 2, 3));
  }

  @Test
  void whatHasNoPlaceIsTold() {
    assertThat(told("light-not-read")).containsExactly("odds.abc /lamp");
    assertThat(told("camera-motion-not-read")).containsExactly("odds.abc /eye");
    assertThat(scene.cameras().get(0).aspect()).isCloseTo(3, within(1e-9));
  }

  @Test
  void valuesBesideASchemaAreValuesOfThePart() {
    Node placed = scene.nodes().get(scene.paths().indexOf("boom/placed"));
    assertThat(placed.properties())
        .containsEntry("label", "spare")
        .containsEntry("ledger", Map.of("page", 12));
  }

  @Test
  void rulesOfBordersAreTold() {
    assertThat(mesh("keel").subdivision()).isNotNull();
    assertThat(told("subdivision-rule-not-read")).containsExactly("odds.abc /keel");
  }

  @Test
  void setsOfAChangingMeshAreThoseOfEachSample() throws Exception {
    MeshSequence wake = scene.sequences().get(0);
    assertThat(wake.name()).isEqualTo("wake");
    assertThat(wake.mesh(0).faceSets().get(0).faces()).containsExactly(0);
    assertThat(wake.mesh(1).faceSets().get(0).faces()).containsExactly(1);
    assertThat(told("layer-motion-not-read")).isEmpty();
  }
}
