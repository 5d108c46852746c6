package ferry.stone.core.geometry.mesh;

import ferry.stone.core.geometry.triangle.Triangulation;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.function.IntBinaryOperator;
import org.joml.Vector3d;

/**
 * Vertex normals weighted by the corner's angle (Thürmer and Wüthrich 1998, "Computing vertex
 * normals from polygonal facets"), smooth only between faces that belong together.
 *
 * <p>Faces around a vertex are joined across each shared edge when the rule says so; each joined
 * fan gets one normal. Time O(c log k) for c corners and k corners around a vertex. A face without
 * area adds nothing; a fan of only such faces gets the normal +Z.
 */
public final class Normals {
  private final PolygonMesh mesh;
  private final Polygons faces;
  private final Coordinates points;
  private final int[] faceOf;
  private final float[] faceNormal;
  private final float[] cornerAngle;

  private Normals(PolygonMesh mesh) {
    this.mesh = mesh;
    faces = mesh.faces();
    points = mesh.points();
    faceOf = new int[faces.cornerCount()];
    faceNormal = new float[3 * faces.faceCount()];
    cornerAngle = new float[faces.cornerCount()];
  }

  /**
   * Normals that break where two faces meet at more than an angle.
   *
   * @param degrees 0 to 180: 0 keeps every edge hard, 180 smooths all
   * @return a corner attribute with one value for each fan
   */
  public static Attribute byAngle(PolygonMesh mesh, double degrees, Progress progress) {
    Normals work = new Normals(mesh);
    double least = Math.cos(Math.toRadians(degrees)) - 1e-6;
    float[] n = work.faceNormal;
    return work.compute(
        (f, g) ->
            (double) n[3 * f] * n[3 * g]
                        + (double) n[3 * f + 1] * n[3 * g + 1]
                        + (double) n[3 * f + 2] * n[3 * g + 2]
                    >= least
                ? 1
                : 0,
        progress);
  }

  /** Normals smooth inside each smoothing group; group 0 is flat. Needs {@code smoothing}. */
  public static Attribute bySmoothingGroups(PolygonMesh mesh, Progress progress) {
    int[] group = mesh.smoothing();
    return new Normals(mesh)
        .compute((f, g) -> group[f] != 0 && group[f] == group[g] ? 1 : 0, progress);
  }

  /** Normals that break at the mesh's own hard edges. Needs {@code hardEdges}. */
  public static Attribute byHardEdges(PolygonMesh mesh, Progress progress) {
    java.util.Set<Long> hard = new java.util.HashSet<>();
    int[] pairs = mesh.hardEdges();
    for (int i = 0; i + 1 < pairs.length; i += 2) {
      hard.add(pair(pairs[i], pairs[i + 1]));
    }
    Normals work = new Normals(mesh);
    java.util.Set<Long> apart = new java.util.HashSet<>();
    if (!hard.isEmpty()) {
      EdgeTable edges = EdgeTable.of(mesh.faces(), mesh.points().count());
      work.prepareFaces();
      for (int e = 0; e < edges.count(); e++) {
        if (hard.contains(pair(edges.low(e), edges.high(e)))) {
          for (int i = 1; i < edges.uses(e); i++) {
            apart.add(pair(work.faceOf[edges.corner(e, 0)], work.faceOf[edges.corner(e, i)]));
          }
        }
      }
    }
    return work.compute((f, g) -> apart.contains(pair(f, g)) ? 0 : 1, progress);
  }

  private static long pair(int a, int b) {
    return (long) Math.min(a, b) << 32 | Math.max(a, b);
  }

  private Attribute compute(IntBinaryOperator joins, Progress progress) {
    prepareFaces();
    progress.checkCancelled();
    int vertices = points.count();
    int[] offsets = new int[vertices + 1];
    int corners = faces.cornerCount();
    for (int c = 0; c < corners; c++) {
      offsets[faces.vertex(c) + 1]++;
    }
    for (int v = 0; v < vertices; v++) {
      offsets[v + 1] += offsets[v];
    }
    int[] around = new int[corners];
    int[] cursor = Arrays.copyOf(offsets, vertices);
    for (int c = 0; c < corners; c++) {
      around[cursor[faces.vertex(c)]++] = c;
    }
    int[] index = new int[corners];
    ferry.stone.core.math.FloatList values = new ferry.stone.core.math.FloatList(3 * vertices);
    Fan fan = new Fan();
    for (int v = 0; v < vertices; v++) {
      if ((v & 0xffff) == 0) {
        progress.checkCancelled();
        progress.report("computing normals", (double) v / vertices);
      }
      fan.solve(around, offsets[v], offsets[v + 1], joins, index, values);
    }
    return new Attribute(
        mesh.first(Attribute.Semantic.NORMAL).map(Attribute::name).orElse("normal"),
        Attribute.Semantic.NORMAL,
        Attribute.Domain.CORNER,
        3,
        values.toArray(),
        index);
  }

  private void prepareFaces() {
    Vector3d n = new Vector3d();
    for (int f = 0; f < faces.faceCount(); f++) {
      int start = faces.start(f);
      int end = faces.end(f);
      Triangulation.newell(points, faces, start, end - start, n);
      double length = n.length();
      if (length > 0) {
        faceNormal[3 * f] = (float) (n.x / length);
        faceNormal[3 * f + 1] = (float) (n.y / length);
        faceNormal[3 * f + 2] = (float) (n.z / length);
      }
      for (int c = start; c < end; c++) {
        faceOf[c] = f;
        cornerAngle[c] = length > 0 ? (float) angle(c, start, end) : 0f;
      }
    }
  }

  private int previous(int corner, int start, int end) {
    return faces.vertex(corner == start ? end - 1 : corner - 1);
  }

  private int next(int corner, int start, int end) {
    return faces.vertex(corner + 1 == end ? start : corner + 1);
  }

  private double angle(int corner, int start, int end) {
    int v = faces.vertex(corner);
    int p = previous(corner, start, end);
    int q = next(corner, start, end);
    double ax = points.x(p) - points.x(v);
    double ay = points.y(p) - points.y(v);
    double az = points.z(p) - points.z(v);
    double bx = points.x(q) - points.x(v);
    double by = points.y(q) - points.y(v);
    double bz = points.z(q) - points.z(v);
    double cx = ay * bz - az * by;
    double cy = az * bx - ax * bz;
    double cz = ax * by - ay * bx;
    return Math.atan2(Math.sqrt(cx * cx + cy * cy + cz * cz), ax * bx + ay * by + az * bz);
  }

  /** Joins the corners around one vertex into fans. Buffers are kept from vertex to vertex. */
  private final class Fan {
    private long[] spokes = new long[32];
    private int[] root = new int[16];
    private int[] valueOf = new int[16];

    void solve(
        int[] around,
        int from,
        int to,
        IntBinaryOperator joins,
        int[] index,
        ferry.stone.core.math.FloatList values) {
      int k = to - from;
      if (root.length < k) {
        root = new int[2 * k];
        valueOf = new int[2 * k];
        spokes = new long[4 * k];
      }
      for (int i = 0; i < k; i++) {
        int corner = around[from + i];
        int start = faces.start(faceOf[corner]);
        int end = faces.end(faceOf[corner]);
        root[i] = i;
        valueOf[i] = -1;
        spokes[2 * i] = ((long) previous(corner, start, end) << 32) | i;
        spokes[2 * i + 1] = ((long) next(corner, start, end) << 32) | i;
      }
      Arrays.sort(spokes, 0, 2 * k);
      for (int s = 1; s < 2 * k; s++) {
        if (spokes[s] >>> 32 == spokes[s - 1] >>> 32) {
          int i = (int) spokes[s];
          int j = (int) spokes[s - 1];
          if (joins.applyAsInt(faceOf[around[from + i]], faceOf[around[from + j]]) != 0) {
            root[find(i)] = find(j);
          }
        }
      }
      for (int i = 0; i < k; i++) {
        int fan = find(i);
        if (valueOf[fan] < 0) {
          valueOf[fan] = values.size() / 3;
          addNormal(around, from, k, fan, values);
        }
        index[around[from + i]] = valueOf[fan];
      }
    }

    private void addNormal(
        int[] around, int from, int k, int fan, ferry.stone.core.math.FloatList values) {
      double x = 0;
      double y = 0;
      double z = 0;
      for (int i = 0; i < k; i++) {
        if (find(i) == fan) {
          int corner = around[from + i];
          int f = faceOf[corner];
          x += (double) cornerAngle[corner] * faceNormal[3 * f];
          y += (double) cornerAngle[corner] * faceNormal[3 * f + 1];
          z += (double) cornerAngle[corner] * faceNormal[3 * f + 2];
        }
      }
      double length = Math.sqrt(x * x + y * y + z * z);
      boolean none = !(length > 1e-12);
      values.add(none ? 0f : (float) (x / length));
      values.add(none ? 0f : (float) (y / length));
      values.add(none ? 1f : (float) (z / length));
    }

    private int find(int i) {
      int at = i;
      while (root[at] != at) {
        root[at] = root[root[at]];
        at = root[at];
      }
      return at;
    }
  }
}
