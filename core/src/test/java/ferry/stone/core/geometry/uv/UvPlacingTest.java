package ferry.stone.core.geometry.uv;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.geometry.Solids;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.Random;
import org.joml.Matrix3d;
import org.junit.jupiter.api.Test;

/** UVs from six sides, packed and moved. */
class UvPlacingTest {
  private static final double TINY = 1e-5;

  /** Area of a face in the UV plane, above zero when it reads the right way round. */
  private static double area(PolygonMesh mesh, Attribute uv, int face) {
    double area = 0;
    int start = mesh.faces().start(face);
    int end = mesh.faces().end(face);
    for (int c = start; c < end; c++) {
      int a = 2 * uv.valueOf(c, mesh.faces().vertex(c), face);
      int next = c + 1 == end ? start : c + 1;
      int b = 2 * uv.valueOf(next, mesh.faces().vertex(next), face);
      area += (double) uv.values()[a] * uv.values()[b + 1];
      area -= (double) uv.values()[b] * uv.values()[a + 1];
    }
    return area / 2;
  }

  private static void insideSquare(Attribute uv) {
    for (float x : uv.values()) {
      assertTrue(x >= -TINY && x <= 1 + TINY, "in the square: " + x);
    }
  }

  @Test
  void aBoxShowsAPictureTheRightWayRoundFromAllSides() {
    PolygonMesh box = Solids.box(2, 1, 3);
    double[] areas = {2, 2, 6, 6, 3, 3};
    for (UvOrigin origin : UvOrigin.values()) {
      Attribute uv = UvPlacing.box(box, "uv", 0.5, origin, new Matrix3d());
      double sign = origin == UvOrigin.BOTTOM_LEFT ? 1 : -1;
      for (int f = 0; f < 6; f++) {
        // Half a metre a tile: four tiles a square metre. Seen from outside faces run
        // counter-clockwise, so the picture is not mirrored when UVs do too.
        assertEquals(4 * areas[f], sign * area(box, uv, f), TINY);
      }
    }
  }

  @Test
  void picturesStandUprightWhateverAxisIsUp() {
    PolygonMesh box = Solids.box(2, 1, 3);
    Frame zUp = Frame.Y_UP_METRE.withUp(SignedAxis.PLUS_Z);
    Matrix3d upright = zUp.basisTo(Frame.Y_UP_METRE);
    Attribute uv = UvPlacing.box(box, "uv", 1, UvOrigin.BOTTOM_LEFT, upright);
    for (int f = 0; f < 6; f++) {
      assertTrue(area(box, uv, f) > 0);
      for (int c = box.faces().start(f); c < box.faces().end(f); c++) {
        int v = box.faces().vertex(c);
        // The third and fourth faces look along Y, the last two along X: there Z is up.
        if (f >= 2) {
          assertEquals(box.points().z(v), uv.values()[2 * c + 1], TINY);
        }
      }
    }
  }

  @Test
  void packedIslandsLieApartAtOneScale() {
    PolygonMesh box = Solids.box(2, 1, 3);
    Attribute uv =
        UvPlacing.packed(box, UvPlacing.box(box, "uv", 1, UvOrigin.BOTTOM_LEFT, new Matrix3d()));
    insideSquare(uv);
    assertEquals(0, UvOverlap.of(box, uv).part(), 0);
    double scale = area(box, uv, 0) / 2;
    double[] areas = {2, 2, 6, 6, 3, 3};
    double used = 0;
    for (int f = 0; f < 6; f++) {
      assertEquals(areas[f] * scale, area(box, uv, f), TINY);
      used += area(box, uv, f);
    }
    assertTrue(used > 0.5, "more than half of the square is used: " + used);
  }

  @Test
  void roundThingsAndNoiseLieApartToo() {
    PolygonMesh torus = Solids.torus(24, 16, 3, 1);
    Attribute uv =
        UvPlacing.packed(torus, UvPlacing.box(torus, "uv", 1, UvOrigin.TOP_LEFT, new Matrix3d()));
    insideSquare(uv);
    assertTrue(UvOverlap.of(torus, uv).part() <= UvOverlap.WORTH_TELLING);
    // UVs at random lie over each other everywhere; face by face they come apart.
    Random random = new Random(5);
    float[] values = new float[2 * torus.points().count()];
    for (int i = 0; i < values.length; i++) {
      values[i] = random.nextFloat();
    }
    PolygonMesh cut = Triangulate.of(torus);
    Attribute noise =
        new Attribute("uv", Attribute.Semantic.UV, Attribute.Domain.VERTEX, 2, values, null);
    assertTrue(UvOverlap.of(cut, noise).part() > 0.9);
    Attribute apart = UvPlacing.packed(cut, noise);
    insideSquare(apart);
    assertTrue(UvOverlap.of(cut, apart).part() <= UvOverlap.WORTH_TELLING);
  }

  @Test
  void mirroredHalvesAreTwoIslands() {
    PolygonMesh box = Solids.box(2, 1, 1);
    // All six sides over each other in one square, half of them mirrored.
    float[] values = new float[48];
    float[][] square = {{0, 0}, {1, 0}, {1, 1}, {0, 1}};
    for (int c = 0; c < 24; c++) {
      int k = c / 4 % 2 == 0 ? c % 4 : 3 - c % 4;
      values[2 * c] = square[k][0];
      values[2 * c + 1] = square[k][1];
    }
    Attribute uv =
        new Attribute("uv", Attribute.Semantic.UV, Attribute.Domain.CORNER, 2, values, null);
    assertTrue(UvOverlap.of(box, uv).part() > 0.99);
    Attribute packed = UvPlacing.packed(box, uv);
    assertEquals(0, UvOverlap.of(box, packed).part(), 0);
    for (int f = 0; f < 6; f++) {
      assertEquals(Math.signum(area(box, uv, f)), Math.signum(area(box, packed, f)), 0);
    }
  }

  @Test
  void islandsMoveByWholeTilesSoThatARepeatedPictureStays() {
    PolygonMesh box = Solids.box(0.8, 0.7, 0.6);
    Attribute uv = UvPlacing.box(box, "uv", 1, UvOrigin.BOTTOM_LEFT, new Matrix3d());
    float[] values = uv.values().clone();
    for (int c = 0; c < 24; c++) {
      // Each side in a tile of its own, in its lower left corner.
      int face = c / 4;
      double lowU = 9;
      double lowV = 9;
      for (int k = 4 * face; k < 4 * face + 4; k++) {
        lowU = Math.min(lowU, uv.values()[2 * k]);
        lowV = Math.min(lowV, uv.values()[2 * k + 1]);
      }
      values[2 * c] += (float) (face - 3 - lowU);
      values[2 * c + 1] += (float) (2 * face - lowV);
    }
    Attribute spread = uv.withValues(values);
    assertTrue(UvPlacing.fitTiles(box, spread));
    Attribute moved = UvPlacing.intoTile(box, spread);
    insideSquare(moved);
    for (int i = 0; i < values.length; i++) {
      double tiles = moved.values()[i] - values[i];
      assertEquals(Math.rint(tiles), tiles, TINY);
    }
    assertFalse(
        UvPlacing.fitTiles(
            box, UvPlacing.box(box, "uv", 0.5, UvOrigin.BOTTOM_LEFT, new Matrix3d())));
  }

  @Test
  void aFittedSetIsTheSamePictureSmaller() {
    PolygonMesh box = Solids.box(2, 1, 3);
    Attribute uv = UvPlacing.box(box, "uv", 1, UvOrigin.BOTTOM_LEFT, new Matrix3d());
    Attribute fitted = UvPlacing.fitted(uv);
    insideSquare(fitted);
    double scale = area(box, fitted, 0) / area(box, uv, 0);
    for (int f = 1; f < 6; f++) {
      assertEquals(scale, area(box, fitted, f) / area(box, uv, f), TINY);
    }
  }
}
