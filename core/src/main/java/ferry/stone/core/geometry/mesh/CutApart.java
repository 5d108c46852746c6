package ferry.stone.core.geometry.mesh;

import ferry.stone.core.geometry.triangle.Triangulation;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Arrays;
import java.util.BitSet;
import org.joml.Vector3d;

/**
 * Cuts a surface apart along edges that more than two faces share. Around such an edge faces stay
 * together in pairs: those wound alike that bend least against each other; every other gets
 * vertices of its own. Nothing moves. O(c log k) for c corners and k edges at a vertex.
 */
public final class CutApart {
  private static final int MOST_ROUNDS = 8;

  /** Around an edge with more faces than this none stay together. */
  private static final int MOST_PAIRED = 32;

  /**
   * @param sourceVertex vertex before for each vertex, {@code null} when nothing was cut
   * @param edges how many edges more than two faces shared
   */
  public record Result(PolygonMesh mesh, int[] sourceVertex, int edges) {}

  private final PolygonMesh mesh;
  private final Polygons faces;
  private final int[] faceOfCorner;

  /** Vertex of each corner after the cut. */
  private final int[] corners;

  private final IntList source;

  private CutApart(PolygonMesh mesh) {
    this.mesh = mesh;
    faces = mesh.faces();
    faceOfCorner = new int[faces.cornerCount()];
    corners = new int[faces.cornerCount()];
    source = new IntList(mesh.points().count());
    for (int v = 0; v < mesh.points().count(); v++) {
      source.add(v);
    }
    for (int f = 0; f < faces.faceCount(); f++) {
      for (int c = faces.start(f); c < faces.end(f); c++) {
        faceOfCorner[c] = f;
        corners[c] = faces.vertex(c);
      }
    }
  }

  public static Result of(PolygonMesh mesh) {
    CutApart cut = new CutApart(mesh);
    EdgeTable table = EdgeTable.of(mesh.faces(), mesh.points().count());
    int edges = crowded(table).cardinality();
    if (edges == 0) {
      return new Result(mesh, null, 0);
    }
    cut.fans(table);
    for (int round = 0; round < MOST_ROUNDS && cut.single(); round++) {
      // Faces that hang together round both ends of an edge are cut one by one.
    }
    int[] sources = cut.source.toArray();
    return new Result(VertexCopies.of(mesh, cut.corners, sources), sources, edges);
  }

  private static BitSet crowded(EdgeTable table) {
    BitSet crowded = new BitSet(table.count());
    for (int e = 0; e < table.count(); e++) {
      crowded.set(e, table.uses(e) > 2);
    }
    return crowded;
  }

  private int next(int corner) {
    int f = faceOfCorner[corner];
    return corner + 1 == faces.end(f) ? faces.start(f) : corner + 1;
  }

  /**
   * Gives each fan of faces round a vertex of a crowded edge a vertex of its own, but the first.
   */
  private void fans(EdgeTable table) {
    BitSet affected = new BitSet(mesh.points().count());
    DisjointSets fans = new DisjointSets(corners.length);
    for (int e = 0; e < table.count(); e++) {
      int uses = table.uses(e);
      if (uses == 2) {
        join(fans, table.corner(e, 0), table.corner(e, 1));
      } else if (uses > 2) {
        affected.set(table.low(e));
        affected.set(table.high(e));
        int[] mate = mates(table, e);
        for (int i = 0; i < uses; i++) {
          if (mate[i] > i) {
            join(fans, table.corner(e, i), table.corner(e, mate[i]));
          }
        }
      }
    }
    int[] first = new int[mesh.points().count()];
    int[] vertexOfFan = new int[corners.length];
    Arrays.fill(first, -1);
    Arrays.fill(vertexOfFan, -1);
    for (int c = 0; c < corners.length; c++) {
      int v = faces.vertex(c);
      if (!affected.get(v)) {
        continue;
      }
      int fan = fans.find(c);
      if (vertexOfFan[fan] < 0) {
        vertexOfFan[fan] = first[v] < 0 ? v : copyOf(v);
        first[v] = v;
      }
      corners[c] = vertexOfFan[fan];
    }
  }

  private int copyOf(int vertex) {
    source.add(source.get(vertex));
    return source.size() - 1;
  }

  /** The corners of two faces at both ends of the edge from which their sides start. */
  private void join(DisjointSets fans, int a, int b) {
    boolean alike = faces.vertex(a) == faces.vertex(b);
    fans.join(a, alike ? b : next(b));
    fans.join(next(a), alike ? next(b) : b);
  }

  /** For each face side on an edge the one it stays together with, −1 for none. */
  private int[] mates(EdgeTable table, int edge) {
    int n = table.uses(edge);
    int[] mate = new int[n];
    Arrays.fill(mate, -1);
    if (n > MOST_PAIRED) {
      return mate;
    }
    Vector3d[] normals = new Vector3d[n];
    for (int i = 0; i < n; i++) {
      int f = faceOfCorner[table.corner(edge, i)];
      normals[i] = new Vector3d();
      Triangulation.newell(mesh.points(), faces, faces.start(f), faces.size(f), normals[i]);
      double length = normals[i].length();
      normals[i].mul(length > 0 ? 1 / length : 0);
    }
    for (int pair = 0; 2 * pair + 1 < n; pair++) {
      int a = -1;
      int b = -1;
      double best = Double.NEGATIVE_INFINITY;
      for (int i = 0; i < n; i++) {
        for (int j = i + 1; mate[i] < 0 && j < n; j++) {
          boolean alike =
              faces.vertex(table.corner(edge, i)) != faces.vertex(table.corner(edge, j));
          double bend = normals[i].dot(normals[j]);
          if (mate[j] < 0 && alike && bend > best) {
            best = bend;
            a = i;
            b = j;
          }
        }
      }
      if (a < 0) {
        break;
      }
      mate[a] = b;
      mate[b] = a;
    }
    return mate;
  }

  /** Where an edge is crowded still, all faces but two get corners of their own. */
  private boolean single() {
    Polygons now = VertexCopies.faces(faces, corners);
    EdgeTable table = EdgeTable.of(now, source.size());
    boolean any = false;
    BitSet cut = new BitSet(corners.length);
    for (int e = 0; e < table.count(); e++) {
      for (int i = 2; i < table.uses(e); i++) {
        int c = table.corner(e, i);
        any = true;
        for (int corner : new int[] {c, next(c)}) {
          if (!cut.get(corner)) {
            cut.set(corner);
            corners[corner] = copyOf(corners[corner]);
          }
        }
      }
    }
    return any;
  }
}
