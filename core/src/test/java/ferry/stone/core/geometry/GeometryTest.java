package ferry.stone.core.geometry;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomScene;
import ferry.stone.core.geometry.mesh.EdgeTable;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.geometry.mesh.Pieces;
import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.geometry.triangle.TriangleTree;
import ferry.stone.core.geometry.triangle.Triangulation;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class GeometryTest {
  @Test
  void measuresOfSolids() {
    MeshMeasure box = MeshMeasure.of(Solids.box(2, 3, 4));
    assertEquals(52, box.area(), 1e-9);
    assertEquals(24, box.volume(), 1e-9);
    // Pappus: surface 4π²Rr, volume 2π²Rr²; the mesh comes near with many sides.
    MeshMeasure ring = MeshMeasure.of(Solids.torus(200, 120, 3, 1));
    assertEquals(4 * Math.PI * Math.PI * 3, ring.area(), 0.1);
    assertEquals(2 * Math.PI * Math.PI * 3, ring.volume(), 0.1);
  }

  @Test
  void eulerCharacteristicOfSolids() {
    // V − E + F: 2 for a box, 0 for a torus.
    for (PolygonMesh mesh : List.of(Solids.box(1, 1, 1), Solids.torus(12, 8, 3, 1))) {
      EdgeTable edges = EdgeTable.of(mesh.faces(), mesh.points().count());
      int euler = mesh.points().count() - edges.count() + mesh.faces().faceCount();
      assertEquals(mesh.name().equals("box") ? 2 : 0, euler);
      for (int e = 0; e < edges.count(); e++) {
        assertEquals(2, edges.uses(e));
      }
    }
  }

  @Test
  void concavePolygonsKeepTheirShape() {
    double[][] shapes = {
      {0, 0, 4, 0, 4, 4, 2, 1, 0, 4},
      {0, 0, 3, 1, 6, 0, 5, 3, 6, 6, 3, 5, 0, 6, 1, 3},
      {0, 0, 5, 0, 5, 1, 1, 1, 1, 4, 5, 4, 5, 5, 0, 5},
      {0, 0, 2, 2, 4, 0, 2, 1},
    };
    for (double[] shape : shapes) {
      for (boolean reversed : new boolean[] {false, true}) {
        double[] xy = reversed ? reverse(shape) : shape;
        PolygonMesh mesh = Solids.polygon(xy);
        int n = xy.length / 2;
        int[] cut = new int[3 * (n - 2)];
        assertEquals(3 * (n - 2), new Triangulation(mesh.points()).cut(mesh.faces(), 0, cut, 0));
        double sum = 0;
        for (int t = 0; t < cut.length; t += 3) {
          double area = area(xy, cut[t], cut[t + 1], cut[t + 2]);
          assertTrue(area * Math.signum(shoelace(xy)) > -1e-9, "a triangle is turned over");
          sum += Math.abs(area);
        }
        // The triangles cover the polygon once: the shoelace area (Meister 1769).
        assertEquals(Math.abs(shoelace(xy)), sum, 1e-6);
      }
    }
  }

  private static double[] reverse(double[] xy) {
    double[] result = new double[xy.length];
    for (int i = 0; i < xy.length; i += 2) {
      result[i] = xy[xy.length - 2 - i];
      result[i + 1] = xy[xy.length - 1 - i];
    }
    return result;
  }

  private static double area(double[] xy, int a, int b, int c) {
    return ((xy[2 * b] - xy[2 * a]) * (xy[2 * c + 1] - xy[2 * a + 1])
            - (xy[2 * b + 1] - xy[2 * a + 1]) * (xy[2 * c] - xy[2 * a]))
        / 2;
  }

  private static double shoelace(double[] xy) {
    double sum = 0;
    for (int i = 0; i < xy.length; i += 2) {
      int j = (i + 2) % xy.length;
      sum += xy[i] * xy[j + 1] - xy[j] * xy[i + 1];
    }
    return sum / 2;
  }

  @Test
  void degeneratePolygonsStillGiveTheirTriangles() {
    PolygonMesh flat = Solids.polygon(0, 0, 1, 0, 2, 0, 3, 0, 4, 0, 5, 0);
    assertEquals(12, new Triangulation(flat.points()).cut(flat.faces(), 0, new int[12], 0));
    PolygonMesh crossed = Solids.polygon(0, 0, 2, 2, 2, 0, 0, 2, 1, 5);
    assertEquals(9, new Triangulation(crossed.points()).cut(crossed.faces(), 0, new int[9], 0));
  }

  @Test
  void normalsBreakAtTheAngle() {
    PolygonMesh box = Solids.box(1, 1, 1);
    Attribute hard = Normals.byAngle(box, 89, Progress.NONE);
    assertEquals(24, hard.valueCount());
    Attribute smooth = Normals.byAngle(box, 91, Progress.NONE);
    assertEquals(8, smooth.valueCount());
    // All three faces at a corner of a box count the same: the normal is the diagonal.
    float third = (float) (1 / Math.sqrt(3));
    assertEquals(third, Math.abs(smooth.values()[0]), 1e-6);
    assertEquals(third, Math.abs(smooth.values()[1]), 1e-6);
  }

  @Test
  void normalsWeighByAngleNotByCount() {
    // One side of the box cut in two triangles must not pull the corner's normal to its side.
    PolygonMesh box = Solids.box(1, 1, 1);
    int[] c = {0, 2, 3, 0, 3, 1, 4, 5, 7, 6, 0, 1, 5, 4, 2, 6, 7, 3, 0, 4, 6, 2, 1, 3, 7, 5};
    PolygonMesh cut = box.withFaces(Polygons.of(c, new int[] {0, 3, 6, 10, 14, 18, 22, 26}));
    Attribute smooth = Normals.byAngle(cut, 91, Progress.NONE);
    int corner = smooth.indices()[0];
    for (int k = 0; k < 3; k++) {
      assertEquals(-1 / Math.sqrt(3), smooth.values()[3 * corner + k], 1e-6);
    }
  }

  @Test
  void smoothingGroupsJoinOnlyTheirOwn() {
    PolygonMesh box =
        Solids.box(1, 1, 1).toBuilder().smoothing(new int[] {1, 1, 1, 1, 0, 2}).build();
    Attribute normals = Normals.bySmoothingGroups(box, Progress.NONE);
    // Four faces in a ring share 8 normals; the two others have 4 each.
    assertEquals(16, normals.valueCount());
  }

  @Test
  void piecesBySharedVertexAndByPlace() {
    float[] p = {0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 0, 0, 0, 1, -0f, 1, 1, 0, 9, 9, 9, 8, 9, 9, 8, 8, 9};
    Polygons faces = Polygons.triangles(new int[] {0, 1, 2, 4, 3, 5, 6, 7, 8});
    assertEquals(3, Pieces.byVertex(faces, 9).count());
    Pieces joined = Pieces.byPosition(faces, Coordinates.of(p));
    assertArrayEquals(new int[] {0, 0, 1}, joined.pieceOfFace());
  }

  @Test
  void nearestPointOnTriangles() {
    Random random = new Random(5);
    double[] t = new double[9 * 300];
    for (int i = 0; i < t.length; i++) {
      t[i] = random.nextDouble();
    }
    TriangleTree tree = new TriangleTree(t);
    for (int i = 0; i < 200; i++) {
      double x = random.nextDouble() * 2 - 0.5;
      double y = random.nextDouble() * 2 - 0.5;
      double z = random.nextDouble() * 2 - 0.5;
      assertEquals(nearestBySearch(t, x, y, z), tree.distance(x, y, z), 0.02);
    }
    double[] one = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    assertEquals(2, new TriangleTree(one).distance(0.2, 0.2, 2), 1e-12);
    assertEquals(Math.sqrt(0.5), new TriangleTree(one).distance(1, 1, 0), 1e-12);
    assertEquals(1, new TriangleTree(one).distance(-1, 0, 0), 1e-12);
  }

  /** The nearest of a fine grid of points on every triangle: no formula shared with the tree. */
  private static double nearestBySearch(double[] t, double x, double y, double z) {
    double best = Double.POSITIVE_INFINITY;
    int steps = 60;
    for (int i = 0; i < t.length; i += 9) {
      for (int a = 0; a <= steps; a++) {
        for (int b = 0; a + b <= steps; b++) {
          double u = (double) a / steps;
          double v = (double) b / steps;
          double dx = t[i] + u * (t[i + 3] - t[i]) + v * (t[i + 6] - t[i]) - x;
          double dy = t[i + 1] + u * (t[i + 4] - t[i + 1]) + v * (t[i + 7] - t[i + 1]) - y;
          double dz = t[i + 2] + u * (t[i + 5] - t[i + 2]) + v * (t[i + 8] - t[i + 2]) - z;
          best = Math.min(best, dx * dx + dy * dy + dz * dz);
        }
      }
    }
    return Math.sqrt(best);
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void renderMeshKeepsVertexOrderAndCorners(long seed) {
    for (PolygonMesh mesh : RandomScene.of(new Random(seed)).meshes()) {
      int triangles = 0;
      for (RenderPrimitive p : RenderMesh.of(mesh, Progress.NONE)) {
        int previous = -1;
        int firsts = (int) java.util.Arrays.stream(p.sourceVertex()).distinct().count();
        for (int i = 0; i < firsts; i++) {
          assertTrue(p.sourceVertex()[i] > previous, "seed " + seed + ": order is broken");
          previous = p.sourceVertex()[i];
        }
        for (int i = 0; i < p.vertexCount(); i++) {
          assertEquals((float) mesh.points().x(p.sourceVertex()[i]), p.positions()[3 * i]);
        }
        triangles += p.triangleCount();
        for (int t = 0; t < p.triangleCount(); t++) {
          assertEquals(p.materialId(), mesh.materialOf(p.triangleFace()[t]));
        }
      }
      assertEquals(mesh.faces().triangleCount(), triangles);
    }
  }

  @Test
  void equalValuesUnderOtherIndicesDoNotSplitVertices() {
    PolygonMesh mesh = Solids.polygon(0, 0, 1, 0, 1, 1, 0, 1);
    Attribute repeated =
        new Attribute(
            "normal",
            Attribute.Semantic.NORMAL,
            Attribute.Domain.CORNER,
            3,
            new float[] {0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1},
            new int[] {0, 1, 2, 3});
    RenderPrimitive p = RenderMesh.of(mesh.withAttributes(List.of(repeated)), Progress.NONE).get(0);
    assertEquals(4, p.vertexCount());
    assertFalse(p.uvs().iterator().hasNext());
  }
}
