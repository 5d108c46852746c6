package ferry.stone.core.geometry.uv;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Random;
import org.junit.jupiter.api.Test;

class UvOverlapTest {
  private static final int GRID = 1024;

  /** As in the class: where in its square of the grid a point is looked at. */
  private static final double SHIFT = 0.3819660112501051;

  /** Triangles of their own vertices whose UVs are given, with a corner at 0, 0 and one at 1, 1. */
  private static PolygonMesh mesh(float[] uvs) {
    int n = uvs.length / 2;
    int[] corners = new int[n];
    for (int c = 0; c < n; c++) {
      corners[c] = c;
    }
    Attribute uv =
        new Attribute("uv", Attribute.Semantic.UV, Attribute.Domain.CORNER, 2, uvs, corners);
    return PolygonMesh.of(1, "m", Coordinates.of(new float[3 * n]), Polygons.triangles(corners))
        .withAttributes(java.util.List.of(uv));
  }

  private static UvOverlap overlap(float[] uvs) {
    PolygonMesh mesh = mesh(uvs);
    return UvOverlap.of(mesh, mesh.first(Attribute.Semantic.UV).orElseThrow());
  }

  /** A square of so many squares a side, each of two triangles. */
  private static float[] sheet(int side) {
    float[] uvs = new float[12 * side * side];
    int at = 0;
    for (int y = 0; y < side; y++) {
      for (int x = 0; x < side; x++) {
        for (int corner : new int[] {0, 1, 2, 1, 3, 2}) {
          uvs[at++] = (x + corner % 2) / (float) side;
          uvs[at++] = (y + corner / 2) / (float) side;
        }
      }
    }
    return uvs;
  }

  @Test
  void triangleBesideTriangleCoversAllAndNothingTwice() {
    // From triangles of many columns of the grid to such that lie between its points.
    for (int side : new int[] {1, 3, 100, 341, 700, 1500}) {
      UvOverlap overlap = overlap(sheet(side));
      assertTrue(overlap.part() < 1e-5, side + ": " + overlap.part());
    }
  }

  @Test
  void whatLiesThereTwiceIsToldWithItsFaces() {
    for (int side : new int[] {2, 300, 900}) {
      float[] once = sheet(side);
      float[] twice = java.util.Arrays.copyOf(once, 2 * once.length);
      System.arraycopy(once, 0, twice, once.length, once.length);
      UvOverlap overlap = overlap(twice);
      assertEquals(1, overlap.part(), 1e-6);
      // Those of the second sheet that have a point of the grid in them.
      int second = 2 * side * side;
      for (int i = 0; i < overlap.faces().size(); i++) {
        assertTrue(overlap.faces().get(i) >= second);
      }
    }
  }

  @Test
  void trianglesOfAllSizesCoverThePointsInsideThem() {
    for (int seed = 0; seed < 6; seed++) {
      Random random = new Random(seed);
      float[] uvs = new float[6 * 200];
      for (int t = 0; t < 200; t++) {
        float size = (float) Math.pow(10, -1 - 2.5 * random.nextDouble());
        float u = random.nextFloat() * (1 - size);
        float v = random.nextFloat() * (1 - size);
        for (int k = 0; k < 6; k += 2) {
          uvs[6 * t + k] = u + random.nextFloat() * size;
          uvs[6 * t + k + 1] = v + random.nextFloat() * size;
        }
      }
      System.arraycopy(new float[] {0, 0, 0.001f, 0, 0, 0.001f}, 0, uvs, 0, 6);
      System.arraycopy(new float[] {1, 1, 0.999f, 1, 1, 0.999f}, 0, uvs, 6, 6);
      assertEquals(expected(uvs), overlap(uvs).part(), 2e-4, "seed " + seed);
    }
  }

  /** Each point of the grid held against each triangle. */
  private static double expected(float[] uvs) {
    int[] times = new int[GRID * GRID];
    for (int t = 0; t < uvs.length; t += 6) {
      double area = side(uvs, t, 0, 2, uvs[t + 4], uvs[t + 5]);
      int[] box = box(uvs, t);
      for (int y = box[1]; y < box[3]; y++) {
        for (int x = box[0]; x < box[2]; x++) {
          double u = (x + SHIFT) / GRID;
          double v = (y + SHIFT) / GRID;
          boolean inside = true;
          for (int k = 0; k < 6 && inside; k += 2) {
            inside = Math.signum(area) * side(uvs, t, k, (k + 2) % 6, u, v) > 0;
          }
          times[y * GRID + x] += inside ? 1 : 0;
        }
      }
    }
    long covered = java.util.Arrays.stream(times).filter(n -> n > 0).count();
    return (double) java.util.Arrays.stream(times).filter(n -> n > 1).count() / covered;
  }

  /** Points of the grid around a triangle. */
  private static int[] box(float[] uvs, int t) {
    int[] box = {GRID, GRID, 0, 0};
    for (int k = 0; k < 6; k++) {
      int place = (int) (GRID * uvs[t + k]);
      box[k % 2] = Math.max(0, Math.min(box[k % 2], place - 1));
      box[2 + k % 2] = Math.min(GRID, Math.max(box[2 + k % 2], place + 2));
    }
    return box;
  }

  /** Twice the area of an edge and a point: above 0 on one side of the edge. */
  private static double side(float[] uvs, int t, int a, int b, double u, double v) {
    double ux = uvs[t + b] - (double) uvs[t + a];
    double uy = uvs[t + b + 1] - (double) uvs[t + a + 1];
    return ux * (v - uvs[t + a + 1]) - uy * (u - uvs[t + a]);
  }
}
