package ferry.stone.core.geometry.mesh;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Arrays;

/** Faces over the same set of vertices as an earlier face, whatever their order. O(c) expected. */
public final class DuplicateFaces {
  private DuplicateFaces() {}

  /**
   * @param edges of the faces: triangles over the same vertices share all their edges
   */
  public static IntList find(Polygons faces, EdgeTable edges) {
    return faces.allTriangles() && areApart(faces, edges) ? new IntList(0) : find(faces);
  }

  /** Whether it is plain from the edges that no two triangles have the same vertices. */
  private static boolean areApart(Polygons faces, EdgeTable edges) {
    // A side from a vertex to itself is not in the table.
    boolean apart = edges.sides() == faces.cornerCount();
    for (int e = 0; apart && e < edges.count(); e++) {
      int uses = edges.uses(e);
      apart = uses <= 2;
      if (uses == 2) {
        apart = opposite(faces, edges.corner(e, 0)) != opposite(faces, edges.corner(e, 1));
      }
    }
    return apart;
  }

  /** The vertex of a triangle that is not on the side from a corner on. */
  private static int opposite(Polygons faces, int corner) {
    return faces.vertex(corner % 3 == 0 ? corner + 2 : corner - 1);
  }

  public static IntList find(Polygons faces) {
    int n = faces.faceCount();
    int capacity = Integer.highestOneBit(Math.max(16, n)) * 4;
    // The face above its hash; 0 is a free place.
    long[] table = new long[capacity];
    IntList found = new IntList(16);
    for (int f = 0; f < n; f++) {
      int hash = hash(faces, f);
      int slot = hash & (capacity - 1);
      while (true) {
        long other = table[slot];
        if (other == 0) {
          table[slot] = (f + 1L) << 32 | hash & 0xffff_ffffL;
          break;
        }
        if ((int) other == hash && same(faces, f, (int) (other >>> 32) - 1)) {
          found.add(f);
          break;
        }
        slot = (slot + 1) & (capacity - 1);
      }
    }
    return found;
  }

  /** The same for every order of the vertices. */
  private static int hash(Polygons faces, int face) {
    int sum = 0;
    int xor = 0;
    for (int c = faces.start(face); c < faces.end(face); c++) {
      int h = faces.vertex(c) * 0x9E3779B1;
      h ^= h >>> 15;
      sum += h;
      xor ^= h * 0x85EBCA6B;
    }
    int h = sum * 31 + xor;
    return h ^ (h >>> 16);
  }

  private static boolean same(Polygons faces, int a, int b) {
    if (faces.size(a) != faces.size(b)) {
      return false;
    }
    if (faces.size(a) > 8) {
      return Arrays.equals(sorted(faces, a), sorted(faces, b));
    }
    for (int c = faces.start(a); c < faces.end(a); c++) {
      int v = faces.vertex(c);
      if (count(faces, a, v) != count(faces, b, v)) {
        return false;
      }
    }
    return true;
  }

  private static int count(Polygons faces, int face, int vertex) {
    int count = 0;
    for (int c = faces.start(face); c < faces.end(face); c++) {
      count += faces.vertex(c) == vertex ? 1 : 0;
    }
    return count;
  }

  private static int[] sorted(Polygons faces, int face) {
    int[] vertices = new int[faces.size(face)];
    for (int i = 0; i < vertices.length; i++) {
      vertices[i] = faces.vertex(faces.start(face) + i);
    }
    Arrays.sort(vertices);
    return vertices;
  }
}
