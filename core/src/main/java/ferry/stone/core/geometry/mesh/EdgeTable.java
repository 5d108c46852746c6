package ferry.stone.core.geometry.mesh;

import ferry.stone.core.scene.mesh.Polygons;
import java.util.Arrays;

/**
 * The edges of a mesh with the faces that use them, built in O(c log k) for c corners and k edges
 * at a vertex, without objects per edge.
 */
public final class EdgeTable {
  private final int[] low;
  private final int[] high;
  private final int[] firstUse;
  private final int[] useCorner;

  private EdgeTable(int[] low, int[] high, int[] firstUse, int[] useCorner) {
    this.low = low;
    this.high = high;
    this.firstUse = firstUse;
    this.useCorner = useCorner;
  }

  /** The edges of these faces; a face edge from a vertex to itself is left out. */
  public static EdgeTable of(Polygons faces, int vertexCount) {
    int[] offsets = new int[vertexCount + 1];
    for (int f = 0; f < faces.faceCount(); f++) {
      int end = faces.end(f);
      int a = end > faces.start(f) ? faces.vertex(end - 1) : -1;
      for (int c = faces.start(f); c < end; c++) {
        int b = faces.vertex(c);
        offsets[Math.min(a, b) + 1] += a != b ? 1 : 0;
        a = b;
      }
    }
    for (int v = 0; v < vertexCount; v++) {
      offsets[v + 1] += offsets[v];
    }
    // Higher vertex and corner in one number; the sign bit of the low half is never needed.
    long[] sides = new long[offsets[vertexCount]];
    int[] cursor = Arrays.copyOf(offsets, vertexCount);
    for (int f = 0; f < faces.faceCount(); f++) {
      int end = faces.end(f);
      int from = end - 1;
      int a = end > faces.start(f) ? faces.vertex(from) : -1;
      for (int c = faces.start(f); c < end; c++) {
        int b = faces.vertex(c);
        if (a != b) {
          sides[cursor[Math.min(a, b)]++] = ((long) Math.max(a, b) << 32) | from;
        }
        a = b;
        from = c;
      }
    }
    int count = 0;
    for (int v = 0; v < vertexCount; v++) {
      sort(sides, offsets[v], offsets[v + 1]);
      for (int i = offsets[v]; i < offsets[v + 1]; i++) {
        count += i == offsets[v] || sides[i] >>> 32 != sides[i - 1] >>> 32 ? 1 : 0;
      }
    }
    int[] low = new int[count];
    int[] high = new int[count];
    int[] firstUse = new int[count + 1];
    int[] useCorner = new int[sides.length];
    int edge = -1;
    for (int v = 0; v < vertexCount; v++) {
      for (int i = offsets[v]; i < offsets[v + 1]; i++) {
        if (i == offsets[v] || sides[i] >>> 32 != sides[i - 1] >>> 32) {
          edge++;
          low[edge] = v;
          high[edge] = (int) (sides[i] >>> 32);
          firstUse[edge] = i;
        }
        useCorner[i] = (int) sides[i];
      }
    }
    firstUse[count] = sides.length;
    return new EdgeTable(low, high, firstUse, useCorner);
  }

  private static void sort(long[] sides, int from, int to) {
    if (to - from > 24) {
      Arrays.sort(sides, from, to);
      return;
    }
    for (int i = from + 1; i < to; i++) {
      long side = sides[i];
      int j = i - 1;
      while (j >= from && sides[j] > side) {
        sides[j + 1] = sides[j];
        j--;
      }
      sides[j + 1] = side;
    }
  }

  public int count() {
    return low.length;
  }

  /** How many sides of faces lie on all edges. */
  public int sides() {
    return useCorner.length;
  }

  /** The edge's vertex with the lower index. */
  public int low(int edge) {
    return low[edge];
  }

  /** The edge's vertex with the higher index. */
  public int high(int edge) {
    return high[edge];
  }

  /** How many face sides lie on the edge: 1 is open, 2 closed, more non-manifold. */
  public int uses(int edge) {
    return firstUse[edge + 1] - firstUse[edge];
  }

  /** The corner from which a face's side runs along the edge. */
  public int corner(int edge, int use) {
    return useCorner[firstUse[edge] + use];
  }
}
