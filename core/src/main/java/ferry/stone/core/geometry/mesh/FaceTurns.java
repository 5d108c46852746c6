package ferry.stone.core.geometry.mesh;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Which faces must be turned round so that neighbours run alike and closed pieces look outwards.
 *
 * <p>Faces are walked from neighbour to neighbour over edges that exactly two faces use; each such
 * group is one sheet. A closed sheet is turned so that its volume is above 0 (Zhang and Chen 2001:
 * signed tetrahedra). An open one keeps the way most of its area runs. O(c log k), see {@link
 * EdgeTable}.
 *
 * @param turn faces to turn round
 * @param sheets how many sheets there are
 * @param insideOut how many closed sheets are turned as a whole
 */
public record FaceTurns(BitSet turn, int sheets, int insideOut) {

  public static FaceTurns of(PolygonMesh mesh) {
    return of(mesh, EdgeTable.of(mesh.faces(), mesh.points().count()));
  }

  /**
   * @param edges of the mesh's faces
   */
  public static FaceTurns of(PolygonMesh mesh, EdgeTable edges) {
    return agree(mesh.faces(), edges) ? backwards(mesh, edges) : new Walk(mesh, edges).run();
  }

  /** Whether the two faces at each edge of two run alike. */
  private static boolean agree(Polygons faces, EdgeTable edges) {
    for (int e = 0; e < edges.count(); e++) {
      if (edges.uses(e) == 2
          && faces.vertex(edges.corner(e, 0)) == faces.vertex(edges.corner(e, 1))) {
        return false;
      }
    }
    return true;
  }

  /** What {@link Walk} finds where all faces of a sheet run alike: closed ones inside out. */
  private static FaceTurns backwards(PolygonMesh mesh, EdgeTable edges) {
    Polygons faces = mesh.faces();
    int[] faceOf = facesOfCorners(faces);
    DisjointSets sheets = new DisjointSets(faces.faceCount());
    for (int e = 0; e < edges.count(); e++) {
      if (edges.uses(e) == 2) {
        sheets.join(faceOf[edges.corner(e, 0)], faceOf[edges.corner(e, 1)]);
      }
    }
    boolean[] open = new boolean[faces.faceCount()];
    for (int e = 0; e < edges.count(); e++) {
      for (int u = 0; edges.uses(e) != 2 && u < edges.uses(e); u++) {
        open[sheets.find(faceOf[edges.corner(e, u)])] = true;
      }
    }
    int count = 0;
    int insideOut = 0;
    double[] volume = new double[faces.faceCount()];
    for (int f = 0; f < faces.faceCount(); f++) {
      int sheet = sheets.find(f);
      if (faces.size(f) >= 3 && !open[sheet]) {
        volume[sheet] += volume(mesh.points(), faces, f, faces.vertex(faces.start(sheet)));
      }
    }
    BitSet turn = new BitSet(faces.faceCount());
    for (int f = 0; f < faces.faceCount(); f++) {
      int sheet = sheets.find(f);
      if (faces.size(f) >= 3) {
        count += sheet == f ? 1 : 0;
        boolean wrong = !open[sheet] && volume[sheet] < 0;
        insideOut += wrong && sheet == f ? 1 : 0;
        turn.set(f, wrong);
      }
    }
    return new FaceTurns(turn, count, insideOut);
  }

  /** Six times the volume between a face and a vertex. */
  private static double volume(Coordinates p, Polygons faces, int face, int base) {
    double volume = 0;
    int a = faces.vertex(faces.start(face));
    double ox = p.x(base);
    double oy = p.y(base);
    double oz = p.z(base);
    double ax = p.x(a) - ox;
    double ay = p.y(a) - oy;
    double az = p.z(a) - oz;
    for (int c = faces.start(face) + 1; c + 1 < faces.end(face); c++) {
      int b = faces.vertex(c);
      int d = faces.vertex(c + 1);
      double bx = p.x(b) - ox;
      double by = p.y(b) - oy;
      double bz = p.z(b) - oz;
      double dx = p.x(d) - ox;
      double dy = p.y(d) - oy;
      double dz = p.z(d) - oz;
      volume += ax * (by * dz - bz * dy) + ay * (bz * dx - bx * dz) + az * (bx * dy - by * dx);
    }
    return volume;
  }

  private static int[] facesOfCorners(Polygons faces) {
    int[] faceOf = new int[faces.cornerCount()];
    for (int f = 0; f < faces.faceCount(); f++) {
      Arrays.fill(faceOf, faces.start(f), faces.end(f), f);
    }
    return faceOf;
  }

  /**
   * As {@link #of(PolygonMesh)}, with borders that lie on each other counted as joined, so that
   * panels which are not sewn agree too.
   *
   * @param distance borders at most this far apart count as joined, in mesh units
   */
  public static FaceTurns acrossSeams(PolygonMesh mesh, double distance) {
    return acrossSeams(mesh, distance, EdgeTable.of(mesh.faces(), mesh.points().count()));
  }

  /**
   * @param edges of the mesh's faces
   */
  public static FaceTurns acrossSeams(PolygonMesh mesh, double distance, EdgeTable edges) {
    Weld.Options options = new Weld.Options(distance, true, true);
    Weld.Result sewn = Weld.of(mesh, null, options, edges);
    // A face that falls together has no side; then only what is joined already counts.
    return sewn.facesGone() > 0 || sewn.joined() == 0 ? of(mesh, edges) : of(sewn.mesh());
  }

  private static final class Walk {
    private final Polygons faces;
    private final Coordinates points;
    private final EdgeTable edges;
    private final int[] faceOf;
    private final int[] edgeStart;
    private final int[] edgesOfFace;
    private final byte[] side;
    private final int[] queue;

    Walk(PolygonMesh mesh, EdgeTable edges) {
      this.edges = edges;
      faces = mesh.faces();
      points = mesh.points();
      int n = faces.faceCount();
      faceOf = facesOfCorners(faces);
      edgeStart = new int[n + 1];
      for (int e = 0; e < edges.count(); e++) {
        for (int u = 0; u < edges.uses(e); u++) {
          edgeStart[faceOf[edges.corner(e, u)] + 1]++;
        }
      }
      for (int f = 0; f < n; f++) {
        edgeStart[f + 1] += edgeStart[f];
      }
      edgesOfFace = new int[edgeStart[n]];
      int[] cursor = Arrays.copyOf(edgeStart, n);
      for (int e = 0; e < edges.count(); e++) {
        for (int u = 0; u < edges.uses(e); u++) {
          edgesOfFace[cursor[faceOf[edges.corner(e, u)]]++] = e;
        }
      }
      side = new byte[n];
      queue = new int[n];
    }

    FaceTurns run() {
      BitSet turn = new BitSet(faces.faceCount());
      int sheets = 0;
      int insideOut = 0;
      for (int seed = 0; seed < faces.faceCount(); seed++) {
        if (side[seed] != 0 || faces.size(seed) < 3) {
          continue;
        }
        sheets++;
        side[seed] = 1;
        queue[0] = seed;
        int size = 1;
        boolean closed = true;
        for (int at = 0; at < size; at++) {
          int f = queue[at];
          for (int i = edgeStart[f]; i < edgeStart[f + 1]; i++) {
            int e = edgesOfFace[i];
            closed &= edges.uses(e) == 2;
            if (edges.uses(e) == 2) {
              size = step(f, e, size);
            }
          }
        }
        byte wrong = wrongSide(size, closed);
        boolean whole = true;
        for (int at = 0; at < size; at++) {
          turn.set(queue[at], side[queue[at]] == wrong);
          whole &= side[queue[at]] == wrong;
        }
        insideOut += closed && whole ? 1 : 0;
      }
      return new FaceTurns(turn, sheets, insideOut);
    }

    private int step(int face, int edge, int size) {
      int a = edges.corner(edge, 0);
      int b = edges.corner(edge, 1);
      int other = faceOf[a] == face ? faceOf[b] : faceOf[a];
      if (other == face || side[other] != 0) {
        return size;
      }
      // Two faces that run alike pass their edge in opposite directions.
      boolean alike = faces.vertex(a) != faces.vertex(b);
      side[other] = (byte) (alike ? side[face] : -side[face]);
      queue[size] = other;
      return size + 1;
    }

    /** The side whose faces are turned. */
    private byte wrongSide(int size, boolean closed) {
      double volume = 0;
      double area = 0;
      int base = faces.vertex(faces.start(queue[0]));
      for (int at = 0; at < size; at++) {
        int f = queue[at];
        double x = 0;
        double y = 0;
        double z = 0;
        int a = faces.vertex(faces.start(f));
        for (int c = faces.start(f) + 1; c + 1 < faces.end(f); c++) {
          int p = faces.vertex(c);
          int q = faces.vertex(c + 1);
          double ux = points.x(p) - points.x(a);
          double uy = points.y(p) - points.y(a);
          double uz = points.z(p) - points.z(a);
          double vx = points.x(q) - points.x(a);
          double vy = points.y(q) - points.y(a);
          double vz = points.z(q) - points.z(a);
          x += uy * vz - uz * vy;
          y += uz * vx - ux * vz;
          z += ux * vy - uy * vx;
        }
        volume +=
            side[f]
                * (x * (points.x(a) - points.x(base))
                    + y * (points.y(a) - points.y(base))
                    + z * (points.z(a) - points.z(base)));
        area += side[f] * Math.sqrt(x * x + y * y + z * z);
      }
      return (byte) ((closed ? volume : area) < 0 ? 1 : -1);
    }
  }
}
