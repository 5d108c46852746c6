package ferry.stone.core.scene.mesh;

import java.util.Arrays;

/**
 * Faces of a mesh as runs of corners; each corner names a vertex.
 *
 * <p>Where all faces have the same number of corners no offsets are stored.
 */
public final class Polygons {
  private final int[] cornerVertex;
  private final int[] offsets;
  private final int arity;

  private Polygons(int[] cornerVertex, int[] offsets, int arity) {
    this.cornerVertex = cornerVertex;
    this.offsets = offsets;
    this.arity = arity;
  }

  /**
   * Takes over both arrays.
   *
   * @param cornerVertex {@code int[c]}, the vertex of each corner
   * @param offsets {@code int[f+1]}, the first corner of each face, rising from 0 to c
   */
  public static Polygons of(int[] cornerVertex, int[] offsets) {
    if (offsets.length == 0
        || offsets[0] != 0
        || offsets[offsets.length - 1] != cornerVertex.length) {
      throw new IllegalArgumentException("face offsets do not span the corners");
    }
    int faces = offsets.length - 1;
    int first = faces == 0 ? 3 : offsets[1];
    boolean uniform = first > 0;
    for (int f = 0; f < faces; f++) {
      if (offsets[f + 1] < offsets[f]) {
        throw new IllegalArgumentException("face offsets fall at face " + f);
      }
      uniform &= offsets[f + 1] - offsets[f] == first;
    }
    return uniform
        ? new Polygons(cornerVertex, null, first)
        : new Polygons(cornerVertex, offsets, 0);
  }

  /** Triangles; takes over {@code int[3*f]}. */
  public static Polygons triangles(int[] cornerVertex) {
    if (cornerVertex.length % 3 != 0) {
      throw new IllegalArgumentException("not a whole number of triangles");
    }
    return new Polygons(cornerVertex, null, 3);
  }

  public int faceCount() {
    return offsets != null ? offsets.length - 1 : cornerVertex.length / arity;
  }

  public int cornerCount() {
    return cornerVertex.length;
  }

  /** First corner of a face. */
  public int start(int face) {
    return offsets != null ? offsets[face] : face * arity;
  }

  /** One past the last corner of a face. */
  public int end(int face) {
    return offsets != null ? offsets[face + 1] : (face + 1) * arity;
  }

  public int size(int face) {
    return end(face) - start(face);
  }

  /** The face that has a corner; O(log f) where faces have different numbers of corners. */
  public int faceOf(int corner) {
    if (offsets == null) {
      // To divide by a number that is known is much faster.
      return arity == 3 ? corner / 3 : corner / arity;
    }
    int low = 0;
    int high = offsets.length - 2;
    while (low < high) {
      int middle = (low + high + 1) >>> 1;
      if (offsets[middle] <= corner) {
        low = middle;
      } else {
        high = middle - 1;
      }
    }
    return low;
  }

  public int vertex(int corner) {
    return cornerVertex[corner];
  }

  /** A copy of the vertices of all corners. */
  public int[] vertices() {
    return cornerVertex.clone();
  }

  /** How many corners each face has. */
  public int[] sizes() {
    int[] sizes = new int[faceCount()];
    if (offsets == null) {
      Arrays.fill(sizes, arity);
    } else {
      for (int f = 0; f < sizes.length; f++) {
        sizes[f] = offsets[f + 1] - offsets[f];
      }
    }
    return sizes;
  }

  /** Whether all faces have the same corners in the same order. */
  public boolean isSame(Polygons other) {
    return hasSameSizes(other) && Arrays.equals(cornerVertex, other.cornerVertex);
  }

  /** Whether all faces have as many corners each, whatever their vertices are. */
  public boolean hasSameSizes(Polygons other) {
    // Offsets are left out only where all sizes are the same.
    return cornerCount() == other.cornerCount()
        && (offsets == null
            ? other.offsets == null && faceCount() == other.faceCount()
            : Arrays.equals(offsets, other.offsets));
  }

  /**
   * Whether a run of faces is all those of another mesh in the same order.
   *
   * @param first face with which the run begins
   * @param shift what is added to the other's vertices
   */
  public boolean holds(Polygons other, int first, int shift) {
    if (first + other.faceCount() > faceCount()) {
      return false;
    }
    int corner = start(first);
    for (int f = 0; f < other.faceCount(); f++) {
      if (start(first + f) - corner != other.start(f) || size(first + f) != other.size(f)) {
        return false;
      }
    }
    for (int c = 0; c < other.cornerCount(); c++) {
      if (vertex(corner + c) != other.vertex(c) + shift) {
        return false;
      }
    }
    return true;
  }

  public boolean allTriangles() {
    return offsets == null && arity == 3;
  }

  /** How many triangles the faces make; faces of fewer than three corners make none. */
  public long triangleCount() {
    if (offsets == null) {
      return (long) faceCount() * Math.max(0, arity - 2);
    }
    long count = 0;
    for (int f = 0; f < offsets.length - 1; f++) {
      count += Math.max(0, offsets[f + 1] - offsets[f] - 2);
    }
    return count;
  }

  /** How many faces have this many corners. */
  public int countOfSize(int size) {
    if (offsets == null) {
      return arity == size ? faceCount() : 0;
    }
    int count = 0;
    for (int f = 0; f < offsets.length - 1; f++) {
      count += offsets[f + 1] - offsets[f] == size ? 1 : 0;
    }
    return count;
  }
}
