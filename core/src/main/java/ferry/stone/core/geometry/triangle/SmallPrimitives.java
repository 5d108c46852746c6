package ferry.stone.core.geometry.triangle;

import ferry.stone.core.math.IntList;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Cuts primitives into parts of so few vertices that short indices reach them all. */
public final class SmallPrimitives {
  private SmallPrimitives() {}

  /**
   * The primitive itself when it is small enough, else parts of it: triangles keep their order, and
   * so do the vertices within each part; a vertex that two parts use is in both.
   */
  public static List<RenderPrimitive> of(RenderPrimitive primitive, int mostVertices) {
    if (primitive.vertexCount() <= mostVertices) {
      return List.of(primitive);
    }
    List<RenderPrimitive> parts = new ArrayList<>();
    int[] usedBy = new int[primitive.vertexCount()];
    IntList vertices = new IntList(mostVertices);
    int first = 0;
    for (int t = 0; t <= primitive.triangleCount(); t++) {
      boolean last = t == primitive.triangleCount();
      if (last || vertices.size() + 3 > mostVertices) {
        parts.add(part(primitive, vertices, first, t));
        vertices.clear();
        first = t;
      }
      for (int k = 3 * t; !last && k < 3 * t + 3; k++) {
        int v = primitive.indices()[k];
        if (usedBy[v] != parts.size() + 1) {
          usedBy[v] = parts.size() + 1;
          vertices.add(v);
        }
      }
    }
    return parts;
  }

  private static RenderPrimitive part(
      RenderPrimitive primitive, IntList vertices, int from, int to) {
    int[] order = vertices.toArray();
    Arrays.sort(order);
    int[] triangles = new int[to - from];
    for (int i = 0; i < triangles.length; i++) {
      triangles[i] = from + i;
    }
    return primitive.reordered(order, triangles);
  }
}
