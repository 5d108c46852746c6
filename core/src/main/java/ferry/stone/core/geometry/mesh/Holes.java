package ferry.stone.core.geometry.mesh;

import ferry.stone.core.geometry.triangle.FaceSizes;
import ferry.stone.core.geometry.triangle.Triangulation;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.joml.Vector3d;

/**
 * Outlines of a surface: rings of edges that one face uses. Vertices at one place count as one, so
 * seams are no outlines. A ring that touches itself or another in a vertex is left out. O(c log k)
 * for c corners and k edges at a vertex.
 */
public final class Holes {
  /** A face with more corners than this would take too long to cut into triangles. */
  private static final int MOST_CORNERS = 2000;

  /**
   * A waving sheet is up to a quarter larger than what its rim spans: common practice, no source.
   */
  private static final double RIM_PART = 0.8;

  private final PolygonMesh mesh;
  private final int[] place;

  /** For each ring the corners of the faces beside it, in the order of a face that closes it. */
  private final List<int[]> rings = new ArrayList<>();

  private Holes(PolygonMesh mesh, int[] place) {
    this.mesh = mesh;
    this.place = place;
  }

  public static Holes of(PolygonMesh mesh) {
    return of(mesh, Pieces.firstAtSamePlace(mesh.points()), null);
  }

  /**
   * @param place for each vertex the first one at the same place
   * @param edges of the mesh's faces, which count where no two vertices share a place; or {@code
   *     null}
   */
  public static Holes of(PolygonMesh mesh, int[] place, EdgeTable edges) {
    Holes holes = new Holes(mesh, place);
    holes.find(edges);
    return holes;
  }

  /** How large each ring is: the diagonal of its box, in the mesh's own units. */
  public double[] sizes() {
    double[] sizes = new double[rings.size()];
    for (int i = 0; i < sizes.length; i++) {
      double[] low = new double[3];
      double[] high = new double[3];
      Arrays.fill(low, Double.POSITIVE_INFINITY);
      Arrays.fill(high, Double.NEGATIVE_INFINITY);
      for (int c : rings.get(i)) {
        int v = mesh.faces().vertex(c);
        for (int k = 0; k < 3; k++) {
          double x = mesh.points().at(3 * v + k);
          low[k] = Math.min(low[k], x);
          high[k] = Math.max(high[k], x);
        }
      }
      double x = high[0] - low[0];
      double y = high[1] - low[1];
      double z = high[2] - low[2];
      sizes[i] = Math.sqrt(x * x + y * y + z * z);
    }
    return sizes;
  }

  /**
   * Whether each ring is the rim of a sheet and no hole: what would close it is about as large as
   * the whole piece around it, so it would only lie on its back.
   */
  public boolean[] rims() {
    return rims(Pieces.byPlace(mesh.faces(), place), FaceSizes.of(mesh));
  }

  /**
   * @param pieces of the mesh, with vertices at one place as one
   * @param sizes of its faces
   */
  public boolean[] rims(Pieces pieces, FaceSizes sizes) {
    Polygons faces = mesh.faces();
    double[] areas = new double[pieces.count()];
    for (int f = 0; f < faces.faceCount(); f++) {
      areas[pieces.pieceOfFace()[f]] += sizes.twice()[f];
    }
    boolean[] rims = new boolean[rings.size()];
    for (int i = 0; i < rims.length; i++) {
      double piece = areas[pieces.pieceOfFace()[faces.faceOf(rings.get(i)[0])]];
      rims[i] = newell(rings.get(i)).length() >= RIM_PART * piece;
    }
    return rims;
  }

  /** Twice the area of a ring, along its normal; Newell's sum over its corners. */
  private Vector3d newell(int[] ring) {
    Vector3d sum = new Vector3d();
    Vector3d a = new Vector3d();
    Vector3d b = new Vector3d();
    Vector3d first = at(ring[0], new Vector3d());
    for (int i = 1; i + 1 < ring.length; i++) {
      at(ring[i], a).sub(first);
      at(ring[i + 1], b).sub(first);
      sum.add(a.cross(b));
    }
    return sum;
  }

  private Vector3d at(int corner, Vector3d into) {
    int v = mesh.faces().vertex(corner);
    return into.set(mesh.points().x(v), mesh.points().y(v), mesh.points().z(v));
  }

  private boolean sharesPlaces() {
    for (int v = 0; v < place.length; v++) {
      if (place[v] != v) {
        return true;
      }
    }
    return false;
  }

  private void find(EdgeTable edges) {
    Polygons faces = mesh.faces();
    Coordinates points = mesh.points();
    EdgeTable table = edges == null || sharesPlaces() ? placedEdges() : edges;
    // A face that closes runs along a side from its end to its start.
    int[] sideEndingAt = new int[points.count()];
    Arrays.fill(sideEndingAt, -1);
    boolean[] crossing = new boolean[points.count()];
    IntList starts = new IntList(16);
    for (int e = 0; e < table.count(); e++) {
      if (table.uses(e) == 1) {
        int c = table.corner(e, 0);
        int end = place[faces.vertex(next(c))];
        crossing[end] |= sideEndingAt[end] >= 0;
        sideEndingAt[end] = c;
        starts.add(end);
      }
    }
    boolean[] walked = new boolean[points.count()];
    for (int i = 0; i < starts.size(); i++) {
      IntList ring = new IntList(8);
      int at = starts.get(i);
      boolean whole = true;
      while (whole && !walked[at]) {
        walked[at] = true;
        int side = sideEndingAt[at];
        whole = side >= 0 && !crossing[at];
        if (whole) {
          ring.add(next(side));
          at = place[faces.vertex(side)];
        }
      }
      if (whole && at == starts.get(i) && ring.size() >= 3 && ring.size() <= MOST_CORNERS) {
        rings.add(ring.toArray());
      }
    }
  }

  private EdgeTable placedEdges() {
    Polygons faces = mesh.faces();
    int[] corners = new int[faces.cornerCount()];
    for (int c = 0; c < corners.length; c++) {
      corners[c] = place[faces.vertex(c)];
    }
    return EdgeTable.of(VertexCopies.faces(faces, corners), mesh.points().count());
  }

  /** The corner after one in its own face. */
  private int next(int corner) {
    int face = mesh.faces().faceOf(corner);
    return corner + 1 == mesh.faces().end(face) ? mesh.faces().start(face) : corner + 1;
  }

  /**
   * @param closed how many rings got a face
   */
  public record Result(PolygonMesh mesh, int closed) {}

  /**
   * Gives each ring up to a size a face. It takes slot, smoothing and the values at its corners
   * from the faces beside it; normals of corners are its own, so that it shades flat.
   */
  public Result closed(double largest) {
    double[] sizes = sizes();
    List<int[]> chosen = new ArrayList<>();
    for (int i = 0; i < sizes.length; i++) {
      if (sizes[i] <= largest) {
        chosen.add(rings.get(i));
      }
    }
    if (chosen.isEmpty()) {
      return new Result(mesh, 0);
    }
    Polygons faces = mesh.faces();
    int old = faces.faceCount();
    int[] cornerFrom = grown(faces.cornerCount(), chosen.stream().mapToInt(r -> r.length).sum());
    int[] faceFrom = grown(old, chosen.size());
    int[] offsets = new int[old + chosen.size() + 1];
    for (int f = 0; f < old; f++) {
      offsets[f + 1] = faces.end(f);
    }
    int at = faces.cornerCount();
    for (int r = 0; r < chosen.size(); r++) {
      for (int c : chosen.get(r)) {
        cornerFrom[at++] = c;
      }
      faceFrom[old + r] = faces.faceOf(chosen.get(r)[0]);
      offsets[old + r + 1] = at;
    }
    int[] vertices = new int[at];
    for (int c = 0; c < at; c++) {
      vertices[c] = faces.vertex(cornerFrom[c]);
    }
    List<Attribute> attributes = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      attributes.add(
          switch (a.domain()) {
            case CORNER -> Layers.moved(a, cornerFrom);
            case FACE -> Layers.moved(a, faceFrom);
            default -> a;
          });
    }
    PolygonMesh result =
        mesh.toBuilder()
            .faces(Polygons.of(vertices, offsets))
            .attributes(attributes)
            .materials(mesh.materialIds(), Layers.picked(mesh.faceSlot(), faceFrom))
            .smoothing(Layers.picked(mesh.smoothing(), faceFrom))
            .build();
    return new Result(flat(result, old), chosen.size());
  }

  /** Gives the corners of new faces the normal of their face, where corners have normals. */
  private static PolygonMesh flat(PolygonMesh mesh, int firstNew) {
    Polygons faces = mesh.faces();
    List<Attribute> attributes = new ArrayList<>();
    Vector3d n = new Vector3d();
    for (Attribute a : mesh.attributes()) {
      if (a.semantic() != Attribute.Semantic.NORMAL || a.domain() != Attribute.Domain.CORNER) {
        attributes.add(a);
        continue;
      }
      int count = a.valueCount();
      float[] values = Arrays.copyOf(a.values(), 3 * (count + faces.faceCount() - firstNew));
      int[] indices = a.indices().clone();
      for (int f = firstNew; f < faces.faceCount(); f++) {
        Triangulation.newell(mesh.points(), faces, faces.start(f), faces.size(f), n);
        n.mul(n.length() > 0 ? 1 / n.length() : 0);
        int value = count + f - firstNew;
        values[3 * value] = (float) n.x;
        values[3 * value + 1] = (float) n.y;
        values[3 * value + 2] = (float) n.z;
        Arrays.fill(indices, faces.start(f), faces.end(f), value);
      }
      attributes.add(
          new Attribute(a.name(), a.semantic(), a.domain(), a.components(), values, indices));
    }
    return mesh.withAttributes(attributes);
  }

  /** 0, 1, 2 … for what was there, then room for more. */
  private static int[] grown(int old, int more) {
    int[] from = new int[old + more];
    for (int i = 0; i < old; i++) {
      from[i] = i;
    }
    return from;
  }
}
