package ferry.stone.core.format.gltf.draco;

/**
 * How values of an attribute follow each other.
 *
 * @param corners {@code null} where values follow the points
 * @param order likewise
 * @param pointOf the point at which each value is come to
 * @param valueOf the value of each point
 */
record ValueOrder(Corners corners, Traversal order, int[] pointOf, int[] valueOf) {
  static ValueOrder of(Corners corners, Traversal order, int[] triangles, int points) {
    int[] pointOf = new int[order.count];
    for (int i = 0; i < order.count; i++) {
      pointOf[i] = triangles[order.corners[i]];
    }
    int[] valueOf = new int[points];
    for (int c = 0; c < triangles.length; c++) {
      valueOf[triangles[c]] = order.valueOf[corners.vertex(c)];
    }
    return new ValueOrder(corners, order, pointOf, valueOf);
  }

  int count() {
    return pointOf.length;
  }
}
