package ferry.stone.demo;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.List;

/** Collects quads and polygons with UVs; Z is up and numbers are centimetres unless said. */
final class Shape {
  private final FloatList points = new FloatList(300);
  private final FloatList uvs = new FloatList(200);
  private final IntList corners = new IntList(300);
  private final IntList uvCorners = new IntList(300);
  private final IntList offsets = new IntList(100);

  Shape() {
    offsets.add(0);
  }

  int point(double x, double y, double z) {
    points.add((float) x);
    points.add((float) y);
    points.add((float) z);
    return points.size() / 3 - 1;
  }

  int uv(double u, double v) {
    uvs.add((float) u);
    uvs.add((float) v);
    return uvs.size() / 2 - 1;
  }

  /** A face of alternating point and UV indices. */
  void face(int... pointsAndUvs) {
    for (int i = 0; i < pointsAndUvs.length; i += 2) {
      corners.add(pointsAndUvs[i]);
      uvCorners.add(pointsAndUvs[i + 1]);
    }
    offsets.add(corners.size());
  }

  /**
   * Turns a profile of (radius, height) pairs about Z; a radius of 0 closes to a point.
   *
   * @param seam whether the first and last meridian keep vertices of their own, unwelded
   */
  Shape lathe(double cx, double cy, int sides, boolean seam, double... profile) {
    int rings = profile.length / 2;
    int columns = seam ? sides + 1 : sides;
    int[][] ring = new int[rings][];
    double length = 0;
    double[] along = new double[rings];
    for (int r = 0; r < rings; r++) {
      if (r > 0) {
        length +=
            Math.hypot(
                profile[2 * r] - profile[2 * r - 2], profile[2 * r + 1] - profile[2 * r - 1]);
      }
      along[r] = length;
      boolean pole = profile[2 * r] == 0;
      ring[r] = new int[pole ? 1 : columns];
      for (int s = 0; s < ring[r].length; s++) {
        double angle = 2 * Math.PI * (s % sides) / sides;
        ring[r][s] =
            point(
                cx + profile[2 * r] * Math.cos(angle),
                cy + profile[2 * r] * Math.sin(angle),
                profile[2 * r + 1]);
      }
    }
    int[][] uvGrid = new int[rings][sides + 1];
    for (int r = 0; r < rings; r++) {
      for (int s = 0; s <= sides; s++) {
        uvGrid[r][s] = uv((double) s / sides, along[r] / length);
      }
    }
    bands(ring, uvGrid, sides, seam);
    return this;
  }

  /** Faces between rings; a ring of one point closes the shape. */
  private void bands(int[][] ring, int[][] uvGrid, int sides, boolean seam) {
    for (int r = 0; r + 1 < ring.length; r++) {
      for (int s = 0; s < sides; s++) {
        int t = seam ? s + 1 : (s + 1) % sides;
        if (ring[r].length == 1) {
          face(
              ring[r][0],
              uvGrid[r][s],
              ring[r + 1][t],
              uvGrid[r + 1][s + 1],
              ring[r + 1][s],
              uvGrid[r + 1][s]);
        } else if (ring[r + 1].length == 1) {
          face(
              ring[r][s],
              uvGrid[r][s],
              ring[r][t],
              uvGrid[r][s + 1],
              ring[r + 1][0],
              uvGrid[r + 1][s]);
        } else {
          face(
              ring[r][s],
              uvGrid[r][s],
              ring[r][t],
              uvGrid[r][s + 1],
              ring[r + 1][t],
              uvGrid[r + 1][s + 1],
              ring[r + 1][s],
              uvGrid[r + 1][s]);
        }
      }
    }
  }

  /** A box from corner to corner, each side filling the UV square. */
  Shape box(double x0, double y0, double z0, double x1, double y1, double z1) {
    int[] p = new int[8];
    for (int i = 0; i < 8; i++) {
      p[i] = point((i & 1) == 0 ? x0 : x1, (i & 2) == 0 ? y0 : y1, (i & 4) == 0 ? z0 : z1);
    }
    int[] t = {uv(0, 0), uv(1, 0), uv(1, 1), uv(0, 1)};
    int[][] sides = {
      {0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}
    };
    for (int[] s : sides) {
      face(p[s[0]], t[0], p[s[1]], t[1], p[s[2]], t[2], p[s[3]], t[3]);
    }
    return this;
  }

  /** A ring of a round bar about Z. */
  Shape torus(double cz, double ringRadius, double barRadius, int sides, int barSides) {
    int[][] p = new int[sides][barSides];
    for (int i = 0; i < sides; i++) {
      double a = 2 * Math.PI * i / sides;
      for (int j = 0; j < barSides; j++) {
        double b = 2 * Math.PI * j / barSides;
        double r = ringRadius + barRadius * Math.cos(b);
        p[i][j] = point(r * Math.cos(a), r * Math.sin(a), cz + barRadius * Math.sin(b));
      }
    }
    int[][] t = new int[sides + 1][barSides + 1];
    for (int i = 0; i <= sides; i++) {
      for (int j = 0; j <= barSides; j++) {
        t[i][j] = uv(12.0 * i / sides, (double) j / barSides);
      }
    }
    for (int i = 0; i < sides; i++) {
      for (int j = 0; j < barSides; j++) {
        int k = (i + 1) % sides;
        int l = (j + 1) % barSides;
        face(
            p[i][j], t[i][j], p[k][j], t[i + 1][j], p[k][l], t[i + 1][j + 1], p[i][l], t[i][j + 1]);
      }
    }
    return this;
  }

  PolygonMesh build(int id, String name, int... materialIds) {
    return PolygonMesh.of(
            id,
            name,
            Coordinates.of(points.toArray()),
            Polygons.of(corners.toArray(), offsets.toArray()))
        .withAttributes(
            List.of(
                new Attribute(
                    "uv", Semantic.UV, Domain.CORNER, 2, uvs.toArray(), uvCorners.toArray())))
        .toBuilder()
        .materials(materialIds, null)
        .build();
  }

  int faceCount() {
    return offsets.size() - 1;
  }
}
