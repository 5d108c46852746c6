package ferry.stone.core.geometry.uv;

import ferry.stone.core.geometry.mesh.DisjointSets;
import ferry.stone.core.geometry.mesh.EdgeTable;
import ferry.stone.core.geometry.mesh.Pieces;
import ferry.stone.core.geometry.mesh.VertexCopies;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Arrays;

/**
 * Islands of a UV set: faces that hang together by edges on which both have the same UVs, and that
 * are wound the same way in the UV plane, so that mirrored halves are two. Vertices at one place
 * count as one. Faces with a corner without a UV, or one that is no number, belong to no island.
 * O(c log k) for c corners and k edges at a vertex.
 *
 * @param count how many islands
 * @param ofFace {@code int[f]}, numbered in order of their first face, −1 for none
 */
public record UvIslands(int count, int[] ofFace) {
  private static final float SAME = 1e-6f;

  public static UvIslands of(PolygonMesh mesh, Attribute uv) {
    return of(mesh, uv, new int[mesh.faces().faceCount()]);
  }

  /**
   * @param kind a number for each face; faces of different numbers are in different islands, those
   *     below zero each in one of its own
   */
  static UvIslands of(PolygonMesh mesh, Attribute uv, int[] kind) {
    Polygons faces = mesh.faces();
    int[] place = Pieces.firstAtSamePlace(mesh.points());
    int[] corners = new int[faces.cornerCount()];
    int[] faceOf = new int[faces.cornerCount()];
    int[] value = new int[faces.cornerCount()];
    DisjointSets sets = new DisjointSets(faces.faceCount());
    boolean[] bare = new boolean[faces.faceCount()];
    boolean[] mirrored = new boolean[faces.faceCount()];
    for (int f = 0; f < faces.faceCount(); f++) {
      bare[f] = faces.size(f) == 0;
      for (int c = faces.start(f); c < faces.end(f); c++) {
        corners[c] = place[faces.vertex(c)];
        faceOf[c] = f;
        value[c] = uv.valueOf(c, faces.vertex(c), f);
        bare[f] |= value[c] < 0 || !isNumber(uv, value[c]);
      }
      mirrored[f] = !bare[f] && area(uv, value, faces.start(f), faces.end(f)) < 0;
    }
    EdgeTable table = EdgeTable.of(VertexCopies.faces(faces, corners), mesh.points().count());
    for (int e = 0; e < table.count(); e++) {
      int a = table.corner(e, 0);
      for (int use = 1; use < table.uses(e); use++) {
        int b = table.corner(e, use);
        int first = faceOf[a];
        int second = faceOf[b];
        boolean apart = mirrored[first] != mirrored[second] || kind[first] != kind[second];
        if (bare[first] || bare[second] || apart || kind[first] < 0) {
          continue;
        }
        int endA = end(faces, first, a);
        int endB = end(faces, second, b);
        boolean alike = corners[a] == corners[b];
        if (same(uv, value[a], value[alike ? b : endB])
            && same(uv, value[endA], value[alike ? endB : b])) {
          sets.join(first, second);
        }
      }
    }
    int[] number = new int[faces.faceCount()];
    Arrays.fill(number, -1);
    int[] ofFace = new int[number.length];
    int count = 0;
    for (int f = 0; f < number.length; f++) {
      int root = sets.find(f);
      if (!bare[f] && number[root] < 0) {
        number[root] = count++;
      }
      ofFace[f] = bare[f] ? -1 : number[root];
    }
    return new UvIslands(count, ofFace);
  }

  private static boolean isNumber(Attribute uv, int value) {
    int at = uv.components() * value;
    return Float.isFinite(uv.values()[at] + uv.values()[at + 1]);
  }

  /** Twice the area in the UV plane, below zero when wound clockwise. */
  private static double area(Attribute uv, int[] value, int from, int to) {
    int k = uv.components();
    double area = 0;
    for (int c = from; c < to; c++) {
      int a = k * value[c];
      int b = k * value[c + 1 == to ? from : c + 1];
      area += (double) uv.values()[a] * uv.values()[b + 1];
      area -= (double) uv.values()[b] * uv.values()[a + 1];
    }
    return area;
  }

  private static int end(Polygons faces, int face, int corner) {
    return corner + 1 == faces.end(face) ? faces.start(face) : corner + 1;
  }

  private static boolean same(Attribute uv, int a, int b) {
    int k = uv.components();
    return a == b
        || Math.abs(uv.values()[k * a] - uv.values()[k * b]) <= SAME
            && Math.abs(uv.values()[k * a + 1] - uv.values()[k * b + 1]) <= SAME;
  }
}
