package ferry.stone.core.geometry.triangle;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.Polygons;
import org.joml.Vector3d;

/**
 * Cuts polygons into triangles without new vertices; concave polygons keep their shape.
 *
 * <p>Ear clipping (Meisters 1975, "Polygons have ears") in the plane of the polygon's Newell normal
 * (Sutherland, Sproull and Schumacker 1974). A quad is cut along the diagonal that keeps both
 * halves facing the polygon's side; if both do, along 0–2. From {@value #LARGE} corners on {@link
 * MonotoneCut} is used, so that time is O(n log n) for a polygon of n corners. A polygon without
 * area, or one that crosses itself so that no ear is left, is cut as a fan, and so is one of more
 * than {@value #LARGE_TOUCHING} corners that crosses or touches itself; every polygon gives n − 2
 * triangles.
 */
public final class Triangulation {
  /** Corners from which ear clipping would take too long. */
  static final int LARGE = 400;

  /** Up to here one that touches itself is clipped all the same. */
  private static final int LARGE_TOUCHING = 3000;

  private final Coordinates points;
  private double[] px = new double[16];
  private double[] py = new double[16];
  private int[] ring = new int[16];
  private final Vector3d normal = new Vector3d();

  public Triangulation(Coordinates points) {
    this.points = points;
  }

  /**
   * @param out receives corner indices of the mesh, three a triangle
   * @param at first free place in {@code out}
   * @return the place after the last one written
   */
  public int cut(Polygons faces, int face, int[] out, int at) {
    int start = faces.start(face);
    int n = faces.end(face) - start;
    if (n < 3) {
      return at;
    }
    if (n == 3) {
      return put(out, at, start, start + 1, start + 2);
    }
    flatten(faces, start, n);
    if (n == 4) {
      boolean first = turns(0, 1, 2) > 0 && turns(0, 2, 3) > 0;
      boolean second = turns(1, 2, 3) > 0 && turns(1, 3, 0) > 0;
      if (!first && second) {
        return put(out, put(out, at, start + 1, start + 2, start + 3), start + 1, start + 3, start);
      }
      return put(out, put(out, at, start, start + 1, start + 2), start, start + 2, start + 3);
    }
    return n < LARGE ? clip(start, n, out, at) : large(start, n, out, at);
  }

  private int large(int start, int n, int[] out, int at) {
    int[] cut = MonotoneCut.of(px, py, n);
    if (cut == null && n <= LARGE_TOUCHING) {
      // As a face whose outline runs to its holes and back.
      return clip(start, n, out, at);
    }
    int place = at;
    for (int i = 0; i < n - 2; i++) {
      place =
          cut == null
              ? put(out, place, start, start + i + 1, start + i + 2)
              : put(out, place, start + cut[3 * i], start + cut[3 * i + 1], start + cut[3 * i + 2]);
    }
    return place;
  }

  private int clip(int start, int n, int[] out, int at) {
    for (int i = 0; i < n; i++) {
      ring[i] = i;
    }
    int left = n;
    int place = at;
    int i = 0;
    int misses = 0;
    while (left > 3) {
      int a = ring[(i + left - 1) % left];
      int b = ring[i % left];
      int c = ring[(i + 1) % left];
      // After a whole round without an ear only degenerate shapes are left: clip anything.
      if (misses >= left || isEar(a, b, c, left)) {
        place = put(out, place, start + a, start + b, start + c);
        int gone = i % left;
        System.arraycopy(ring, gone + 1, ring, gone, left - gone - 1);
        left--;
        i = gone % left;
        misses = 0;
      } else {
        i = (i + 1) % left;
        misses++;
      }
    }
    return put(out, place, start + ring[0], start + ring[1], start + ring[2]);
  }

  private boolean isEar(int a, int b, int c, int left) {
    if (turns(a, b, c) <= 0) {
      return false;
    }
    for (int k = 0; k < left; k++) {
      int p = ring[k];
      if (p != a && p != b && p != c && inside(p, a, b, c)) {
        return false;
      }
    }
    return true;
  }

  /** Whether p lies in the closed triangle and not on one of its corners. */
  private boolean inside(int p, int a, int b, int c) {
    if (same(p, a) || same(p, b) || same(p, c)) {
      return false;
    }
    return turns(a, b, p) >= 0 && turns(b, c, p) >= 0 && turns(c, a, p) >= 0;
  }

  private boolean same(int p, int q) {
    return px[p] == px[q] && py[p] == py[q];
  }

  /** Twice the signed area: above 0 when a, b, c turn counter-clockwise. */
  private double turns(int a, int b, int c) {
    return (px[b] - px[a]) * (py[c] - py[a]) - (py[b] - py[a]) * (px[c] - px[a]);
  }

  private void flatten(Polygons faces, int start, int n) {
    if (px.length < n) {
      px = new double[n * 2];
      py = new double[n * 2];
      ring = new int[n * 2];
    }
    newell(points, faces, start, n, normal);
    // Drop the axis the polygon faces most; the sign keeps the turning direction.
    int dropped = normal.maxComponent();
    int u = (dropped + 1) % 3;
    int v = (dropped + 2) % 3;
    double flip = normal.get(dropped) < 0 ? -1 : 1;
    for (int i = 0; i < n; i++) {
      int vertex = faces.vertex(start + i);
      px[i] = flip * points.at(3 * vertex + u);
      py[i] = points.at(3 * vertex + v);
    }
  }

  /** The polygon's area vector times two, after Newell; zero for one without area. */
  public static Vector3d newell(
      Coordinates points, Polygons faces, int start, int n, Vector3d result) {
    double nx = 0;
    double ny = 0;
    double nz = 0;
    // Relative to the first corner, so that a far place does not swallow the digits.
    int first = faces.vertex(start);
    double ox = points.x(first);
    double oy = points.y(first);
    double oz = points.z(first);
    if (n == 3) {
      int second = faces.vertex(start + 1);
      int third = faces.vertex(start + 2);
      double ux = points.x(second) - ox;
      double uy = points.y(second) - oy;
      double uz = points.z(second) - oz;
      double vx = points.x(third) - ox;
      double vy = points.y(third) - oy;
      double vz = points.z(third) - oz;
      return result.set(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
    }
    int from = faces.vertex(start + n - 1);
    double ax = points.x(from) - ox;
    double ay = points.y(from) - oy;
    double az = points.z(from) - oz;
    for (int i = 0; i < n; i++) {
      int to = faces.vertex(start + i);
      double bx = points.x(to) - ox;
      double by = points.y(to) - oy;
      double bz = points.z(to) - oz;
      nx += (ay - by) * (az + bz);
      ny += (az - bz) * (ax + bx);
      nz += (ax - bx) * (ay + by);
      ax = bx;
      ay = by;
      az = bz;
    }
    return result.set(nx, ny, nz);
  }

  private static int put(int[] out, int at, int a, int b, int c) {
    out[at] = a;
    out[at + 1] = b;
    out[at + 2] = c;
    return at + 3;
  }
}
