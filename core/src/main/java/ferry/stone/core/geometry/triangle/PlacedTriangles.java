package ferry.stone.core.geometry.triangle;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Arrays;
import org.joml.Matrix4dc;

/** The triangles of a mesh where it stands: points that are shared, and three for each triangle. */
public final class PlacedTriangles {
  private final double[] points;
  private final int[] corners;

  private PlacedTriangles(double[] points, int[] corners) {
    this.points = points;
    this.corners = corners;
  }

  public static PlacedTriangles of(PolygonMesh mesh, Matrix4dc world) {
    return new PlacedTriangles(mesh.points().placed(world), corners(mesh.points(), mesh.faces()));
  }

  private static int[] corners(Coordinates points, Polygons faces) {
    if (faces.allTriangles()) {
      return faces.vertices();
    }
    int[] out = new int[Math.toIntExact(3 * faces.triangleCount())];
    Triangulation triangulation = new Triangulation(points);
    int to = 0;
    for (int f = 0; f < faces.faceCount(); f++) {
      to = triangulation.cut(faces, f, out, to);
    }
    for (int i = 0; i < to; i++) {
      out[i] = faces.vertex(out[i]);
    }
    return to == out.length ? out : Arrays.copyOf(out, to);
  }

  public int count() {
    return corners.length / 3;
  }

  /** {@code double[9*t]}: x, y and z of each corner. */
  public double[] apart() {
    double[] all = new double[3 * corners.length];
    for (int i = 0; i < corners.length; i++) {
      System.arraycopy(points, 3 * corners[i], all, 3 * i, 3);
    }
    return all;
  }

  /** Those that lie nowhere do not count. */
  public double area() {
    double sum = 0;
    for (int i = 0; i < corners.length; i += 3) {
      int a = 3 * corners[i];
      int b = 3 * corners[i + 1];
      int c = 3 * corners[i + 2];
      double ux = points[b] - points[a];
      double uy = points[b + 1] - points[a + 1];
      double uz = points[b + 2] - points[a + 2];
      double vx = points[c] - points[a];
      double vy = points[c + 1] - points[a + 1];
      double vz = points[c + 2] - points[a + 2];
      double nx = uy * vz - uz * vy;
      double ny = uz * vx - ux * vz;
      double nz = ux * vy - uy * vx;
      double twice = Math.sqrt(nx * nx + ny * ny + nz * nz);
      sum += Double.isFinite(twice) ? twice / 2 : 0;
    }
    return sum;
  }

  /**
   * Half of the lengths of all sides of all triangles: a triangle's area changes by at most that
   * much for each unit that its corners move.
   */
  public double halfEdges() {
    double sum = 0;
    for (int i = 0; i < corners.length; i += 3) {
      sum += half(corners[i], corners[i + 1]);
      sum += half(corners[i + 1], corners[i + 2]);
      sum += half(corners[i + 2], corners[i]);
    }
    return sum;
  }

  /** Half of a side's length. */
  private double half(int v, int w) {
    double length = Math.sqrt(squared(points, v, points, w));
    return Double.isFinite(length) ? length / 2 : 0;
  }

  private static double squared(double[] p, int v, double[] q, int w) {
    double dx = p[3 * v] - q[3 * w];
    double dy = p[3 * v + 1] - q[3 * w + 1];
    double dz = p[3 * v + 2] - q[3 * w + 2];
    return dx * dx + dy * dy + dz * dz;
  }

  /** Whether these are the same numbers, all of them somewhere. */
  public boolean isSame(PlacedTriangles other) {
    return Arrays.equals(corners, other.corners)
        && Arrays.equals(points, other.points)
        && isFinite();
  }

  /** Whether all points are somewhere. */
  public boolean isFinite() {
    double sum = 0;
    for (double p : points) {
      // No number for what is infinite or no number, 0 for all else.
      sum += p - p;
    }
    return sum == 0;
  }

  /**
   * How far corners of the same place in both lists lie apart at most, which no point of either
   * surface lies farther from the other; infinite for lists of other triangles.
   */
  public double apart(PlacedTriangles other) {
    if (corners.length != other.corners.length) {
      return Double.POSITIVE_INFINITY;
    }
    if (Arrays.equals(corners, other.corners) && points.length == other.points.length) {
      double shared = most(points, other.points);
      if (shared < Double.POSITIVE_INFINITY) {
        return Math.sqrt(shared);
      }
      // Points that no triangle uses do not count.
    }
    double most = 0;
    for (int i = 0; i < corners.length && most < Double.POSITIVE_INFINITY; i++) {
      most = larger(most, squared(points, corners[i], other.points, other.corners[i]));
    }
    return Math.sqrt(most);
  }

  private static double most(double[] p, double[] q) {
    double most = 0;
    for (int v = 0; 3 * v < p.length && most < Double.POSITIVE_INFINITY; v++) {
      most = larger(most, squared(p, v, q, v));
    }
    return most;
  }

  /** What is nowhere has no distance. */
  private static double larger(double most, double squared) {
    return squared >= 0 ? Math.max(most, squared) : Double.POSITIVE_INFINITY;
  }
}
