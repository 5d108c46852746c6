package ferry.stone.core.geometry.uv;

import ferry.stone.core.geometry.mesh.EqualValues;
import ferry.stone.core.math.IntList;
import java.util.Arrays;

/**
 * Tangents of triangles as Mikkelsen's method defines them: "Simulation of wrinkled surfaces
 * revisited", 2008, with the grouping rules of the reference implementation of 2011 (public,
 * mikktspace; written anew here from its description, held against its results).
 *
 * <p>Corners with the same position, normal and UV are one vertex. Around a vertex, triangles that
 * share an edge and wind the same way in the UVs make a group; a triangle without UV area joins the
 * first group that meets it. A group's tangent is the mean of its triangles' tangents, each laid
 * into the plane of the normal and weighed by its angle there. The sign says whether the UVs wind
 * as the surface does. Corners in no group get +X and −1, as there.
 *
 * <p>The reference's threshold of 180° is used, so that only opposite tangents are kept apart.
 *
 * <p>Time O(c log c) for c corners.
 */
public final class TangentSpace {
  private static final float SMALLEST = Float.MIN_NORMAL;

  /** Numbers of a tangent: x, y, z and the side of the bitangent, 1 or −1. */
  public static final int COMPONENTS = 4;

  private final float[] positions;
  private final float[] normals;
  private final float[] uvs;
  private final boolean fromTop;
  private final int[] indices;
  private final int triangles;
  private final int[] vertex;
  private final int[] neighbour;
  private final boolean[] preserving;
  private final boolean[] withAny;
  private final boolean[] degenerate;
  private final double[] across;
  private final int[] group;
  private final double[] edge = new double[3];
  private final double[] one = new double[3];
  private final double[] two = new double[3];
  private final IntList groupVertex = new IntList(64);
  private final IntList groupSide = new IntList(64);

  private TangentSpace(
      float[] positions, float[] normals, float[] uvs, boolean fromTop, int[] indices) {
    this.positions = positions;
    this.normals = normals;
    this.uvs = uvs;
    this.fromTop = fromTop;
    this.indices = indices;
    triangles = indices.length / 3;
    vertex = new int[indices.length];
    neighbour = new int[indices.length];
    preserving = new boolean[triangles];
    withAny = new boolean[triangles];
    degenerate = new boolean[triangles];
    across = new double[3 * triangles];
    group = new int[indices.length];
  }

  /**
   * @param positions {@code float[3*n]}
   * @param normals {@code float[3*n]} of length 1
   * @param uvs {@code float[2*n]}
   * @param fromTop whether V is counted from the top of the image
   * @param indices {@code int[3*t]}
   * @return {@code float[4*3*t]}, a tangent for each corner; the bitangent is the cross product of
   *     normal and tangent times the fourth number and points to the top of the image
   */
  public static float[] of(
      float[] positions, float[] normals, float[] uvs, boolean fromTop, int[] indices) {
    TangentSpace work = new TangentSpace(positions, normals, uvs, fromTop, indices);
    work.weld();
    work.measure();
    work.meet();
    work.join();
    return work.tangents();
  }

  /** One number for all corners that are alike in position, normal and UV. */
  private void weld() {
    int n = positions.length / 3;
    float[] keys = new float[8 * n];
    for (int v = 0; v < n; v++) {
      System.arraycopy(positions, 3 * v, keys, 8 * v, 3);
      System.arraycopy(normals, 3 * v, keys, 8 * v + 3, 3);
      System.arraycopy(uvs, 2 * v, keys, 8 * v + 6, 2);
    }
    int[] first = EqualValues.firstOfEach(keys, 8);
    for (int c = 0; c < vertex.length; c++) {
      vertex[c] = first[indices[c]];
    }
  }

  private void measure() {
    Arrays.fill(group, -1);
    for (int t = 0; t < triangles; t++) {
      int a = vertex[3 * t];
      int b = vertex[3 * t + 1];
      int c = vertex[3 * t + 2];
      degenerate[t] = same(a, b) || same(a, c) || same(b, c);
      double sign = fromTop ? -1 : 1;
      double u1 = (double) uvs[2 * b] - uvs[2 * a];
      double v1 = sign * ((double) uvs[2 * b + 1] - uvs[2 * a + 1]);
      double u2 = (double) uvs[2 * c] - uvs[2 * a];
      double v2 = sign * ((double) uvs[2 * c + 1] - uvs[2 * a + 1]);
      double area = u1 * v2 - v1 * u2;
      preserving[t] = area > 0;
      double length = 0;
      double other = 0;
      for (int k = 0; k < 3; k++) {
        double d1 = (double) positions[3 * b + k] - positions[3 * a + k];
        double d2 = (double) positions[3 * c + k] - positions[3 * a + k];
        across[3 * t + k] = v2 * d1 - v1 * d2;
        double up = -u2 * d1 + u1 * d2;
        length += across[3 * t + k] * across[3 * t + k];
        other += up * up;
      }
      length = Math.sqrt(length);
      other = Math.sqrt(other);
      double size = Math.abs(area);
      withAny[t] = !(size > SMALLEST && length / size > SMALLEST && other / size > SMALLEST);
      if (size > SMALLEST && length > SMALLEST) {
        for (int k = 0; k < 3; k++) {
          across[3 * t + k] *= (preserving[t] ? 1 : -1) / length;
        }
      }
    }
  }

  private boolean same(int a, int b) {
    return positions[3 * a] == positions[3 * b]
        && positions[3 * a + 1] == positions[3 * b + 1]
        && positions[3 * a + 2] == positions[3 * b + 2];
  }

  /** Finds the triangle beyond each edge: the same two vertices, run through the other way. */
  private void meet() {
    Arrays.fill(neighbour, -1);
    long[] edges = new long[indices.length];
    int count = 0;
    for (int t = 0; t < triangles; t++) {
      for (int k = 0; k < 3 && !degenerate[t]; k++) {
        edges[count++] = 3L * t + k;
      }
    }
    int[] order = new int[count];
    long[] keys = new long[count];
    for (int i = 0; i < count; i++) {
      int corner = (int) edges[i];
      int a = vertex[corner];
      int b = vertex[next(corner)];
      keys[i] = (long) Math.min(a, b) << 32 | Math.max(a, b);
      order[i] = corner;
    }
    sort(keys, order);
    for (int i = 0; i < count; i++) {
      int one = order[i];
      for (int j = i + 1; j < count && keys[j] == keys[i] && neighbour[one] < 0; j++) {
        int two = order[j];
        if (neighbour[two] < 0
            && vertex[one] == vertex[next(two)]
            && vertex[next(one)] == vertex[two]) {
          neighbour[one] = two / 3;
          neighbour[two] = one / 3;
        }
      }
    }
  }

  /** Sorts keys with their corners; corners of one key stay in rising order. */
  private static void sort(long[] keys, int[] corners) {
    // Stable radix sort, 16 bits a pass.
    long[] otherKeys = new long[keys.length];
    int[] otherCorners = new int[keys.length];
    for (int shift = 0; shift < 64; shift += 16) {
      int[] starts = new int[(1 << 16) + 1];
      for (long key : keys) {
        starts[(int) (key >>> shift & 0xffff) + 1]++;
      }
      for (int i = 0; i < 1 << 16; i++) {
        starts[i + 1] += starts[i];
      }
      for (int i = 0; i < keys.length; i++) {
        int to = starts[(int) (keys[i] >>> shift & 0xffff)]++;
        otherKeys[to] = keys[i];
        otherCorners[to] = corners[i];
      }
      System.arraycopy(otherKeys, 0, keys, 0, keys.length);
      System.arraycopy(otherCorners, 0, corners, 0, keys.length);
    }
  }

  private static int next(int corner) {
    return corner % 3 == 2 ? corner - 2 : corner + 1;
  }

  private static int previous(int corner) {
    return corner % 3 == 0 ? corner + 2 : corner - 1;
  }

  /** Groups of corners around each vertex. */
  private void join() {
    IntList open = new IntList(64);
    for (int t = 0; t < triangles; t++) {
      for (int k = 0; k < 3 && !degenerate[t] && !withAny[t]; k++) {
        int corner = 3 * t + k;
        if (group[corner] >= 0) {
          continue;
        }
        int made = groupVertex.size();
        groupVertex.add(vertex[corner]);
        groupSide.add(preserving[t] ? 1 : 0);
        group[corner] = made;
        spread(open, corner);
        while (open.size() > 0) {
          take(open, open.removeLast(), made);
        }
      }
    }
  }

  private void spread(IntList open, int corner) {
    int right = neighbour[previous(corner)];
    int left = neighbour[corner];
    // The last one pushed is taken first: left before right, as the reference goes.
    if (right >= 0) {
      open.add(right);
    }
    if (left >= 0) {
      open.add(left);
    }
  }

  private void take(IntList open, int triangle, int made) {
    int corner = 3 * triangle;
    while (vertex[corner] != groupVertex.get(made)) {
      corner++;
    }
    if (group[corner] >= 0) {
      return;
    }
    if (withAny[triangle]
        && group[3 * triangle] < 0
        && group[3 * triangle + 1] < 0
        && group[3 * triangle + 2] < 0) {
      preserving[triangle] = groupSide.get(made) == 1;
    }
    if (preserving[triangle] != (groupSide.get(made) == 1)) {
      return;
    }
    group[corner] = made;
    spread(open, corner);
  }

  private float[] tangents() {
    double[] sums = new double[3 * groupVertex.size()];
    double[] own = new double[3];
    for (int c = 0; c < group.length; c++) {
      if (group[c] >= 0 && !withAny[c / 3] && laid(across, 3 * (c / 3), vertex[c], own)) {
        double angle = angle(c);
        for (int k = 0; k < 3; k++) {
          sums[3 * group[c] + k] += angle * own[k];
        }
      }
    }
    float[] result = new float[COMPONENTS * group.length];
    for (int c = 0; c < group.length; c++) {
      result[COMPONENTS * c] = 1;
      result[COMPONENTS * c + 3] = -1;
      if (group[c] >= 0) {
        put(result, c, sums, group[c]);
      }
    }
    degenerates(result);
    return result;
  }

  private void put(float[] result, int corner, double[] sums, int made) {
    double length = 0;
    for (int k = 0; k < 3; k++) {
      length += sums[3 * made + k] * sums[3 * made + k];
    }
    length = Math.sqrt(length);
    if (length > SMALLEST) {
      for (int k = 0; k < 3; k++) {
        result[COMPONENTS * corner + k] = (float) (sums[3 * made + k] / length);
      }
    }
    result[COMPONENTS * corner + 3] = groupSide.get(made) == 1 ? 1 : -1;
  }

  /** A triangle with two corners at one place takes the tangents of others at its vertices. */
  private void degenerates(float[] result) {
    int[] known = null;
    for (int t = 0; t < triangles; t++) {
      if (!degenerate[t]) {
        continue;
      }
      if (known == null) {
        known = new int[positions.length / 3];
        Arrays.fill(known, -1);
        for (int c = group.length - 1; c >= 0; c--) {
          if (!degenerate[c / 3]) {
            known[vertex[c]] = c;
          }
        }
      }
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        if (known[vertex[c]] >= 0) {
          System.arraycopy(
              result, COMPONENTS * known[vertex[c]], result, COMPONENTS * c, COMPONENTS);
        }
      }
    }
  }

  /** A direction in the plane of a vertex's normal, at length 1; whether there is one. */
  private boolean laid(double[] from, int at, int v, double[] to) {
    double dot = 0;
    for (int k = 0; k < 3; k++) {
      dot += normals[3 * v + k] * from[at + k];
    }
    double length = 0;
    for (int k = 0; k < 3; k++) {
      to[k] = from[at + k] - dot * normals[3 * v + k];
      length += to[k] * to[k];
    }
    length = Math.sqrt(length);
    if (!(length > SMALLEST)) {
      return false;
    }
    for (int k = 0; k < 3; k++) {
      to[k] /= length;
    }
    return true;
  }

  /** Angle of a corner, seen along its normal. */
  private double angle(int corner) {
    int v = vertex[corner];
    edge(v, vertex[previous(corner)]);
    laid(edge, 0, v, one);
    edge(v, vertex[next(corner)]);
    laid(edge, 0, v, two);
    double cosine = one[0] * two[0] + one[1] * two[1] + one[2] * two[2];
    return Math.acos(Math.max(-1, Math.min(1, cosine)));
  }

  private void edge(int from, int to) {
    for (int k = 0; k < 3; k++) {
      edge[k] = (double) positions[3 * to + k] - positions[3 * from + k];
    }
  }
}
