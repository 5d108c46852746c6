package ferry.stone.core.geometry.curve;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.CurveForm.Basis;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Table;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Points of curves against what their definitions give at single places. */
class CurvePointsTest {
  private static LooseElements curve(int count, CurveForm form) {
    int[] all = IntStream.range(0, count).toArray();
    return new LooseElements(new int[] {0, count}, all, new int[0], form);
  }

  private static float[] at(LooseElements loose, double... xyz) {
    return CurvePoints.of(loose, 4).at(i -> xyz[i]);
  }

  @Test
  void aBezierPieceIsHalfWayAtItsMeanOfEighths() {
    // B(1/2) = (P0 + 3 P1 + 3 P2 + P3) / 8.
    LooseElements loose = curve(4, new CurveForm(Basis.BEZIER, 3, null, null));
    float[] points = at(loose, 0, 0, 0, 0, 8, 0, 8, 8, 0, 8, 0, 0);
    assertEquals(5, points.length / 3);
    assertArrayEquals(new float[] {0, 0, 0}, new float[] {points[0], points[1], points[2]});
    assertEquals(4, points[6], 1e-6);
    assertEquals(6, points[7], 1e-6);
    assertEquals(8, points[12], 1e-6);
  }

  @Test
  void splinesMeetWhereTheirPiecesDo() {
    double[] xyz = {0, 0, 0, 3, 6, 0, 6, 0, 0, 9, 6, 0, 12, 0, 0};
    float[] b = at(curve(5, new CurveForm(Basis.BSPLINE, 3, null, null)), xyz);
    // (P0 + 4 P1 + P2) / 6 at the beginning, (P2 + 4 P3 + P4) / 6 at the end.
    assertEquals(3, b[0], 1e-6);
    assertEquals(4, b[1], 1e-6);
    assertEquals(9, b[b.length - 3], 1e-6);
    float[] c = at(curve(5, new CurveForm(Basis.CATMULL_ROM, 3, null, null)), xyz);
    assertEquals(9, c.length / 3);
    // Through the inner control points.
    assertEquals(3, c[0], 1e-6);
    assertEquals(6, c[1], 1e-6);
    assertEquals(6, c[12], 1e-6);
    assertEquals(0, c[13], 1e-6);
    assertEquals(9, c[24], 1e-6);
  }

  /** A quarter of a circle: Piegl and Tiller, "The NURBS Book", section 7.3. */
  @Test
  void weightedPointsMakeACircle() {
    double[] knots = {0, 0, 0, 1, 1, 1};
    double[] weights = {1, Math.sqrt(0.5), 1};
    double[] xyz = {1, 0, 0, 1, 1, 0, 0, 1, 0};
    LooseElements loose = curve(3, new CurveForm(Basis.NURBS, 2, knots, weights));
    float[] points = CurvePoints.of(loose, 32).at(i -> xyz[i]);
    for (int i = 0; i < points.length; i += 3) {
      assertEquals(1, Math.hypot(points[i], points[i + 1]), 1e-6);
    }
    assertEquals(33, points.length / 3);
    assertEquals(1, points[points.length - 2], 1e-6);
  }

  @Test
  void clampedCubicKnotsAreABezierPiece() {
    double[] knots = {0, 0, 0, 0, 1, 1, 1, 1};
    double[] xyz = {0, 0, 0, 1, 5, 2, 4, 5, -3, 6, 1, 0};
    float[] nurbs = at(curve(4, new CurveForm(Basis.NURBS, 3, knots, null)), xyz);
    float[] bezier = at(curve(4, new CurveForm(Basis.BEZIER, 3, null, null)), xyz);
    assertArrayEquals(bezier, nurbs, 1e-5f);
  }

  @Test
  void straightLinesTakeThePlaceOfControlPoints() {
    float[] xyz = {0, 0, 0, 0, 8, 0, 8, 8, 0, 8, 0, 0, 1, 1, 1};
    Table ids = new Table.Wholes(new int[] {5, 6, 7, 8, 9}, 1);
    PolygonMesh mesh =
        PolygonMesh.of(1, "hair", Coordinates.of(xyz), Polygons.triangles(new int[0])).toBuilder()
            .attributes(
                List.of(
                    new Attribute(
                        "id", Attribute.Semantic.OTHER, Attribute.Domain.VERTEX, ids, null)))
            .loose(
                new LooseElements(
                    new int[] {0, 4},
                    new int[] {0, 1, 2, 3},
                    new int[] {4},
                    new CurveForm(Basis.BEZIER, 3, null, null)))
            .build();
    PolygonMesh straight = StraightCurves.straight(mesh, false);
    assertEquals(1 + CurvePoints.PIECES + 1, straight.points().count());
    assertEquals(CurvePoints.PIECES, straight.loose().segmentCount());
    int point = straight.loose().points()[0];
    assertEquals(1, straight.points().x(point));
    Attribute kept = straight.all(Attribute.Semantic.OTHER).get(0);
    assertEquals(9, kept.table().number(kept.valueOf(0, point, 0), 0));
    PolygonMesh moved = StraightCurves.straight(mesh, true);
    assertEquals(5, moved.points().count());
    assertEquals(3, moved.loose().segmentCount());
  }

  @Test
  void formsThatDoNotFitAreRefused() {
    assertThrows(IllegalArgumentException.class, () -> new CurveForm(Basis.BSPLINE, 2, null, null));
    assertThrows(IllegalArgumentException.class, () -> new CurveForm(Basis.NURBS, 3, null, null));
    CurveForm form = new CurveForm(Basis.NURBS, 3, new double[7], null);
    assertThrows(IllegalArgumentException.class, () -> curve(4, form));
  }
}
