package ferry.stone.core.format.gltf.draco;

/** Corners of one vertex are one point as far as no seam of an attribute lies between them. */
final class MeshPoints {
  private final Edgebreaker mesh;
  private final int[] pointOf;
  private int points;

  private MeshPoints(Edgebreaker mesh, int[] pointOf) {
    this.mesh = mesh;
    this.pointOf = pointOf;
  }

  /**
   * @param pointOf takes the point of each corner
   * @return how many points there are
   */
  static int of(Edgebreaker mesh, int[] pointOf) throws DracoException {
    CornerTable table = mesh.table;
    if (mesh.seams.isEmpty()) {
      System.arraycopy(table.vertex, 0, pointOf, 0, pointOf.length);
      return table.vertexCount();
    }
    MeshPoints made = new MeshPoints(mesh, pointOf);
    for (int v = 0; v < table.vertexCount(); v++) {
      int corner = table.leftMost(v);
      if (corner >= 0) {
        made.around(mesh.isHole(v) ? corner : made.firstSeam(corner));
      }
    }
    return made.points;
  }

  /** The first corner behind a seam of any attribute, turning right; the corner itself if none. */
  private int firstSeam(int corner) throws DracoException {
    for (SeamCorners seams : mesh.seams) {
      if (!seams.isOnSeam(corner)) {
        continue;
      }
      int vertex = seams.vertex(corner);
      for (int c = mesh.table.swingRight(corner); c != corner; c = mesh.table.swingRight(c)) {
        if (c < 0) {
          throw new DracoException("a vertex inside lies on a border");
        }
        if (seams.vertex(c) != vertex) {
          return c;
        }
      }
    }
    return corner;
  }

  private void around(int first) throws DracoException {
    pointOf[first] = points++;
    int before = first;
    int steps = 0;
    for (int c = mesh.table.swingRight(first); c >= 0 && c != first; c = mesh.table.swingRight(c)) {
      boolean seam = false;
      for (SeamCorners seams : mesh.seams) {
        seam |= seams.vertex(c) != seams.vertex(before);
      }
      pointOf[c] = seam ? points++ : pointOf[before];
      before = c;
      if (++steps > pointOf.length) {
        throw new DracoException("the corners of a vertex go round in a circle");
      }
    }
  }
}
