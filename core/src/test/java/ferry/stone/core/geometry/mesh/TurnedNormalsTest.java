package ferry.stone.core.geometry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Random;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Under a matrix normals become what its inverse transpose makes of them. */
class TurnedNormalsTest {
  /** A box of six quads with a leaning normal at each corner. */
  private static PolygonMesh box(Random random) {
    float[] points = new float[24];
    for (int v = 0; v < 8; v++) {
      points[3 * v] = (v & 1) * 2;
      points[3 * v + 1] = (v >> 1 & 1) * 3;
      points[3 * v + 2] = (v >> 2 & 1);
    }
    int[] corners = {0, 2, 3, 1, 4, 5, 7, 6, 0, 1, 5, 4, 2, 6, 7, 3, 0, 4, 6, 2, 1, 3, 7, 5};
    int[] offsets = {0, 4, 8, 12, 16, 20, 24};
    float[] normals = new float[3 * corners.length];
    Vector3d n = new Vector3d();
    for (int i = 0; i < corners.length; i++) {
      n.set(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()).normalize();
      normals[3 * i] = (float) n.x;
      normals[3 * i + 1] = (float) n.y;
      normals[3 * i + 2] = (float) n.z;
    }
    return PolygonMesh.of(1, "box", Coordinates.of(points), Polygons.of(corners, offsets))
        .withFirst(
            Semantic.NORMAL, new Attribute("n", Semantic.NORMAL, Domain.CORNER, 3, normals, null));
  }

  private static float[] moved(PolygonMesh mesh, Matrix4d matrix) {
    Coordinates moved = mesh.points().transform(matrix);
    float[] points = new float[3 * moved.count()];
    for (int i = 0; i < points.length; i++) {
      points[i] = (float) moved.at(i);
    }
    return points;
  }

  @Test
  void turnsTheyFollowForAnyNormal() {
    Random random = new Random(11);
    for (int i = 0; i < 20; i++) {
      PolygonMesh mesh = box(random);
      Attribute normals = mesh.first(Semantic.NORMAL).orElseThrow();
      Matrix4d turn =
          new Matrix4d()
              .translation(4, -7, 2)
              .rotateXYZ(6 * random.nextDouble(), random.nextDouble(), 6 * random.nextDouble());
      float[] found = new TurnedNormals(mesh, normals).at(moved(mesh, turn));
      same(found, normals.values(), new Matrix3d(turn));
    }
  }

  @Test
  void unevenScalesTiltThemTheOtherWay() {
    // On flat faces the face's own direction, which every frame keeps upright.
    PolygonMesh mesh = box(new Random(1));
    float[] upright = new float[72];
    float[][] sides = {{0, 0, -1}, {0, 0, 1}, {0, -1, 0}, {0, 1, 0}, {-1, 0, 0}, {1, 0, 0}};
    for (int i = 0; i < 24; i++) {
      System.arraycopy(sides[i / 4], 0, upright, 3 * i, 3);
    }
    Attribute normals = mesh.first(Semantic.NORMAL).orElseThrow().withValues(upright);
    Matrix4d sheared = new Matrix4d().m10(0.7).scale(1, 4, 0.5);
    float[] found = new TurnedNormals(mesh, normals).at(moved(mesh, sheared));
    Matrix3d normal = new Matrix3d(sheared).invert().transpose();
    same(found, upright, normal);
  }

  private static void same(float[] found, float[] before, Matrix3d by) {
    for (int i = 0; i < found.length; i += 3) {
      Vector3d wanted = by.transform(new Vector3d(before[i], before[i + 1], before[i + 2]));
      wanted.normalize();
      assertThat((double) found[i]).isCloseTo(wanted.x, within(1e-5));
      assertThat((double) found[i + 1]).isCloseTo(wanted.y, within(1e-5));
      assertThat((double) found[i + 2]).isCloseTo(wanted.z, within(1e-5));
    }
  }

  @Test
  void whereAFaceHasNoSizeTheOldNormalStays() {
    PolygonMesh mesh = box(new Random(2));
    Attribute normals = mesh.first(Semantic.NORMAL).orElseThrow();
    float[] found = new TurnedNormals(mesh, normals).at(new float[24]);
    assertThat(found).isEqualTo(normals.values());
  }

  @Test
  void oneValueForAllCornersOfAVertexTakesTheMeanOfThem() {
    float[] points = {0, 0, 0, 1, 0, 0, 0, 1, 0, -1, 0, 0};
    PolygonMesh roof =
        PolygonMesh.of(
            1, "roof", Coordinates.of(points), Polygons.triangles(new int[] {0, 1, 2, 0, 2, 3}));
    Attribute up =
        new Attribute(
            "n",
            Semantic.NORMAL,
            Domain.VERTEX,
            3,
            new float[] {0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1},
            null);
    // Both halves fold down by 45 degrees about the ridge.
    float s = (float) Math.sqrt(0.5);
    float[] folded = {0, 0, 0, s, 0, -s, 0, 1, 0, -s, 0, -s};
    float[] found = new TurnedNormals(roof, up).at(folded);
    assertThat(found[2]).isCloseTo(1, within(1e-6f));
    assertThat(found[3]).isCloseTo(s, within(1e-6f));
    assertThat(found[5]).isCloseTo(s, within(1e-6f));
    assertThat(found[9]).isCloseTo(-s, within(1e-6f));
  }
}
