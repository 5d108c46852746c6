package ferry.stone.core.format.gltf.draco;

import java.util.Arrays;

/** The corners of all faces, built up face by face. */
final class CornerTable extends Corners {
  final int[] opposite;
  final int[] vertex;
  final int[] leftMost;
  int vertices;

  CornerTable(int faces, int mostVertices) {
    opposite = new int[3 * faces];
    vertex = new int[3 * faces];
    leftMost = new int[mostVertices];
    Arrays.fill(opposite, -1);
    Arrays.fill(vertex, -1);
    Arrays.fill(leftMost, -1);
  }

  int addVertex() throws DracoException {
    if (vertices == leftMost.length) {
      throw new DracoException("it has more vertices than it says");
    }
    return vertices++;
  }

  void pair(int a, int b) {
    opposite[a] = b;
    opposite[b] = a;
  }

  @Override
  int opposite(int corner) {
    return corner < 0 ? -1 : opposite[corner];
  }

  @Override
  int vertex(int corner) {
    return corner < 0 ? -1 : vertex[corner];
  }

  @Override
  int leftMost(int v) {
    return v < 0 ? -1 : leftMost[v];
  }

  @Override
  int vertexCount() {
    return vertices;
  }

  @Override
  int faceCount() {
    return opposite.length / 3;
  }
}
