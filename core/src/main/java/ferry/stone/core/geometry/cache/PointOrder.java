package ferry.stone.core.geometry.cache;

import ferry.stone.core.scene.mesh.Coordinates;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Whether points that lie where a mesh's do stand in another order. Found over all axis frames and
 * ratios of units by what does not ask for the order: where each point has one of the mesh.
 *
 * @param source point of the cache for each vertex
 * @param first vertex whose point is not the one of its number
 * @param frame numbers of the cache to those of the mesh
 */
public record PointOrder(int[] source, int first, Matrix4d frame) {
  /** A part of the diagonal within which two points are one. */
  private static final double NEAR = 1e-4;

  /**
   * @param cache points of a sample, {@code float[3*n]}
   * @return {@code null} where the points lie elsewhere
   */
  public static PointOrder of(float[] cache, Coordinates mesh) {
    double near = NEAR * mesh.bounds().diagonal();
    if (mesh.count() * 3 != cache.length || !(near > 0)) {
      return null;
    }
    Map<Long, int[]> cells = cells(mesh, near);
    for (AxisFrame axes : AxisFrame.ALL) {
      for (double scale : UnitRatios.ALL) {
        Matrix4d frame = axes.matrix(scale);
        if (mayFit(cache, frame, cells, near, mesh)) {
          int[] source = matched(cache, frame, cells, near, mesh);
          if (source != null) {
            return new PointOrder(source, first(source), frame);
          }
        }
      }
    }
    return null;
  }

  private static int first(int[] source) {
    for (int v = 0; v < source.length; v++) {
      if (source[v] != v) {
        return v;
      }
    }
    return -1;
  }

  private static long cell(double x, double y, double z, double near) {
    long a = (long) Math.floor(x / (2 * near));
    long b = (long) Math.floor(y / (2 * near));
    long c = (long) Math.floor(z / (2 * near));
    return (a * 73_856_093L) ^ (b * 19_349_663L) ^ (c * 83_492_791L);
  }

  private static Map<Long, int[]> cells(Coordinates mesh, double near) {
    Map<Long, int[]> cells = new HashMap<>();
    for (int v = 0; v < mesh.count(); v++) {
      long cell = cell(mesh.x(v), mesh.y(v), mesh.z(v), near);
      int[] there = cells.get(cell);
      int[] more = there == null ? new int[1] : Arrays.copyOf(there, there.length + 1);
      more[more.length - 1] = v;
      cells.put(cell, more);
    }
    return cells;
  }

  /** Whether a few points have one of the mesh beside them: most frames end here. */
  private static boolean mayFit(
      float[] cache, Matrix4d frame, Map<Long, int[]> cells, double near, Coordinates mesh) {
    int count = cache.length / 3;
    Vector3d p = new Vector3d();
    for (int k = 0; k < 16; k++) {
      int i = (int) ((long) k * (count - 1) / 15);
      frame.transformPosition(p.set(cache[3 * i], cache[3 * i + 1], cache[3 * i + 2]));
      if (beside(p, cells, near, mesh, null) < 0) {
        return false;
      }
    }
    return true;
  }

  private static int[] matched(
      float[] cache, Matrix4d frame, Map<Long, int[]> cells, double near, Coordinates mesh) {
    int[] source = new int[mesh.count()];
    Arrays.fill(source, -1);
    Vector3d p = new Vector3d();
    for (int i = 0; i < source.length; i++) {
      frame.transformPosition(p.set(cache[3 * i], cache[3 * i + 1], cache[3 * i + 2]));
      // Where several vertices stand at one place, its own number goes first.
      boolean own = source[i] < 0 && p.distance(mesh.x(i), mesh.y(i), mesh.z(i)) <= near;
      int vertex = own ? i : beside(p, cells, near, mesh, source);
      if (vertex < 0) {
        return null;
      }
      source[vertex] = i;
    }
    return source;
  }

  private static int beside(
      Vector3d p, Map<Long, int[]> cells, double near, Coordinates mesh, int[] taken) {
    for (int n = 0; n < 8; n++) {
      double x = p.x + ((n & 1) == 0 ? -near : near);
      double y = p.y + ((n & 2) == 0 ? -near : near);
      double z = p.z + ((n & 4) == 0 ? -near : near);
      int[] there = cells.get(cell(x, y, z, near));
      for (int k = 0; there != null && k < there.length; k++) {
        int v = there[k];
        if ((taken == null || taken[v] < 0)
            && p.distance(mesh.x(v), mesh.y(v), mesh.z(v)) <= near) {
          return v;
        }
      }
    }
    return -1;
  }
}
