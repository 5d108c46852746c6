package ferry.stone.core.geometry.mesh;

import ferry.stone.core.math.IntList;
import java.util.Arrays;

/** Edges or vertices that carry something, found by their first vertex without a search. */
final class VertexPairs {
  private final int[] all;
  private final int size;
  private final int[] start;
  private final int[] places;

  /**
   * @param all vertices of the elements, {@code size} each
   * @param size 2 for edges, 1 for vertices
   */
  VertexPairs(int[] all, int size, int vertexCount) {
    this.all = all;
    this.size = size;
    start = new int[vertexCount + 1];
    int count = all.length / size;
    for (int i = 0; i < count; i++) {
      start[all[size * i] + 1]++;
    }
    for (int v = 0; v < vertexCount; v++) {
      start[v + 1] += start[v];
    }
    places = new int[count];
    int[] cursor = Arrays.copyOf(start, vertexCount);
    for (int i = 0; i < count; i++) {
      places[cursor[all[size * i]]++] = i;
    }
  }

  /**
   * @param vertices in their new numbers
   * @param places which elements these were
   */
  record Picked(int[] vertices, int[] places) {}

  /** The elements whose vertices are all among some, with new numbers. */
  Picked pick(int[] among, int[] newNumber) {
    IntList vertices = new IntList(8);
    IntList picked = new IntList(8);
    for (int v : among) {
      for (int i = start[v]; i < start[v + 1]; i++) {
        int place = places[i];
        int last = all[size * place + size - 1];
        if (newNumber[last] >= 0) {
          picked.add(place);
          for (int k = 0; k < size; k++) {
            vertices.add(newNumber[all[size * place + k]]);
          }
        }
      }
    }
    return new Picked(vertices.toArray(), picked.toArray());
  }

  /** The element on two vertices in either order, −1 for none. */
  int find(int a, int b) {
    int place = findFrom(a, b);
    return place >= 0 ? place : findFrom(b, a);
  }

  private int findFrom(int first, int last) {
    for (int i = start[first]; i < start[first + 1]; i++) {
      if (all[size * places[i] + size - 1] == last) {
        return places[i];
      }
    }
    return -1;
  }

  int[] within(int[] among, int[] newNumber) {
    return pick(among, newNumber).vertices();
  }
}
