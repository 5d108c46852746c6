package ferry.stone.core.format.gltf.draco;

/**
 * Triangles as corners: corner {@code 3f + k} is the k-th of face f. −1 stands for none
 * (specification, section "Corner Table").
 */
abstract class Corners {
  static int next(int corner) {
    return corner < 0 ? -1 : corner % 3 == 2 ? corner - 2 : corner + 1;
  }

  static int previous(int corner) {
    return corner < 0 ? -1 : corner % 3 == 0 ? corner + 2 : corner - 1;
  }

  /** The corner across the edge that lies opposite. */
  abstract int opposite(int corner);

  abstract int vertex(int corner);

  abstract int leftMost(int vertex);

  abstract int vertexCount();

  abstract int faceCount();

  final int swingRight(int corner) {
    return previous(opposite(previous(corner)));
  }

  final int swingLeft(int corner) {
    return next(opposite(next(corner)));
  }

  final int left(int corner) {
    return opposite(previous(corner));
  }

  final int right(int corner) {
    return opposite(next(corner));
  }

  final boolean isOnBoundary(int vertex) {
    int corner = leftMost(vertex);
    return corner < 0 || swingLeft(corner) < 0;
  }
}
