package ferry.stone.core.format.gltf.draco;

import java.util.Arrays;

/** The same corners where some edges are seams: values of an attribute differ across them. */
final class SeamCorners extends Corners {
  private final CornerTable table;
  private final boolean[] seam;
  private final boolean[] onSeam;
  private final int[] vertex;
  private int[] leftMost;
  private int vertices;

  SeamCorners(CornerTable table) {
    this.table = table;
    seam = new boolean[table.opposite.length];
    onSeam = new boolean[table.leftMost.length];
    vertex = new int[table.opposite.length];
    Arrays.fill(vertex, -1);
  }

  /** Marks the edge opposite of a corner. */
  void add(int corner) {
    mark(corner);
    if (table.opposite(corner) >= 0) {
      mark(table.opposite(corner));
    }
  }

  private void mark(int corner) {
    seam[corner] = true;
    onSeam[table.vertex(next(corner))] = true;
    onSeam[table.vertex(previous(corner))] = true;
  }

  boolean isOnSeam(int corner) {
    return onSeam[table.vertex(corner)];
  }

  /** Gives each run of corners between seams a vertex of its own. */
  void finish() throws DracoException {
    leftMost = new int[table.opposite.length];
    for (int v = 0; v < table.vertexCount(); v++) {
      int corner = table.leftMost(v);
      if (corner < 0) {
        continue;
      }
      int first = corner;
      if (onSeam[v]) {
        for (int c = swingLeft(first); c >= 0; c = swingLeft(c)) {
          first = c;
          if (c == corner) {
            throw new DracoException("a seam goes round in a circle");
          }
        }
      }
      begin(first);
      int steps = 0;
      for (int c = table.swingRight(first); c >= 0 && c != first; c = table.swingRight(c)) {
        if (seam[next(c)]) {
          begin(c);
        } else {
          vertex[c] = vertices - 1;
        }
        if (++steps > vertex.length) {
          throw new DracoException("the corners of a vertex go round in a circle");
        }
      }
    }
  }

  private void begin(int corner) throws DracoException {
    if (vertices == leftMost.length) {
      throw new DracoException("it has more values than corners");
    }
    leftMost[vertices] = corner;
    vertex[corner] = vertices++;
  }

  @Override
  int opposite(int corner) {
    return corner < 0 || seam[corner] ? -1 : table.opposite[corner];
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
    return table.faceCount();
  }
}
