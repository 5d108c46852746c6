package ferry.stone.core.format.flat;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.LooseElements;

/** Lines and points without those that stand nowhere. */
final class LooseParts {
  private LooseParts() {}

  /**
   * A line ends before a vertex that has no place, and goes on after it.
   *
   * @param loose or {@code null}
   * @return {@code null} when nothing is left
   */
  static LooseElements placed(LooseElements loose, Coordinates points) {
    if (loose == null) {
      return null;
    }
    IntList offsets = new IntList(16);
    IntList vertices = new IntList(16);
    for (int l = 0; l < loose.lineCount(); l++) {
      int begin = vertices.size();
      for (int i = loose.lineOffsets()[l]; i < loose.lineOffsets()[l + 1]; i++) {
        int vertex = loose.lineVertices()[i];
        if (isSomewhere(points, vertex)) {
          vertices.add(vertex);
        } else {
          begin = ended(offsets, vertices, begin);
        }
      }
      ended(offsets, vertices, begin);
    }
    offsets.add(vertices.size());
    IntList single = new IntList(16);
    for (int point : loose.points()) {
      if (isSomewhere(points, point)) {
        single.add(point);
      }
    }
    return single.size() == 0 && offsets.size() == 1
        ? null
        : new LooseElements(offsets.toArray(), vertices.toArray(), single.toArray());
  }

  /** Notes a line of two vertices or more; takes one alone back. */
  private static int ended(IntList offsets, IntList vertices, int begin) {
    if (vertices.size() - begin >= 2) {
      offsets.add(begin);
      return vertices.size();
    }
    vertices.cutTo(begin);
    return begin;
  }

  private static boolean isSomewhere(Coordinates points, int vertex) {
    return Double.isFinite(points.x(vertex) + points.y(vertex) + points.z(vertex));
  }
}
