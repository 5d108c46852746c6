package ferry.stone.core.geometry;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;

/** Solids with known measures. */
public final class Solids {
  private Solids() {}

  /** A closed box of six quads, counter-clockwise from outside. */
  public static PolygonMesh box(double x, double y, double z) {
    float[] p = new float[24];
    for (int i = 0; i < 8; i++) {
      p[3 * i] = (float) ((i & 1) == 0 ? 0 : x);
      p[3 * i + 1] = (float) ((i & 2) == 0 ? 0 : y);
      p[3 * i + 2] = (float) ((i & 4) == 0 ? 0 : z);
    }
    int[] c = {0, 2, 3, 1, 4, 5, 7, 6, 0, 1, 5, 4, 2, 6, 7, 3, 0, 4, 6, 2, 1, 3, 7, 5};
    return PolygonMesh.of(
        1, "box", Coordinates.of(p), Polygons.of(c, new int[] {0, 4, 8, 12, 16, 20, 24}));
  }

  /** A ring of a round bar: n by m quads. */
  public static PolygonMesh torus(int n, int m, double ring, double bar) {
    float[] p = new float[3 * n * m];
    int[] c = new int[4 * n * m];
    int[] offsets = new int[n * m + 1];
    for (int i = 0; i < n; i++) {
      for (int j = 0; j < m; j++) {
        double a = 2 * Math.PI * i / n;
        double b = 2 * Math.PI * j / m;
        int v = i * m + j;
        p[3 * v] = (float) ((ring + bar * Math.cos(b)) * Math.cos(a));
        p[3 * v + 1] = (float) ((ring + bar * Math.cos(b)) * Math.sin(a));
        p[3 * v + 2] = (float) (bar * Math.sin(b));
        int ni = (i + 1) % n;
        int nj = (j + 1) % m;
        int[] quad = {v, ni * m + j, ni * m + nj, i * m + nj};
        System.arraycopy(quad, 0, c, 4 * v, 4);
        offsets[v + 1] = 4 * (v + 1);
      }
    }
    return PolygonMesh.of(2, "torus", Coordinates.of(p), Polygons.of(c, offsets));
  }

  public static PolygonMesh polygon(double... xy) {
    int n = xy.length / 2;
    float[] p = new float[3 * n];
    int[] c = new int[n];
    for (int i = 0; i < n; i++) {
      p[3 * i] = (float) xy[2 * i];
      p[3 * i + 1] = (float) xy[2 * i + 1];
      c[i] = i;
    }
    return PolygonMesh.of(3, "polygon", Coordinates.of(p), Polygons.of(c, new int[] {0, n}));
  }
}
