package ferry.stone.core.format.mesh;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.scene.mesh.Polygons;

/**
 * Faces that a file gives as a number of corners each, and the vertices of all corners.
 *
 * @param polygons counter-clockwise seen from outside
 * @param corners for each corner here the one that the file has there
 */
public record FileFaces(Polygons polygons, int[] corners) {
  /**
   * @param path of the mesh, for what is told
   * @param vertices of all corners; nobody writes to the array again
   * @param points how many vertices there are
   * @param clockwise whether the faces of the file run that way: here they run the other, from the
   *     same first corner
   */
  public static FileFaces of(
      ReadReport report, String path, int[] counts, int[] vertices, int points, boolean clockwise)
      throws FormatException {
    if (!clockwise && allTriangles(counts, vertices.length) && allThere(vertices, points)) {
      return new FileFaces(Polygons.triangles(vertices), inOrder(vertices.length));
    }
    int[] offsets = new int[counts.length + 1];
    long all = 0;
    for (int f = 0; f < counts.length; f++) {
      all += counts[f];
      if (counts[f] < 0 || all > vertices.length) {
        throw report.broken(
            path, "face " + f + " has corners up to " + all + " of " + vertices.length + ".");
      }
      offsets[f + 1] = (int) all;
    }
    int[] corners = clockwise ? turned(offsets) : inOrder((int) all);
    int[] cornerVertex = new int[corners.length];
    for (int c = 0; c < cornerVertex.length; c++) {
      int vertex = vertices[corners[c]];
      if (vertex < 0 || vertex >= points) {
        throw report.broken(
            path, "corner " + corners[c] + " names vertex " + vertex + " of " + points + ".");
      }
      cornerVertex[c] = vertex;
    }
    return new FileFaces(Polygons.of(cornerVertex, offsets), corners);
  }

  private static boolean allTriangles(int[] counts, int corners) {
    int other = 0;
    for (int count : counts) {
      other |= count ^ 3;
    }
    return other == 0 && 3L * counts.length == corners;
  }

  private static boolean allThere(int[] vertices, int points) {
    int signs = 0;
    for (int vertex : vertices) {
      // Below 0 where the vertex is, or is not below the number of points.
      signs |= vertex | points - 1 - vertex;
    }
    return signs >= 0;
  }

  private static int[] inOrder(int count) {
    int[] corners = new int[count];
    for (int c = 0; c < count; c++) {
      corners[c] = c;
    }
    return corners;
  }

  /** The first corner stays, the others run the other way. */
  private static int[] turned(int[] offsets) {
    int[] corners = new int[offsets[offsets.length - 1]];
    for (int f = 0; f + 1 < offsets.length; f++) {
      int size = offsets[f + 1] - offsets[f];
      for (int k = 0; k < size; k++) {
        corners[offsets[f] + k] = offsets[f] + (k == 0 ? 0 : size - k);
      }
    }
    return corners;
  }
}
