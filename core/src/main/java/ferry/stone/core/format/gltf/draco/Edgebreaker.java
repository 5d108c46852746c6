package ferry.stone.core.format.gltf.draco;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Connectivity coded by Edgebreaker (Rossignac 1999), as the specification's section "EdgeBreaker
 * Connectivity" decodes it: one symbol a face, from the last to the first, grows regions that are
 * joined where the encoder split them.
 */
final class Edgebreaker {
  static final int C = 0;
  static final int S = 1;
  static final int L = 3;
  static final int R = 5;
  static final int E = 7;

  final CornerTable table;
  final List<SeamCorners> seams = new ArrayList<>();
  private final boolean[] hole;
  private final EdgebreakerSymbols symbols;
  private final int symbolCount;
  private final int[] splitSource;
  private final int[] splitTarget;
  private final int[] splitEdge;
  private int splits;
  private int faces;
  private int[] active = new int[64];
  private int depth;

  private Edgebreaker(DracoBytes in, int kind, DracoMemory memory) throws DracoException {
    int most = Integer.MAX_VALUE / 3;
    int encodedVertices = in.count("vertices", most);
    int faceCount = in.count("faces", most);
    memory.claim(faceCount);
    if (encodedVertices > 3L * faceCount) {
      throw new DracoException("it claims more vertices than corners");
    }
    int attributes = in.u8();
    symbolCount = in.count("symbols", faceCount);
    if (faceCount > symbolCount + symbolCount / 3) {
      throw new DracoException("it claims more faces than its symbols make");
    }
    int encodedSplits = in.count("splits", symbolCount);
    table = new CornerTable(faceCount, encodedVertices + encodedSplits);
    hole = new boolean[encodedVertices + encodedSplits];
    java.util.Arrays.fill(hole, true);
    splits = in.count("splits", in.remaining());
    splitSource = new int[splits];
    splitTarget = new int[splits];
    splitEdge = new int[splits];
    splitEvents(in);
    symbols = EdgebreakerSymbols.of(kind, in, attributes, table);
    for (int i = 0; i < attributes; i++) {
      seams.add(null);
    }
  }

  private void splitEvents(DracoBytes in) throws DracoException {
    int last = 0;
    for (int i = 0; i < splits; i++) {
      splitSource[i] = last + in.varint();
      splitTarget[i] = splitSource[i] - in.varint();
      if (splitSource[i] < last || splitTarget[i] < 0) {
        throw new DracoException("a split lies before the first symbol");
      }
      last = splitSource[i];
    }
    if (splits > 0) {
      in.startBits();
      for (int i = 0; i < splits; i++) {
        splitEdge[i] = in.bits(1);
      }
      in.endBits();
    }
  }

  /**
   * @param kind 0 for plain symbols, 2 for symbols by valence
   */
  static Edgebreaker read(DracoBytes in, int kind, DracoMemory memory) throws DracoException {
    Edgebreaker mesh = new Edgebreaker(in, kind, memory);
    mesh.connect();
    mesh.attributeSeams();
    return mesh;
  }

  /** Whether a vertex lies on a border of the surface. */
  boolean isHole(int vertex) {
    return hole[vertex];
  }

  private void push(int corner) {
    if (depth == active.length) {
      active = java.util.Arrays.copyOf(active, 2 * depth);
    }
    active[depth++] = corner;
  }

  private int top() throws DracoException {
    if (depth == 0) {
      throw new DracoException("a face hangs on no edge");
    }
    return active[depth - 1];
  }

  private void free(int corner) throws DracoException {
    if (corner < 0 || table.opposite(corner) >= 0) {
      throw new DracoException("an edge has more than two faces");
    }
  }

  private void connect() throws DracoException {
    Map<Integer, Integer> splitCorners = new HashMap<>();
    List<Integer> merged = new ArrayList<>();
    for (int id = 0; id < symbolCount; id++) {
      int symbol = symbols.next();
      int corner = 3 * faces++;
      switch (symbol) {
        case C -> close(corner);
        case R, L -> side(corner, symbol == R);
        case S -> {
          merged.add(split(corner, splitCorners.get(id)));
        }
        case E -> begin(corner);
        default -> throw new DracoException("its symbols do not go with its faces");
      }
      symbols.reached(active[depth - 1]);
      if (symbol == R || symbol == L || symbol == E) {
        int encoder = symbolCount - id - 1;
        while (splits > 0 && splitSource[splits - 1] >= encoder) {
          splits--;
          if (splitSource[splits] > encoder) {
            throw new DracoException("a split comes too late");
          }
          int top = active[depth - 1];
          int edge = splitEdge[splits] == 1 ? Corners.next(top) : Corners.previous(top);
          splitCorners.put(symbolCount - splitTarget[splits] - 1, edge);
        }
      }
    }
    startFaces();
    if (faces != table.faceCount()) {
      throw new DracoException("it claims " + table.faceCount() + " faces and makes " + faces);
    }
    if (seams.isEmpty()) {
      removeMerged(merged);
    }
  }

  /** A face between two edges whose common vertex is thereby closed. */
  private void close(int corner) throws DracoException {
    int a = top();
    int x = table.vertex(Corners.next(a));
    int b = Corners.next(table.leftMost(x));
    if (a == b) {
      throw new DracoException("a face closes on itself");
    }
    free(a);
    free(b);
    int before = table.vertex(Corners.previous(a));
    int after = table.vertex(Corners.next(b));
    if (x == before || x == after) {
      throw new DracoException("a face has a vertex twice");
    }
    table.pair(a, corner + 1);
    table.pair(b, corner + 2);
    table.vertex[corner] = x;
    table.vertex[corner + 1] = after;
    table.vertex[corner + 2] = before;
    table.leftMost[before] = corner + 2;
    hole[x] = false;
    active[depth - 1] = corner;
  }

  /** A face on one edge, with a new vertex; the next goes on at its right or left. */
  private void side(int corner, boolean right) throws DracoException {
    int a = top();
    free(a);
    int opposite = right ? corner + 2 : corner + 1;
    int l = right ? corner + 1 : corner;
    int r = right ? corner : corner + 2;
    table.pair(opposite, a);
    int fresh = table.addVertex();
    table.vertex[opposite] = fresh;
    table.leftMost[fresh] = opposite;
    int vertex = table.vertex(Corners.previous(a));
    table.vertex[r] = vertex;
    table.leftMost[vertex] = r;
    table.vertex[l] = table.vertex(Corners.next(a));
    active[depth - 1] = corner;
  }

  /** A face that joins two regions; two vertices become one. */
  private int split(int corner, Integer byEvent) throws DracoException {
    int b = top();
    depth--;
    if (byEvent != null) {
      push(byEvent);
    }
    int a = top();
    if (a == b) {
      throw new DracoException("a region is joined with itself");
    }
    free(a);
    free(b);
    table.pair(a, corner + 2);
    table.pair(b, corner + 1);
    int p = table.vertex(Corners.previous(a));
    table.vertex[corner] = p;
    table.vertex[corner + 1] = table.vertex(Corners.next(a));
    int beforeB = table.vertex(Corners.previous(b));
    table.vertex[corner + 2] = beforeB;
    table.leftMost[beforeB] = corner + 2;
    int first = Corners.next(b);
    int n = table.vertex(first);
    symbols.merge(p, n);
    table.leftMost[p] = table.leftMost(n);
    for (int c = first; c >= 0; ) {
      table.vertex[c] = p;
      c = table.swingLeft(c);
      if (c == first) {
        throw new DracoException("the corners of a vertex go round in a circle");
      }
    }
    table.leftMost[n] = -1;
    active[depth - 1] = corner;
    return n;
  }

  private void begin(int corner) throws DracoException {
    for (int k = 0; k < 3; k++) {
      int vertex = table.addVertex();
      table.vertex[corner + k] = vertex;
      table.leftMost[vertex] = corner + k;
    }
    push(corner);
  }

  /** What is left open may be closed by a face that the encoder started with. */
  private void startFaces() throws DracoException {
    while (depth > 0) {
      int a = active[--depth];
      if (!symbols.startsInside()) {
        continue;
      }
      int n = table.vertex(Corners.next(a));
      int b = Corners.next(table.leftMost(n));
      int x = table.vertex(Corners.next(b));
      int c = Corners.next(table.leftMost(x));
      if (a == b || a == c || b == c || faces == table.faceCount()) {
        throw new DracoException("its first face does not fit");
      }
      free(a);
      free(b);
      free(c);
      int corner = 3 * faces++;
      table.pair(corner, a);
      table.pair(corner + 1, b);
      table.pair(corner + 2, c);
      table.vertex[corner] = x;
      table.vertex[corner + 1] = table.vertex(Corners.next(c));
      table.vertex[corner + 2] = n;
      for (int k = 0; k < 3; k++) {
        hole[table.vertex[corner + k]] = false;
      }
    }
  }

  /** Vertices that were joined with others leave no gaps among the numbers. */
  private void removeMerged(List<Integer> merged) throws DracoException {
    for (int gone : merged) {
      int last = table.vertices - 1;
      while (last >= 0 && table.leftMost(last) < 0) {
        last = --table.vertices - 1;
      }
      if (last < gone) {
        continue;
      }
      int start = table.leftMost(last);
      rename(start, last, gone);
      table.leftMost[gone] = start;
      table.leftMost[last] = -1;
      hole[gone] = hole[last];
      hole[last] = false;
      table.vertices--;
    }
  }

  private void rename(int start, int from, int to) throws DracoException {
    int steps = 0;
    boolean leftwards = true;
    for (int c = start; c >= 0; ) {
      if (table.vertex[c] != from || ++steps > table.vertex.length) {
        throw new DracoException("the corners of a vertex do not hang together");
      }
      table.vertex[c] = to;
      if (leftwards) {
        c = table.swingLeft(c);
        if (c == start) {
          return;
        }
        if (c < 0) {
          leftwards = false;
          c = table.swingRight(start);
        }
      } else {
        c = table.swingRight(c);
      }
    }
  }

  private void attributeSeams() throws DracoException {
    if (seams.isEmpty()) {
      return;
    }
    for (int i = 0; i < seams.size(); i++) {
      seams.set(i, new SeamCorners(table));
    }
    for (int face = 0; face < table.faceCount(); face++) {
      int corner = 3 * face;
      seamAt(corner, face);
      seamAt(corner + 1, face);
      seamAt(corner + 2, face);
    }
    for (SeamCorners corners : seams) {
      corners.finish();
    }
  }

  private void seamAt(int corner, int face) throws DracoException {
    int across = table.opposite(corner);
    if (across >= 0 && across / 3 < face) {
      return;
    }
    for (int i = 0; i < seams.size(); i++) {
      if (across < 0 || symbols.isSeam(i)) {
        seams.get(i).add(corner);
      }
    }
  }
}
