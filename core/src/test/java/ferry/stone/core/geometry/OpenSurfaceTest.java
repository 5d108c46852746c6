package ferry.stone.core.geometry;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomScene;
import ferry.stone.core.geometry.mesh.CutApart;
import ferry.stone.core.geometry.mesh.EdgeTable;
import ferry.stone.core.geometry.mesh.Holes;
import ferry.stone.core.geometry.mesh.MeshCut;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.geometry.mesh.Pieces;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Closing holes and cutting along crowded edges. */
class OpenSurfaceTest {

  private static PolygonMesh withoutFace(PolygonMesh mesh, int face) {
    boolean[] keep = new boolean[mesh.faces().faceCount()];
    Arrays.fill(keep, true);
    keep[face] = false;
    return MeshCut.keeping(mesh, keep).mesh();
  }

  private static int edges(PolygonMesh mesh, int from, int to) {
    EdgeTable table = EdgeTable.of(mesh.faces(), mesh.points().count());
    int count = 0;
    for (int e = 0; e < table.count(); e++) {
      count += table.uses(e) >= from && table.uses(e) <= to ? 1 : 0;
    }
    return count;
  }

  /** V − E + F: 2 for a closed surface without a handle (Euler 1758). */
  private static int euler(PolygonMesh mesh) {
    return mesh.points().count() - edges(mesh, 1, Integer.MAX_VALUE) + mesh.faces().faceCount();
  }

  /** Every face with vertices of its own, as formats with one index a corner have it. */
  private static PolygonMesh burst(PolygonMesh mesh) {
    int n = mesh.faces().cornerCount();
    int[] source = new int[n];
    int[] own = new int[n];
    int[] offsets = new int[mesh.faces().faceCount() + 1];
    for (int f = 0; f < mesh.faces().faceCount(); f++) {
      offsets[f + 1] = mesh.faces().end(f);
    }
    for (int c = 0; c < n; c++) {
      source[c] = mesh.faces().vertex(c);
      own[c] = c;
    }
    return mesh.toBuilder()
        .points(mesh.points().picked(source))
        .faces(Polygons.of(own, offsets))
        .build();
  }

  /** A cloth of 8 × 8 squares that waves in height. */
  private static PolygonMesh cloth(double height) {
    float[] xyz = new float[3 * 81];
    int[] corners = new int[4 * 64];
    for (int i = 0; i < 81; i++) {
      xyz[3 * i] = i % 9;
      xyz[3 * i + 1] = (float) (height * Math.sin(i % 9));
      xyz[3 * i + 2] = i / 9;
    }
    for (int q = 0; q < 64; q++) {
      int at = q / 8 * 9 + q % 8;
      int[] square = {at, at + 9, at + 10, at + 1};
      System.arraycopy(square, 0, corners, 4 * q, 4);
    }
    int[] offsets = new int[65];
    for (int q = 0; q < 65; q++) {
      offsets[q] = 4 * q;
    }
    return PolygonMesh.of(1, "cloth", Coordinates.of(xyz), Polygons.of(corners, offsets));
  }

  @Test
  void theRimOfASheetIsNoHole() {
    assertArrayEquals(new boolean[] {true}, Holes.of(cloth(0)).rims());
    assertArrayEquals(new boolean[] {true}, Holes.of(cloth(0.3)).rims());
    // A bag is much larger than its mouth, a lid is a sixth of its box.
    assertArrayEquals(new boolean[] {false}, Holes.of(cloth(4)).rims());
    assertArrayEquals(new boolean[] {false}, Holes.of(withoutFace(Solids.box(2, 1, 3), 0)).rims());
    // A window in a sheet is a hole, its rim is none.
    boolean[] window = Holes.of(withoutFace(cloth(0), 27)).rims();
    assertEquals(2, window.length);
    assertTrue(window[0] != window[1]);
  }

  @Test
  void aBoxWithoutALidGetsItBack() {
    PolygonMesh box = Solids.box(2, 1, 3);
    for (int face = 0; face < 6; face++) {
      PolygonMesh open = withoutFace(box, face);
      Holes holes = Holes.of(open);
      assertEquals(1, holes.sizes().length);
      Holes.Result closed = holes.closed(holes.sizes()[0]);
      assertEquals(1, closed.closed());
      assertEquals(0, edges(closed.mesh(), 1, 1));
      assertEquals(2, euler(closed.mesh()));
      assertEquals(6, MeshMeasure.of(closed.mesh()).volume(), 1e-6);
      assertEquals(22, MeshMeasure.of(closed.mesh()).area(), 1e-6);
    }
  }

  @Test
  void seamsAreNoHolesAndLargerHolesStay() {
    PolygonMesh burst = burst(Solids.box(2, 1, 3));
    assertEquals(24, edges(burst, 1, 1));
    assertEquals(0, Holes.of(burst).sizes().length);
    PolygonMesh open = withoutFace(burst, 0);
    double[] sizes = Holes.of(open).sizes();
    assertEquals(1, sizes.length);
    assertSame(open, Holes.of(open).closed(0.99 * sizes[0]).mesh());
    assertEquals(6, Holes.of(open).closed(sizes[0]).mesh().faces().faceCount());
  }

  @Test
  void aClosedHoleTakesTheValuesBesideItAndShadesFlat() {
    PolygonMesh torus = Solids.torus(12, 8, 3, 1);
    int corners = torus.faces().cornerCount();
    float[] normals = new float[3 * corners];
    float[] uvs = new float[2 * corners];
    for (int c = 0; c < corners; c++) {
      normals[3 * c] = 1;
      uvs[2 * c] = torus.faces().vertex(c);
    }
    PolygonMesh dressed =
        torus.toBuilder()
            .attributes(
                List.of(
                    new Attribute(
                        "n", Attribute.Semantic.NORMAL, Attribute.Domain.CORNER, 3, normals, null),
                    new Attribute(
                        "uv", Attribute.Semantic.UV, Attribute.Domain.CORNER, 2, uvs, null)))
            .build();
    PolygonMesh open = withoutFace(dressed, 17);
    PolygonMesh closed = Holes.of(open).closed(100).mesh();
    int face = closed.faces().faceCount() - 1;
    assertEquals(96, closed.faces().faceCount());
    for (int c = closed.faces().start(face); c < closed.faces().end(face); c++) {
      Attribute uv = closed.first(Attribute.Semantic.UV).orElseThrow();
      int v = closed.faces().vertex(c);
      // The vertex's number in the whole torus was its u.
      double[] ring = {closed.points().x(v), closed.points().y(v), closed.points().z(v)};
      int whole = (int) uv.values()[2 * uv.valueOf(c, v, face)];
      assertEquals(torus.points().x(whole), ring[0], 0);
      assertEquals(torus.points().z(whole), ring[2], 0);
      Attribute normal = closed.first(Attribute.Semantic.NORMAL).orElseThrow();
      int at = 3 * normal.valueOf(c, v, face);
      assertTrue(Math.abs(normal.values()[at] - 1) > 1e-3, "the face's own normal");
    }
  }

  /** Two boxes that share one edge, as one mesh. */
  private static PolygonMesh touchingBoxes() {
    PolygonMesh box = Solids.box(1, 1, 1);
    float[] points = Arrays.copyOf(box.points().toFloats(), 42);
    int[] second = {7, 8, 3, 9, 10, 11, 12, 13};
    for (int i = 0; i < 8; i++) {
      int v = second[i];
      points[3 * v] = 1 + (i & 1);
      points[3 * v + 1] = 1 + ((i & 2) >> 1);
      points[3 * v + 2] = (i & 4) == 0 ? 0 : 1;
    }
    // Corners 3 and 7 of the first (x = y = 1) are 0 and 4 of the second.
    int[] as = {3, 8, 9, 10, 7, 11, 12, 13};
    for (int i = 0; i < 8; i++) {
      points[3 * as[i]] = 1 + (i & 1);
      points[3 * as[i] + 1] = 1 + ((i & 2) >> 1);
      points[3 * as[i] + 2] = (i & 4) == 0 ? 0 : 1;
    }
    int[] corners = new int[48];
    int[] offsets = new int[13];
    for (int c = 0; c < 24; c++) {
      corners[c] = box.faces().vertex(c);
      corners[24 + c] = as[box.faces().vertex(c)];
    }
    for (int f = 0; f <= 12; f++) {
      offsets[f] = 4 * f;
    }
    return PolygonMesh.of(1, "boxes", Coordinates.of(points), Polygons.of(corners, offsets));
  }

  @Test
  void boxesThatShareAnEdgeBecomeTwoClosedBoxes() {
    PolygonMesh boxes =
        touchingBoxes().toBuilder()
            .hardEdges(new int[] {3, 7})
            .edgeSets(List.of(new EdgeSet("hinge", "", new int[] {3, 7})))
            .morphs(
                List.of(
                    new MorphTarget(
                        "up",
                        0,
                        List.of(
                            new MorphTarget.Shape(
                                1, new int[] {0, 3}, new float[] {0, 1, 0, 0, 2, 0}, null)))))
            .build();
    assertEquals(1, edges(boxes, 3, 99));
    CutApart.Result cut = CutApart.of(boxes);
    assertEquals(1, cut.edges());
    assertEquals(0, edges(cut.mesh(), 3, 99));
    assertEquals(0, edges(cut.mesh(), 1, 1), "both stay closed");
    assertEquals(16, cut.mesh().points().count());
    assertEquals(2, Pieces.byVertex(cut.mesh().faces(), 16).count());
    assertEquals(4, euler(cut.mesh()), "two closed surfaces");
    assertEquals(4, cut.mesh().hardEdges().length, "the hard edge on both boxes");
    assertEquals(2, cut.mesh().edgeSets().get(0).count(), "the set on both boxes");
    MorphTarget.Shape shape = cut.mesh().morphs().get(0).full();
    assertEquals(3, shape.vertices().length, "the target on the copy too");
    assertArrayEquals(new float[] {0, 1, 0, 0, 2, 0, 0, 2, 0}, shape.deltas());
  }

  @Test
  void nothingIsCrowdedAfterwardsAndNothingMoves() {
    int cuts = 0;
    for (int seed = 0; seed < 200; seed++) {
      Random random = new Random(seed);
      int vertices = 5 + random.nextInt(6);
      int faces = 4 + random.nextInt(14);
      float[] points = new float[3 * vertices];
      for (int i = 0; i < points.length; i++) {
        points[i] = random.nextFloat();
      }
      int[] corners = new int[3 * faces];
      for (int f = 0; f < faces; f++) {
        int a = random.nextInt(vertices);
        corners[3 * f] = a;
        corners[3 * f + 1] = (a + 1 + random.nextInt(vertices / 2)) % vertices;
        corners[3 * f + 2] = (a + vertices / 2 + 1) % vertices;
      }
      PolygonMesh mesh =
          PolygonMesh.of(1, "m", Coordinates.of(points), Polygons.triangles(corners));
      CutApart.Result cut = CutApart.of(mesh);
      cuts += cut.edges();
      assertEquals(0, edges(cut.mesh(), 3, 99), "seed " + seed);
      for (int c = 0; c < corners.length; c++) {
        int v = cut.mesh().faces().vertex(c);
        assertEquals(points[3 * corners[c]], cut.mesh().points().x(v), 0);
        int source = cut.sourceVertex() == null ? v : cut.sourceVertex()[v];
        assertEquals(corners[c], source, "seed " + seed);
      }
      assertSame(cut.mesh(), CutApart.of(cut.mesh()).mesh(), "a second time nothing is left");
    }
    assertTrue(cuts > 100, cuts + " edges cut");
  }

  @Test
  void soundSheetsAreLeftAlone() {
    for (int seed = 0; seed < 10; seed++) {
      for (PolygonMesh mesh : RandomScene.of(new Random(seed)).meshes()) {
        if (edges(mesh, 3, Integer.MAX_VALUE) == 0) {
          assertSame(mesh, CutApart.of(mesh).mesh());
        }
      }
    }
  }
}
