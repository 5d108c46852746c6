package ferry.stone.core.geometry.mesh;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Skin;
import java.util.Arrays;

/**
 * Vertices of a skin without a weight above zero, and joints for them: those of the vertex that is
 * reached first along edges; in pieces without any bound vertex, those of a bound vertex near by.
 * O(c log c) for c corners.
 */
public final class StraySkin {
  private StraySkin() {}

  /** How many vertices no joint moves. */
  public static int strays(Skin skin) {
    int count = 0;
    for (int v = 0; v + 1 < skin.offsets().length; v++) {
      count += isBound(skin, v) ? 0 : 1;
    }
    return count;
  }

  private static boolean isBound(Skin skin, int vertex) {
    for (int i = skin.offsets()[vertex]; i < skin.offsets()[vertex + 1]; i++) {
      if (skin.weights()[i] > 0) {
        return true;
      }
    }
    return false;
  }

  /**
   * @param near whether strays take the joints of their neighbours; else the skin's first joint
   */
  public static Skin bound(PolygonMesh mesh, Skin skin, boolean near) {
    int n = skin.offsets().length - 1;
    int[] source = new int[n];
    boolean any = false;
    for (int v = 0; v < n; v++) {
      source[v] = isBound(skin, v) ? v : -1;
      any |= source[v] >= 0;
    }
    if (near && any) {
      alongEdges(mesh, source);
      nearBy(mesh.points(), source);
    }
    int[] offsets = new int[n + 1];
    IntList joints = new IntList(skin.joints().length);
    FloatList weights = new FloatList(skin.joints().length);
    for (int v = 0; v < n; v++) {
      int from = source[v] < 0 ? 0 : skin.offsets()[source[v]];
      int to = source[v] < 0 ? 0 : skin.offsets()[source[v] + 1];
      for (int i = from; i < to; i++) {
        joints.add(skin.joints()[i]);
        weights.add(skin.weights()[i]);
      }
      if (source[v] < 0) {
        joints.add(0);
        weights.add(1);
      }
      offsets[v + 1] = joints.size();
    }
    return skin.withWeights(offsets, joints.toArray(), weights.toArray());
  }

  /** Spreads from all bound vertices at once, ring by ring. */
  private static void alongEdges(PolygonMesh mesh, int[] source) {
    Polygons faces = mesh.faces();
    int[] place = Pieces.firstAtSamePlace(mesh.points());
    // What stands at one place is one vertex for this; a bound one speaks for all.
    int[] at = new int[source.length];
    Arrays.fill(at, -1);
    for (int v = 0; v < source.length; v++) {
      if (source[v] >= 0 && at[place[v]] < 0) {
        at[place[v]] = v;
      }
    }
    int[] corners = new int[faces.cornerCount()];
    for (int c = 0; c < corners.length; c++) {
      corners[c] = place[faces.vertex(c)];
    }
    EdgeTable edges = EdgeTable.of(VertexCopies.faces(faces, corners), source.length);
    int[] start = new int[source.length + 1];
    for (int e = 0; e < edges.count(); e++) {
      start[edges.low(e) + 1]++;
      start[edges.high(e) + 1]++;
    }
    for (int v = 0; v < source.length; v++) {
      start[v + 1] += start[v];
    }
    int[] neighbours = new int[2 * edges.count()];
    int[] cursor = Arrays.copyOf(start, source.length);
    for (int e = 0; e < edges.count(); e++) {
      neighbours[cursor[edges.low(e)]++] = edges.high(e);
      neighbours[cursor[edges.high(e)]++] = edges.low(e);
    }
    IntList queue = new IntList(source.length);
    for (int v = 0; v < source.length; v++) {
      if (at[v] >= 0) {
        queue.add(v);
      }
    }
    for (int q = 0; q < queue.size(); q++) {
      int v = queue.get(q);
      for (int i = start[v]; i < start[v + 1]; i++) {
        if (at[neighbours[i]] < 0) {
          at[neighbours[i]] = at[v];
          queue.add(neighbours[i]);
        }
      }
    }
    for (int v = 0; v < source.length; v++) {
      source[v] = source[v] >= 0 ? source[v] : at[place[v]];
    }
  }

  /**
   * What no edge reaches takes a near vertex: the nearest of those beside it along each of the
   * three axes. Not always the very nearest, but always near, and found by three sorts.
   */
  private static void nearBy(Coordinates points, int[] source) {
    boolean any = false;
    for (int s : source) {
      any |= s < 0;
    }
    if (!any) {
      return;
    }
    int[] best = source.clone();
    double[] least = new double[source.length];
    Arrays.fill(least, Double.POSITIVE_INFINITY);
    for (int k = 0; k < 3; k++) {
      long[] order = sorted(points, k);
      sweep(points, source, order, best, least, 1);
      sweep(points, source, order, best, least, -1);
    }
    System.arraycopy(best, 0, source, 0, source.length);
  }

  /** Vertices by one coordinate; the low half of each number is the vertex. */
  private static long[] sorted(Coordinates points, int axis) {
    long[] order = new long[points.count()];
    for (int v = 0; v < order.length; v++) {
      int bits = Float.floatToIntBits((float) points.at(3 * v + axis) + 0f);
      // Makes the bits of negative numbers rise with the numbers.
      int rising = bits ^ (bits >> 31 & 0x7fffffff);
      order[v] = (long) rising << 32 | v;
    }
    Arrays.sort(order);
    return order;
  }

  private static void sweep(
      Coordinates points, int[] source, long[] order, int[] best, double[] least, int step) {
    int last = -1;
    for (int i = step > 0 ? 0 : order.length - 1; i >= 0 && i < order.length; i += step) {
      int v = (int) order[i];
      if (source[v] >= 0) {
        last = v;
      } else if (last >= 0) {
        double x = points.x(v) - points.x(last);
        double y = points.y(v) - points.y(last);
        double z = points.z(v) - points.z(last);
        double distance = x * x + y * y + z * z;
        if (distance < least[v]) {
          least[v] = distance;
          best[v] = source[last];
        }
      }
    }
  }
}
