package ferry.stone.core.geometry.mesh;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Arrays;

/**
 * Connected pieces of a mesh: faces that hang together by shared vertices.
 *
 * @param count how many pieces
 * @param pieceOfFace {@code int[f]}, numbered in order of their first face
 */
public record Pieces(int count, int[] pieceOfFace) {

  /** Pieces by shared vertex index. */
  public static Pieces byVertex(Polygons faces, int vertexCount) {
    return solve(faces, new DisjointSets(vertexCount), vertexCount);
  }

  /** Pieces by shared position: vertices at exactly the same place count as one. */
  public static Pieces byPosition(Polygons faces, Coordinates points) {
    return byPlace(faces, firstAtSamePlace(points));
  }

  /**
   * @param place for each vertex the first one at the same place
   */
  public static Pieces byPlace(Polygons faces, int[] place) {
    return solve(faces, new DisjointSets(place.clone()), place.length);
  }

  /** For each vertex the first vertex that stands at exactly the same place. */
  public static int[] firstAtSamePlace(Coordinates points) {
    int n = points.count();
    int capacity = Integer.highestOneBit(Math.max(16, n + n / 2)) * 2;
    // The vertex above its hash; 0 is a free place.
    long[] table = new long[capacity];
    int[] first = new int[n];
    for (int v = 0; v < n; v++) {
      // Adding zero makes −0 and 0 the same place.
      long x = Double.doubleToLongBits(points.x(v) + 0.0);
      long y = Double.doubleToLongBits(points.y(v) + 0.0);
      long z = Double.doubleToLongBits(points.z(v) + 0.0);
      long h = (x * 0x9E3779B97F4A7C15L + y) * 0xC2B2AE3D27D4EB4FL + z;
      h = (h ^ (h >>> 29)) * 0x165667B19E3779F9L;
      int slot = (int) (h >>> 33) & (capacity - 1);
      while (true) {
        long known = table[slot];
        if (known == 0) {
          table[slot] = (v + 1L) << 32 | h & 0xffff_ffffL;
          first[v] = v;
          break;
        }
        int other = (int) (known >>> 32) - 1;
        if ((int) known == (int) h
            && points.x(other) == points.x(v)
            && points.y(other) == points.y(v)
            && points.z(other) == points.z(v)) {
          first[v] = other;
          break;
        }
        slot = (slot + 1) & (capacity - 1);
      }
    }
    return first;
  }

  private static Pieces solve(Polygons faces, DisjointSets sets, int vertexCount) {
    int faceCount = faces.faceCount();
    for (int f = 0; f < faceCount; f++) {
      for (int c = faces.start(f) + 1; c < faces.end(f); c++) {
        sets.join(faces.vertex(faces.start(f)), faces.vertex(c));
      }
    }
    int[] number = new int[vertexCount];
    Arrays.fill(number, -1);
    int[] pieceOfFace = new int[faceCount];
    int count = 0;
    for (int f = 0; f < faceCount; f++) {
      if (faces.start(f) == faces.end(f)) {
        continue;
      }
      int root = sets.find(faces.vertex(faces.start(f)));
      if (number[root] < 0) {
        number[root] = count++;
      }
      pieceOfFace[f] = number[root];
    }
    return new Pieces(count, pieceOfFace);
  }
}
