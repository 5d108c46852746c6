package ferry.stone.core.geometry.triangle;

import ferry.stone.core.math.IntList;
import java.util.Arrays;

/**
 * Orders triangles so that neighbours are drawn one after the other, and vertices by their first
 * use: graphics processors then transform and fetch each vertex about once.
 *
 * <p>Source: P. Sander, D. Nehab, J. Barczak, "Fast triangle reordering for vertex locality and
 * reduced overdraw", ACM Transactions on Graphics 26(3), 2007, section 3. Time O(t) for t
 * triangles.
 */
public final class DrawOrder {
  /** Entries of the vertex cache that is aimed at: common practice, no source. */
  private static final int CACHE = 16;

  private final int[] indices;
  private final int[] firstTriangle;
  private final int[] trianglesOf;
  private final int[] live;
  private final int[] cachedAt;
  private final boolean[] emitted;
  private int deadEndsTop;
  private int time = CACHE + 1;
  private int cursor;

  private DrawOrder(int[] indices, int vertices) {
    this.indices = indices;
    firstTriangle = new int[vertices + 1];
    for (int v : indices) {
      firstTriangle[v + 1]++;
    }
    live = new int[vertices];
    for (int v = 0; v < vertices; v++) {
      live[v] = firstTriangle[v + 1];
      firstTriangle[v + 1] += firstTriangle[v];
    }
    trianglesOf = new int[indices.length];
    int[] at = Arrays.copyOf(firstTriangle, vertices);
    for (int i = 0; i < indices.length; i++) {
      trianglesOf[at[indices[i]]++] = i / 3;
    }
    cachedAt = new int[vertices];
    emitted = new boolean[indices.length / 3];
  }

  /** The same triangles and vertices in that order; vertices that no triangle uses come last. */
  public static RenderPrimitive of(RenderPrimitive primitive) {
    int[] triangles = new DrawOrder(primitive.indices(), primitive.vertexCount()).triangles();
    int[] vertices = new int[primitive.vertexCount()];
    boolean[] seen = new boolean[vertices.length];
    int count = 0;
    for (int t : triangles) {
      for (int k = 0; k < 3; k++) {
        int v = primitive.indices()[3 * t + k];
        if (!seen[v]) {
          seen[v] = true;
          vertices[count++] = v;
        }
      }
    }
    for (int v = 0; v < seen.length; v++) {
      if (!seen[v]) {
        vertices[count++] = v;
      }
    }
    return primitive.reordered(vertices, triangles);
  }

  private int[] triangles() {
    int[] order = new int[emitted.length];
    int count = 0;
    int[] stack = new int[indices.length];
    IntList candidates = new IntList(64);
    int fan = live.length == 0 ? -1 : 0;
    while (fan >= 0) {
      candidates.clear();
      for (int i = firstTriangle[fan]; i < firstTriangle[fan + 1]; i++) {
        int t = trianglesOf[i];
        if (emitted[t]) {
          continue;
        }
        emitted[t] = true;
        order[count++] = t;
        for (int k = 3 * t; k < 3 * t + 3; k++) {
          int v = indices[k];
          stack[deadEndsTop++] = v;
          candidates.add(v);
          live[v]--;
          if (time - cachedAt[v] > CACHE) {
            cachedAt[v] = time++;
          }
        }
      }
      fan = next(candidates, stack);
    }
    return order;
  }

  /** The vertex to go round next: one still in the cache if any, else the last with triangles. */
  private int next(IntList candidates, int[] stack) {
    int best = -1;
    int bestPriority = -1;
    for (int i = 0; i < candidates.size(); i++) {
      int v = candidates.get(i);
      if (live[v] > 0) {
        int age = time - cachedAt[v];
        int priority = age + 2 * live[v] <= CACHE ? age : 0;
        if (priority > bestPriority) {
          best = v;
          bestPriority = priority;
        }
      }
    }
    while (best < 0 && deadEndsTop > 0) {
      int v = stack[--deadEndsTop];
      best = live[v] > 0 ? v : -1;
    }
    while (best < 0 && cursor < live.length) {
      best = live[cursor] > 0 ? cursor : -1;
      cursor++;
    }
    return best;
  }
}
