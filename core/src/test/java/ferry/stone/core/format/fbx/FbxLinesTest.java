package ferry.stone.core.format.fbx;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.fbx.write.FbxWriter;
import ferry.stone.core.geometry.curve.CurvePoints;
import ferry.stone.core.geometry.curve.NurbsAlone;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import org.junit.jupiter.api.Test;

/** Lines written and read, and curves read from files. */
class FbxLinesTest {
  private static final String HEAD =
      """
      ; FBX 7.4.0 project file
      FBXHeaderExtension:  {
        FBXVersion: 7400
      }
      Objects:  {
        Geometry: 1, "Geometry::arc", "NurbsCurve" {
      """;
  private static final String TAIL =
      """
        }
        Model: 2, "Model::arc", "NurbsCurve" {
        }
      }
      Connections:  {
        C: "OO",1,2
        C: "OO",2,0
      }
      """;

  private static Scene read(String body) throws Exception {
    return FbxReader.read("a.fbx", ReadContext.of(TestFiles.of("a.fbx", HEAD + body + TAIL)));
  }

  @Test
  void linesComeBackAsTheyWere() throws Exception {
    float[] xyz = {0, 0, 0, 1, 0, 0, 1, 1, 0, 5, 5, 5, 6, 5, 5};
    LooseElements loose =
        new LooseElements(new int[] {0, 3, 5}, new int[] {0, 1, 2, 4, 3}, new int[0]);
    SceneBuilder scene = new SceneBuilder("rope");
    scene.nextId(10);
    scene.add(
        PolygonMesh.of(1, "rope", Coordinates.of(xyz), Polygons.triangles(new int[0])).toBuilder()
            .loose(loose)
            .build());
    scene.add(Node.of(2, "rope", -1, Node.Content.MeshContent.of(1)));
    for (FbxOptions.Form form : FbxOptions.Form.values()) {
      TestFiles files = new TestFiles();
      FbxWriter.write(
          scene.build(),
          new FbxOptions(form, 7400, true, false, FbxOptions.TOLERANCE),
          "a",
          new TestFiles(),
          files,
          new Findings(),
          Progress.NONE);
      PolygonMesh back = FbxReader.read("a.fbx", ReadContext.of(files)).meshes().get(0);
      assertEquals(5, back.points().count());
      assertArrayEquals(loose.lineOffsets(), back.loose().lineOffsets());
      assertArrayEquals(loose.lineVertices(), back.loose().lineVertices());
      assertEquals(0, back.faces().faceCount());
    }
  }

  @Test
  void aNurbsCurveKeepsItsKnotsAndWeights() throws Exception {
    Scene scene =
        read(
            """
            Order: 3
            Form: "Open"
            Points: *12 { a: 1,0,0,1, 1,1,0,0.70710678118, 0,1,0,1 }
            KnotVector: *6 { a: 0,0,0,1,1,1 }
            """);
    LooseElements loose = scene.meshes().get(0).loose();
    assertEquals(CurveForm.Basis.NURBS, loose.form().basis());
    assertEquals(2, loose.form().degree());
    float[] points = CurvePoints.of(loose, 8).at(scene.meshes().get(0).points()::at);
    for (int i = 0; i < points.length; i += 3) {
      assertEquals(1, Math.hypot(points[i], points[i + 1]), 1e-6);
    }
  }

  @Test
  void aPeriodicCurveBeginsAnewWithItsFirstPoints() throws Exception {
    Scene scene =
        read(
            """
            Order: 4
            Form: "Periodic"
            Points: *16 { a: 1,0,0,1, 0,1,0,1, -1,0,0,1, 0,-1,0,1 }
            KnotVector: *11 { a: -3,-2,-1,0,1,2,3,4,5,6,7 }
            """);
    LooseElements loose = scene.meshes().get(0).loose();
    assertArrayEquals(new int[] {0, 1, 2, 3, 0, 1, 2}, loose.lineVertices());
    float[] points = CurvePoints.of(loose, 8).at(scene.meshes().get(0).points()::at);
    int last = points.length - 3;
    assertEquals(points[0], points[last], 1e-6);
    assertEquals(points[1], points[last + 1], 1e-6);
  }

  @Test
  void damagedCurvesAreRefusedWithTheirPlace() {
    for (String body :
        new String[] {
          "Order: 3\nPoints: *4 { a: 0,0,0,1 }\nKnotVector: *2 { a: 0,1 }\n",
          "Order: 300\nPoints: *4 { a: 0,0,0,1 }\nKnotVector: *2 { a: 0,1 }\n",
          "Order: 2\nPoints: *3 { a: 0,0,0 }\nKnotVector: *4 { a: 0,0,1,1 }\n"
        }) {
      FormatException refused = assertThrows(FormatException.class, () -> read(body));
      assertTrue(refused.getMessage().contains("arc"), refused.getMessage());
    }
  }

  private static Scene curve(CurveForm form, int[] along, int points) {
    float[] xyz = new float[3 * points];
    for (int i = 0; i < points; i++) {
      xyz[3 * i] = (float) Math.cos(i);
      xyz[3 * i + 1] = (float) Math.sin(2 * i);
      xyz[3 * i + 2] = i;
    }
    LooseElements loose = new LooseElements(new int[] {0, along.length}, along, new int[0], form);
    SceneBuilder scene = new SceneBuilder("rope").nextId(10);
    scene.add(
        PolygonMesh.of(1, "rope", Coordinates.of(xyz), Polygons.triangles(new int[0])).toBuilder()
            .loose(loose)
            .build());
    scene.add(Node.of(2, "rope", -1, Node.Content.MeshContent.of(1)));
    return scene.build();
  }

  private static void assertComesBack(Scene scene) throws Exception {
    for (FbxOptions.Form form : FbxOptions.Form.values()) {
      TestFiles files = new TestFiles();
      FbxOptions options = new FbxOptions(form, 7400, true, false, FbxOptions.TOLERANCE);
      FbxWriter.write(scene, options, "a", new TestFiles(), files, new Findings(), Progress.NONE);
      PolygonMesh own = scene.meshes().get(0);
      PolygonMesh back = FbxReader.read("a.fbx", ReadContext.of(files)).meshes().get(0);
      assertArrayEquals(own.points().toFloats(), back.points().toFloats());
      assertArrayEquals(own.loose().lineVertices(), back.loose().lineVertices());
      assertEquals(own.loose().form().degree(), back.loose().form().degree());
      assertArrayEquals(own.loose().form().knots(), back.loose().form().knots());
      assertArrayEquals(own.loose().form().weights(), back.loose().form().weights());
    }
  }

  @Test
  void aNurbsCurveAloneIsWrittenAsOne() throws Exception {
    double[] knots = {0, 0, 0, 1, 2, 2, 2};
    assertComesBack(
        curve(
            new CurveForm(CurveForm.Basis.NURBS, 2, knots, new double[] {1, 0.5, 2, 1}),
            new int[] {0, 1, 2, 3},
            4));
    assertComesBack(
        curve(new CurveForm(CurveForm.Basis.NURBS, 2, knots, null), new int[] {0, 1, 2, 3}, 4));
  }

  @Test
  void aPeriodicCurveIsWrittenWithEachPointOnce() throws Exception {
    double[] knots = {-3, -2, -1, 0, 1, 2, 3, 4, 5, 6, 7};
    assertComesBack(
        curve(
            new CurveForm(CurveForm.Basis.NURBS, 3, knots, null),
            new int[] {0, 1, 2, 3, 0, 1, 2},
            4));
  }

  @Test
  void whatIsMoreThanOneCurveIsNoneAlone() {
    double[] knots = {0, 0, 0, 1, 2, 2, 2};
    CurveForm form = new CurveForm(CurveForm.Basis.NURBS, 2, knots, null);
    assertTrue(NurbsAlone.is(curve(form, new int[] {0, 1, 2, 3}, 4).meshes().get(0)));
    assertTrue(!NurbsAlone.is(curve(form, new int[] {0, 1, 3, 2}, 4).meshes().get(0)));
    assertTrue(!NurbsAlone.is(curve(form, new int[] {0, 1, 2, 3}, 5).meshes().get(0)));
    CurveForm bezier = new CurveForm(CurveForm.Basis.BEZIER, 3, null, null);
    assertTrue(!NurbsAlone.is(curve(bezier, new int[] {0, 1, 2, 3}, 4).meshes().get(0)));
  }
}
