package ferry.stone.core.format.collada;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Meshes, materials and places of small files written by hand after the published schema. */
class ColladaReaderTest {
  private static Scene plate(String node) throws Exception {
    return DaeText.read(
        DaeText.file(
            DaeText.UNIT_CM_Z_UP, DaeText.MATERIALS + DaeText.geometries(DaeText.PLATE), node));
  }

  private static Scene plate() throws Exception {
    return plate("<node name=\"deck\">" + DaeText.BOUND + "</node>");
  }

  @Test
  void verticesFacesAndLayersAreAsWritten() throws Exception {
    Scene scene = plate();
    assertEquals(0.01, scene.frame().metresPerUnit());
    assertEquals("z", scene.frame().up().text());
    assertEquals("-y", scene.frame().front().text());
    assertEquals(FrameSource.STATED, scene.unitSource());
    PolygonMesh mesh = scene.meshes().get(0);
    assertEquals(6, mesh.points().count());
    assertEquals(3, mesh.faces().faceCount());
    assertEquals(4, mesh.faces().size(2));
    assertEquals(4, mesh.faces().vertex(7));
    List<Attribute> uvs = mesh.all(Semantic.UV);
    assertEquals(List.of("uv", "uv1"), uvs.stream().map(Attribute::name).toList());
    // The third number of the first source has no name and is passed over.
    assertArrayEquals(new float[] {0, 0, 1, 0, 1, 1, 0, 1}, uvs.get(0).values());
    assertArrayEquals(new int[] {0, 0, 1, 0, 1, 1, -1, -1, -1, -1}, uvs.get(1).indices());
    assertEquals(3, mesh.first(Semantic.NORMAL).orElseThrow().components());
  }

  @Test
  void materialsAreBoundWhereTheyAreUsed() throws Exception {
    Scene scene = plate();
    PolygonMesh mesh = scene.meshes().get(0);
    assertEquals("oak", scene.material(mesh.materialOf(0)).orElseThrow().name());
    assertEquals("iron", scene.material(mesh.materialOf(2)).orElseThrow().name());
    Material oak = scene.materials().get(0);
    assertTrue(oak.doubleSided());
    assertEquals(Material.Alpha.BLEND, oak.alpha());
    assertEquals(0.75, oak.factor(Channel.OPACITY)[0]);
    assertArrayEquals(new double[] {0.5, 0.25, 0.125}, oak.factor(Channel.SPECULAR));
    assertEquals(
        new Wrap(Wrap.Edge.MIRROR, Wrap.Edge.CLAMP, true),
        oak.texture(Channel.BASE_COLOUR).orElseThrow().wrap());
    assertEquals(1, oak.texture(Channel.BASE_COLOUR).orElseThrow().uvSet());
    assertEquals("C:/yard/oak planks.png", scene.textures().get(0).written());
  }

  @Test
  void transformsStandInTheOrderOfTheFile() throws Exception {
    String angles =
        "<translate>1 2 3</translate><rotate>0 0 1 90</rotate><rotate>0 1 0 0</rotate>"
            + "<rotate>1 0 0 30</rotate><scale>2 2 2</scale>";
    Scene scene = plate("<node name=\"deck\">" + angles + DaeText.BOUND + "</node>");
    LocalTransform local = scene.nodes().get(0).transform();
    LocalTransform.PivotTransform kept = (LocalTransform.PivotTransform) local;
    assertEquals(new Vector3d(30, 0, 90), kept.rotation());
    assertEquals(LocalTransform.EulerOrder.XYZ, kept.order());
    Matrix4d wanted =
        new Matrix4d()
            .translate(1, 2, 3)
            .rotateZ(Math.toRadians(90))
            .rotateX(Math.toRadians(30))
            .scale(2);
    assertTrue(wanted.equals(local.toMatrix(), 1e-9));

    String free =
        "<rotate>0 0 1 90</rotate><translate>1 0 0</translate>"
            + "<matrix>1 0 0 5  0 1 0 6  0 0 1 7  0 0 0 1</matrix>";
    Scene other = plate("<node name=\"deck\">" + free + DaeText.BOUND + "</node>");
    Vector3d origin = other.worldMatrices()[0].transformPosition(new Vector3d());
    assertEquals(0, origin.distance(-6, 6, 7), 1e-9);
  }

  @Test
  void skewAndLookatAreAsTheReleasesSay() throws Exception {
    // 45° from Y towards X: Y goes to (1, 1, 0), X stays.
    Scene skewed = plate("<node><skew>45 0 1 0 1 0 0</skew>" + DaeText.BOUND + "</node>");
    Vector3d y = skewed.worldMatrices()[0].transformDirection(new Vector3d(0, 1, 0));
    assertEquals(0, y.distance(1, 1, 0), 1e-9);
    Scene seen = plate("<node><lookat>0 0 5  0 0 0  0 1 0</lookat>" + DaeText.BOUND + "</node>");
    Vector3d eye = seen.worldMatrices()[0].transformPosition(new Vector3d());
    Vector3d ahead = seen.worldMatrices()[0].transformDirection(new Vector3d(0, 0, -1));
    assertEquals(0, eye.distance(0, 0, 5), 1e-9);
    assertEquals(0, ahead.distance(0, 0, -1), 1e-9);
  }

  @Test
  void aLibraryNodeStandsWhereverItIsNamed() throws Exception {
    String library =
        "<library_nodes><node id=\"post\" name=\"post\">"
            + DaeText.BOUND
            + "</node></library_nodes>";
    Scene scene =
        DaeText.read(
            DaeText.file(
                "",
                DaeText.MATERIALS + DaeText.geometries(DaeText.PLATE) + library,
                "<node name=\"a\"><instance_node url=\"#post\"/></node>"
                    + "<node name=\"b\"><translate>5 0 0</translate>"
                    + "<instance_node url=\"#post\"/></node>"));
    assertEquals(List.of("a", "a/post", "b", "b/post"), scene.paths());
    assertEquals(1, scene.meshes().size());
    assertEquals(7, scene.bounds().maxX(), 1e-9);
    assertEquals(FrameSource.FORMAT, scene.unitSource());
    assertEquals(1, scene.frame().metresPerUnit());
  }

  @Test
  void aNodeInsideItselfEnds() throws Exception {
    Findings findings = new Findings();
    Scene scene =
        DaeText.read(
            DaeText.file("", "", "<node id=\"n\"><instance_node url=\"#n\"/></node>"), findings);
    assertEquals(1, scene.nodes().size());
    assertEquals("node-inside-itself", findings.list().get(0).code());
  }

  @Test
  void aFaceWithHolesKeepsItsArea() throws Exception {
    String frame =
        """
        <geometry id="plate"><mesh>
          <source id="p"><float_array id="pa" count="36">
            0 0 0  10 0 0  10 10 0  0 10 0   2 2 0  4 2 0  4 4 0  2 4 0
            6 6 0  6 8 0  8 8 0  8 6 0</float_array>
            <technique_common><accessor source="#pa" count="12" stride="3">
            <param name="X"/><param name="Y"/><param name="Z"/></accessor></technique_common>
          </source>
          <vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
          <polygons count="1"><input semantic="VERTEX" source="#v" offset="0"/>
            <ph><p>0 1 2 3</p><h>4 5 6 7</h><h>8 9 10 11</h></ph></polygons>
        </mesh></geometry>
        """;
    Scene scene =
        DaeText.read(
            DaeText.file(
                "", DaeText.geometries(frame), "<node><instance_geometry url=\"#plate\"/></node>"));
    PolygonMesh mesh = scene.meshes().get(0);
    assertEquals(1, mesh.faces().faceCount());
    assertEquals(12 + 2 * 2, mesh.faces().size(0));
    assertEquals(100 - 4 - 4, MeshMeasure.of(Triangulate.of(mesh)).area(), 1e-6);
  }

  @Test
  void stripsFansAndLinesAreRead() throws Exception {
    String more =
        DaeText.PLATE.replace(
            "</mesh>",
            """
            <tristrips count="1"><input semantic="VERTEX" source="#vtx" offset="0"/>
              <p>0 1 3 2</p></tristrips>
            <trifans count="1"><input semantic="VERTEX" source="#vtx" offset="0"/>
              <p>0 1 2 3</p></trifans>
            <linestrips count="1"><input semantic="VERTEX" source="#vtx" offset="0"/>
              <p>0 1 2</p></linestrips>
            </mesh>""");
    Scene scene =
        DaeText.read(
            DaeText.file(
                "", DaeText.geometries(more), "<node><instance_geometry url=\"#plate\"/></node>"));
    PolygonMesh mesh = scene.meshes().get(0);
    assertEquals(3 + 2 + 2, mesh.faces().faceCount());
    // The second triangle of a strip is turned, so that both face one way.
    assertArrayEquals(
        new int[] {1, 2, 3},
        new int[] {
          mesh.faces().vertex(mesh.faces().start(4)),
          mesh.faces().vertex(mesh.faces().start(4) + 1),
          mesh.faces().vertex(mesh.faces().start(4) + 2)
        });
    assertEquals(2, mesh.loose().segmentCount());
  }

  @Test
  void anAssetOfItsOwnIsBroughtToThatOfTheFile() throws Exception {
    String inMetresYUp =
        DaeText.PLATE.replace(
            "<mesh>", "<asset><unit meter=\"1\"/><up_axis>Y_UP</up_axis></asset><mesh>");
    Scene scene =
        DaeText.read(
            DaeText.file(
                DaeText.UNIT_CM_Z_UP,
                DaeText.geometries(inMetresYUp),
                "<node><instance_geometry url=\"#plate\"/></node>"));
    // 1 m along Y up are 100 cm along Z up.
    assertEquals(100, scene.bounds().maxZ(), 1e-4);
    assertEquals(200, scene.bounds().maxX(), 1e-4);
  }

  @Test
  void xUpLooksAlongZ() throws Exception {
    Scene scene = DaeText.read(DaeText.file("<asset><up_axis>X_UP</up_axis></asset>", "", ""));
    assertEquals("x", scene.frame().up().text());
    assertEquals("z", scene.frame().front().text());
    assertEquals(SignedAxis.parse("-y"), SignedAxis.parse("-y"));
    assertEquals(0, scene.frame().side().distance(0, -1, 0), 1e-9);
  }

  @Test
  void camerasAndLightsAreRead() throws Exception {
    String lenses =
        """
        <library_cameras><camera id="c" name="eye"><optics><technique_common><perspective>
          <xfov>60</xfov><aspect_ratio>1.5</aspect_ratio><znear>0.5</znear><zfar>80</zfar>
        </perspective></technique_common></optics></camera></library_cameras>
        <library_lights><light id="l" name="lamp"><technique_common><spot>
          <color>2 1 0</color><falloff_angle>60</falloff_angle></spot></technique_common></light>
        </library_lights>
        """;
    Scene scene =
        DaeText.read(
            DaeText.file(
                "",
                lenses,
                "<node name=\"n\"><instance_camera url=\"#c\"/><instance_light url=\"#l\"/></node>"));
    assertEquals(List.of("n", "n/eye", "n/lamp"), scene.paths());
    double vertical = 2 * Math.atan(Math.tan(Math.toRadians(30)) / 1.5);
    assertEquals(vertical, scene.cameras().get(0).verticalAngleRadians(), 1e-9);
    assertEquals(2, scene.lights().get(0).intensity());
    assertEquals(Math.toRadians(30), scene.lights().get(0).outerAngleRadians(), 1e-9);
  }

  @Test
  void anArchiveIsReadWithItsImages() throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(out)) {
      put(zip, "manifest.xml", "<dae_root>./deck/a.dae#yard</dae_root>");
      put(zip, "other.dae", "not this one");
      put(
          zip,
          "deck/a.dae",
          DaeText.file(
              "",
              DaeText.MATERIALS.replace("file:///C:/yard/oak%20planks.png", "../oak.png")
                  + DaeText.geometries(DaeText.PLATE),
              "<node>" + DaeText.BOUND + "</node>"));
      put(zip, "oak.png", "an image");
    }
    TestFiles files = new TestFiles().with("yard.zae", out.toByteArray());
    Scene scene = CargoReader.read("yard", ReadContext.of(files));
    assertEquals(1, scene.meshes().size());
    assertEquals(
        "an image", new String(scene.textures().get(0).embedded(), StandardCharsets.UTF_8));
  }

  private static void put(ZipOutputStream zip, String name, String text) throws Exception {
    zip.putNextEntry(new ZipEntry(name));
    zip.write(text.getBytes(StandardCharsets.UTF_8));
    zip.closeEntry();
  }

  @Test
  void whatIsWrongIsSaidWithItsPlace() {
    String outOfRange = DaeText.PLATE.replace("<p>1 4 5 2</p>", "<p>1 4 5 99</p>");
    FormatException e =
        assertThrows(
            FormatException.class,
            () ->
                DaeText.read(
                    DaeText.file(
                        "",
                        DaeText.geometries(outOfRange),
                        "<node><instance_geometry url=\"#plate\"/></node>")));
    assertTrue(e.place().startsWith("line "), e.getMessage());
    assertTrue(e.problem().contains("vertex 99") && e.problem().contains("there are 6"));
    String count =
        DaeText.PLATE.replace(
            "accessor source=\"#pos-a\" count=\"6\"",
            "accessor source=\"#pos-a\" count=\"600000000\"");
    assertThrows(
        FormatException.class,
        () ->
            DaeText.read(
                DaeText.file(
                    "",
                    DaeText.geometries(count),
                    "<node><instance_geometry url=\"#plate\"/></node>")));
  }

  @Test
  void entitiesAreNotExpanded() {
    String bomb =
        "<?xml version=\"1.0\"?><!DOCTYPE COLLADA [<!ENTITY a \"aaaaaaaaaa\">"
            + "<!ENTITY b \"&a;&a;&a;&a;&a;&a;\"><!ENTITY f SYSTEM \"file:///etc/hostname\">]>"
            + "<COLLADA><asset><title>&b;&f;</title></asset></COLLADA>";
    try {
      assertTrue(DaeText.read(bomb).nodes().isEmpty());
    } catch (Exception e) {
      assertTrue(e instanceof FormatException, e.toString());
    }
  }

  @Test
  void whatLiesInAnotherFileIsToldAndStaysWithTheScene() throws Exception {
    String text = DaeText.file("", "", "<node><instance_geometry url=\"other.dae#hull\"/></node>");
    Scene scene = CargoReader.read("a", ReadContext.of(new TestFiles().with("a.dae", text)));
    assertEquals(1, scene.unread().size());
    assertTrue(scene.unread().get(0).contains("other.dae#hull"), scene.unread().toString());
    assertFalse(scene.nodes().get(0).content() instanceof Node.Content.MeshContent);
  }

  @Test
  void aBranchThatIsNamedTwiceIsKnownAsCopies() throws Exception {
    String post =
        "<library_nodes><node id=\"post\" name=\"post\"><node id=\"cap\" name=\"cap\"/></node>"
            + "<node id=\"sole\" name=\"sole\"/></library_nodes>";
    Scene scene =
        DaeText.read(
            DaeText.file(
                "",
                post,
                "<node name=\"a\"><instance_node url=\"#post\"/></node>"
                    + "<node name=\"b\"><translate>1 0 0</translate>"
                    + "<instance_node url=\"#post\"/><instance_node url=\"#sole\"/></node>"));
    List<CopySet> branches = Copies.branches(scene);
    assertEquals(1, branches.size(), "what is named once is no copy");
    assertEquals(2, branches.get(0).nodeIds().length);
    for (int id : branches.get(0).nodeIds()) {
      assertEquals("post", scene.nodes().get(scene.nodePlaces().get(id)).name());
    }
    // One of them changed below: no copies any more.
    List<Node> nodes = new ArrayList<>(scene.nodes());
    for (int i = 0; i < nodes.size(); i++) {
      if (nodes.get(i).name().equals("cap")) {
        nodes.set(i, nodes.get(i).withName("cap_of_lead"));
        break;
      }
    }
    assertTrue(Copies.branches(scene.toBuilder().nodes(nodes).build()).isEmpty());
  }
}
