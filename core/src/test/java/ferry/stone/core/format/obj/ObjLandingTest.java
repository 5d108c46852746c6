package ferry.stone.core.format.obj;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import de.javagl.obj.Mtl;
import de.javagl.obj.MtlReader;
import de.javagl.obj.Obj;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** What a landing as OBJ writes, as text and as de.javagl:obj 0.4.0 reads it. */
class ObjLandingTest {
  private static final int OAK = 90;
  private static final int IRON = 91;

  /** A quad with a vertex that nothing uses between those that are. */
  private static PolygonMesh quad(int id, int... materials) {
    float[] p = {0, 0, 0, 1, 0, 0, 9, 9, 9, 1, 1, 0, 0, 1, 0};
    return PolygonMesh.of(
            id, "quad", Coordinates.of(p), Polygons.of(new int[] {0, 1, 3, 4}, new int[] {0, 4}))
        .toBuilder()
        .materials(materials, null)
        .build();
  }

  private static Material metal(int id, String name, double metallic, double roughness) {
    return new Material(
        id,
        name,
        Material.Shading.METALLIC_ROUGHNESS,
        Map.of(
            Channel.BASE_COLOUR, new Material.Value(new double[] {0.5, 0.25, 1}, null),
            Channel.METALLIC, new Material.Value(new double[] {metallic}, null),
            Channel.ROUGHNESS, new Material.Value(new double[] {roughness}, null)),
        Material.Alpha.OPAQUE,
        0.5,
        false,
        Map.of());
  }

  /** A crane with two arms of one name, one below the other, and a part without a material. */
  private static Scene crane() {
    SceneBuilder scene = new SceneBuilder("crane");
    scene.nextId(200);
    LocalTransform up =
        LocalTransform.Trs.of(new Vector3d(0, 10, 0), new Quaterniond(), new Vector3d(2));
    scene.add(quad(10, OAK)).add(quad(11, IRON)).add(quad(12));
    scene.add(Node.of(1, "crane", -1, Node.Content.GROUP).withTransform(up));
    scene.add(Node.of(2, "arm one", 0, Node.Content.MeshContent.of(10)).withTransform(up));
    scene.add(Node.of(3, "arm one", 0, Node.Content.MeshContent.of(11)));
    scene.add(Node.of(4, "hook", 1, Node.Content.MeshContent.of(12)));
    return scene.add(metal(OAK, "oak", 0, 0.5)).add(metal(IRON, "oak", 1, 0.5)).build();
  }

  private static TestFiles landed(Scene scene, LandingOptions options) throws Exception {
    TestFiles out = new TestFiles();
    Landing landing = Landing.write(scene, options, "a", new TestFiles(), out, Progress.NONE);
    Proof proof =
        Proof.of(scene, scene, landing.landed(options, out), new TestFiles(), Progress.NONE);
    // What differs is said under what the format does not hold.
    assertTrue(
        proof.rows().stream()
            .filter(r -> r.verdict() != Verdict.KEPT)
            .allMatch(r -> r.group().equals("What the format does not hold")),
        proof.rows().toString());
    return out;
  }

  private static String text(TestFiles files, String path) {
    return new String(files.bytes(path), StandardCharsets.UTF_8);
  }

  private static LandingOptions obj() {
    return LandingOptions.of("obj");
  }

  @Test
  void nestedPartsStandInTheWorldUnderTheirPaths() throws Exception {
    TestFiles files = landed(crane(), obj());
    String text = text(files, "a.obj");
    assertEquals(
        List.of("crane/arm one", "crane/arm one_2", "crane/arm one/hook"),
        text.lines().filter(l -> l.startsWith("o ")).map(l -> l.substring(2)).toList());
    Obj other = de.javagl.obj.ObjReader.read(new ByteArrayInputStream(files.bytes("a.obj")));
    assertEquals(15, other.getNumVertices());
    assertEquals(3, other.getNumFaces());
    // (0, 10, 0) × 2 above (0, 10, 0), then (0, 10, 0) × 4 for the hook's first vertex: 10 + 2·10.
    assertEquals(30, other.getVertex(10).getY());
    assertEquals(34, other.getVertex(14).getY());
  }

  @Test
  void countsAndOrderOfVerticesAreKept() throws Exception {
    Scene read = ObjReader.read("a.obj", ReadContext.of(landed(crane(), obj())));
    PolygonMesh mesh = read.meshes().get(1);
    assertEquals(5, mesh.points().count());
    assertEquals(18, mesh.points().x(2));
    assertArrayEquals(
        new int[] {0, 1, 3, 4},
        new int[] {
          mesh.faces().vertex(0),
          mesh.faces().vertex(1),
          mesh.faces().vertex(2),
          mesh.faces().vertex(3)
        });
  }

  @Test
  void materialsOfOneNameAndFacesWithoutOneGetNamesOfTheirOwn() throws Exception {
    TestFiles files = landed(crane(), obj());
    assertEquals(
        List.of("oak", "oak_2", "unassigned"),
        text(files, "a.obj")
            .lines()
            .filter(l -> l.startsWith("usemtl "))
            .map(l -> l.substring(7))
            .toList());
    List<Mtl> others = MtlReader.read(new ByteArrayInputStream(files.bytes("a.mtl")));
    assertEquals(List.of("oak", "oak_2", "unassigned"), others.stream().map(Mtl::getName).toList());
  }

  @Test
  void metalBecomesAHighlightWithoutTheKeysForIt() throws Exception {
    String text = text(landed(crane(), obj().with("pbrKeys", false)), "a.mtl");
    assertFalse(text.contains("Pm") || text.contains("Pr"), text);
    // Roughness 0.5: 2 / 0.5⁴ − 2 = 30. A metal has no body; its highlight has its colour.
    assertTrue(text.contains("newmtl oak\nKd 0.5 0.25 1\nKs 0.04 0.04 0.04\nNs 30\n"), text);
    assertTrue(text.contains("newmtl oak_2\nKd 0 0 0\nKs 0.5 0.25 1\nNs 30\n"), text);
    assertTrue(text(landed(crane(), obj()), "a.mtl").contains("Pm 1\nPr 0.5"), "with the keys");
  }

  @Test
  void groupsAreWrittenAndEndWithTheirPart() throws Exception {
    Scene scene = crane();
    List<FaceSet> sets =
        List.of(new FaceSet("front side", new int[] {0}), new FaceSet("all", new int[] {0}));
    PolygonMesh first = scene.meshes().get(0).toBuilder().faceSets(sets).build();
    Scene far =
        scene.toBuilder()
            .meshes(List.of(first, scene.meshes().get(1), scene.meshes().get(2)))
            .build();
    TestFiles files = landed(far, obj());
    assertTrue(text(files, "a.obj").contains("g front_side all\n"));
    Scene read = ObjReader.read("a.obj", ReadContext.of(files));
    assertEquals(
        List.of("front_side", "all"),
        read.meshes().get(0).faceSets().stream().map(FaceSet::name).toList());
    assertTrue(read.meshes().get(1).faceSets().isEmpty());
  }

  @Test
  void cornersOfOneVertexShareTheMeanOfTheirColours() throws Exception {
    float[] corners = {0, 0, 0, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 0.5f, 0.5f, 0.5f};
    PolygonMesh two =
        PolygonMesh.of(
                10,
                "two",
                Coordinates.of(new float[] {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0}),
                Polygons.triangles(new int[] {0, 1, 2, 2, 3, 0}))
            .withAttributes(
                List.of(new Attribute("c", Semantic.COLOUR, Domain.CORNER, 3, corners, null)));
    SceneBuilder scene = new SceneBuilder("two");
    scene.nextId(50);
    scene.add(two);
    scene.add(Node.of(1, "two", -1, Node.Content.MeshContent.of(10)));
    String text = text(landed(scene.build(), obj()), "a.obj");
    // Vertex 0 is black in one face and half grey in the other.
    assertTrue(text.contains("v 0 0 0 0.25 0.25 0.25\n"), text);
    assertTrue(text.contains("v 1 0 0 1 1 1\n"), text);
  }

  @Test
  void unitAxesAndDecimalsAreAsChosen() throws Exception {
    LandingOptions options = obj().with("unit", "cm").with("up", "z").with("decimals", "2");
    String text = text(landed(crane(), options), "a.obj");
    assertTrue(text.startsWith("# Stone Ferry: "), text);
    // 30 m up are 3,000 cm along Z.
    assertTrue(text.contains("v 0 0 3000\n"), text);
  }
}
