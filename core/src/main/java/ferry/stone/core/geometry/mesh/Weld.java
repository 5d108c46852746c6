package ferry.stone.core.geometry.mesh;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * Joins vertices that are close to each other.
 *
 * <p>Vertices are taken in order; each joins the first earlier one that was kept and lies within
 * the distance, so the kept ones lie farther apart than that and a second weld changes nothing. The
 * kept vertex keeps its place, weights and deltas. Vertices that joints or morph targets move apart
 * (lips of a closed mouth) are not joined. Faces that fall to fewer than three corners go; layers
 * on vertices become layers on corners where joined vertices differ, unless seams are to go.
 *
 * <p>Expected time O(n) by a grid of cells as large as the distance.
 */
public final class Weld {
  /** Weights of joints may differ by this in all before vertices count as moved apart. */
  private static final double SAME_WEIGHTS = 0.02;

  private final PolygonMesh mesh;
  private final Skin skin;
  private final Options options;
  private final Coordinates points;
  private final int[] keptAs;
  private final int[][] deltaPlace;

  /**
   * @param distance vertices at most this far apart are joined, in mesh units; 0 for exactly one
   *     place
   * @param bordersOnly only vertices on edges that one face uses
   * @param keepSeams whether UVs, colours and normals may differ at a joined vertex
   */
  public record Options(double distance, boolean bordersOnly, boolean keepSeams) {}

  /**
   * @param mesh the joined mesh; the very mesh when nothing was joined
   * @param sourceVertex vertex before for each vertex, {@code null} when nothing was joined
   * @param joined how many vertices went
   * @param facesGone how many faces fell together
   */
  public record Result(PolygonMesh mesh, int[] sourceVertex, int joined, int facesGone) {}

  private Weld(PolygonMesh mesh, Skin skin, Options options) {
    this.mesh = mesh;
    this.skin = skin;
    this.options = options;
    points = mesh.points();
    keptAs = new int[points.count()];
    deltaPlace = deltaPlaces();
  }

  /**
   * @param skin that moves the mesh, or {@code null}
   */
  public static Result of(PolygonMesh mesh, Skin skin, Options options) {
    EdgeTable edges =
        options.bordersOnly() ? EdgeTable.of(mesh.faces(), mesh.points().count()) : null;
    return of(mesh, skin, options, edges);
  }

  /**
   * @param edges of the mesh's faces; {@code null} where not only borders are joined
   */
  static Result of(PolygonMesh mesh, Skin skin, Options options, EdgeTable edges) {
    Weld weld = new Weld(mesh, skin, options);
    int joined = weld.match(edges);
    return joined == 0 ? new Result(mesh, null, 0, 0) : weld.joined(joined);
  }

  /**
   * How many vertices a weld would take away: for checks that change nothing.
   *
   * @param edges of the mesh's faces
   */
  public static int count(PolygonMesh mesh, Skin skin, Options options, EdgeTable edges) {
    return new Weld(mesh, skin, options).match(edges);
  }

  private int match(EdgeTable edges) {
    BitSet candidates = candidates(edges);
    Grid grid = new Grid();
    int joined = 0;
    for (int v = 0; v < keptAs.length; v++) {
      keptAs[v] = v;
      boolean finite = Double.isFinite(points.x(v) + points.y(v) + points.z(v));
      if (finite && (candidates == null || candidates.get(v))) {
        int kept = grid.find(v);
        if (kept >= 0) {
          keptAs[v] = kept;
          joined++;
        } else {
          grid.add(v);
        }
      }
    }
    return joined;
  }

  /** Vertices on open edges, or {@code null} when all may join. */
  private BitSet candidates(EdgeTable edges) {
    if (!options.bordersOnly()) {
      return null;
    }
    BitSet border = new BitSet(points.count());
    for (int e = 0; e < edges.count(); e++) {
      if (edges.uses(e) == 1) {
        border.set(edges.low(e));
        border.set(edges.high(e));
      }
    }
    return border;
  }

  /** Kept vertices by cell, in chains. */
  private final class Grid {
    private final double cell = options.distance() > 0 ? options.distance() : 1e-30;
    private final int[] head;
    private final int[] next = new int[points.count()];
    private final int mask;

    Grid() {
      int capacity = Integer.highestOneBit(Math.max(16, points.count())) * 2;
      head = new int[capacity];
      Arrays.fill(head, -1);
      mask = capacity - 1;
    }

    private int slot(long x, long y, long z) {
      long h = (x * 0x9E3779B97F4A7C15L + y) * 0xC2B2AE3D27D4EB4FL + z;
      h = (h ^ (h >>> 29)) * 0x165667B19E3779F9L;
      return (int) (h >>> 33) & mask;
    }

    private long at(double value) {
      return options.distance() > 0
          ? (long) Math.floor(value / cell)
          : Double.doubleToLongBits(value + 0.0);
    }

    void add(int v) {
      int slot = slot(at(points.x(v)), at(points.y(v)), at(points.z(v)));
      next[v] = head[slot];
      head[slot] = v;
    }

    /** The lowest kept vertex within the distance, or −1. */
    int find(int v) {
      long x = at(points.x(v));
      long y = at(points.y(v));
      long z = at(points.z(v));
      int reach = options.distance() > 0 ? 1 : 0;
      int best = -1;
      for (long i = x - reach; i <= x + reach; i++) {
        for (long j = y - reach; j <= y + reach; j++) {
          for (long k = z - reach; k <= z + reach; k++) {
            for (int other = head[slot(i, j, k)]; other >= 0; other = next[other]) {
              if ((best < 0 || other < best) && fits(v, other)) {
                best = other;
              }
            }
          }
        }
      }
      return best;
    }
  }

  private boolean fits(int a, int b) {
    double x = points.x(a) - points.x(b);
    double y = points.y(a) - points.y(b);
    double z = points.z(a) - points.z(b);
    double most = options.distance();
    return x * x + y * y + z * z <= most * most && sameWeights(a, b) && sameDeltas(a, b);
  }

  private boolean sameWeights(int a, int b) {
    if (skin == null) {
      return true;
    }
    return oneSided(a, b) + oneSided(b, a) <= SAME_WEIGHTS;
  }

  /** What joints weigh more at {@code a} than at {@code b}. */
  private double oneSided(int a, int b) {
    double more = 0;
    for (int i = skin.offsets()[a]; i < skin.offsets()[a + 1]; i++) {
      double other = 0;
      for (int j = skin.offsets()[b]; j < skin.offsets()[b + 1]; j++) {
        other += skin.joints()[j] == skin.joints()[i] ? skin.weights()[j] : 0;
      }
      more += Math.max(0, skin.weights()[i] - other);
    }
    return more;
  }

  private int[][] deltaPlaces() {
    List<int[]> places = new ArrayList<>();
    for (MorphTarget morph : mesh.morphs()) {
      for (MorphTarget.Shape shape : morph.shapes()) {
        int[] place = null;
        if (shape.vertices() != null) {
          place = new int[points.count()];
          Arrays.fill(place, -1);
          for (int i = 0; i < shape.vertices().length; i++) {
            place[shape.vertices()[i]] = i;
          }
        }
        places.add(place);
      }
    }
    return places.toArray(new int[0][]);
  }

  private boolean sameDeltas(int a, int b) {
    int at = 0;
    double most = Math.max(options.distance(), 1e-9);
    for (MorphTarget morph : mesh.morphs()) {
      for (MorphTarget.Shape shape : morph.shapes()) {
        int[] place = deltaPlace[at++];
        int i = place == null ? a : place[a];
        int j = place == null ? b : place[b];
        double sum = 0;
        for (int k = 0; k < 3; k++) {
          double d =
              (i < 0 ? 0 : shape.deltas()[3 * i + k]) - (j < 0 ? 0 : shape.deltas()[3 * j + k]);
          sum += d * d;
        }
        if (sum > most * most) {
          return false;
        }
      }
    }
    return true;
  }

  private Result joined(int count) {
    Polygons old = mesh.faces();
    int[] corners = new int[old.cornerCount()];
    int[] sourceCorner = new int[corners.length];
    IntList offsets = new IntList(old.faceCount() + 1);
    IntList sourceFace = new IntList(old.faceCount());
    offsets.add(0);
    int at = 0;
    for (int f = 0; f < old.faceCount(); f++) {
      int start = at;
      for (int c = old.start(f); c < old.end(f); c++) {
        int v = keptAs[old.vertex(c)];
        if (at == start || corners[at - 1] != v) {
          corners[at] = v;
          sourceCorner[at++] = c;
        }
      }
      while (at - start > 1 && corners[at - 1] == corners[start]) {
        at--;
      }
      // A face that was a line or point already stays what it was.
      if (at - start < 3 && old.size(f) >= 3) {
        at = start;
      } else {
        offsets.add(at);
        sourceFace.add(f);
      }
    }
    PolygonMesh rough =
        rebuilt(
            Polygons.of(Arrays.copyOf(corners, at), offsets.toArray()),
            Arrays.copyOf(sourceCorner, at),
            sourceFace.toArray());
    return compacted(rough, count, old.faceCount() - sourceFace.size());
  }

  /** The mesh with other faces over the same vertices. */
  private PolygonMesh rebuilt(Polygons faces, int[] corners, int[] sourceFace) {
    int[] newFace = new int[mesh.faces().faceCount()];
    Arrays.fill(newFace, -1);
    for (int f = 0; f < sourceFace.length; f++) {
      newFace[sourceFace[f]] = f;
    }
    List<Attribute> attributes = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      attributes.add(
          switch (a.domain()) {
            case CORNER -> Layers.moved(a, corners);
            case FACE -> Layers.moved(a, sourceFace);
            case VERTEX -> options.keepSeams() ? seamed(a, corners) : a;
            case CONSTANT -> a;
          });
    }
    return mesh.toBuilder()
        .faces(faces)
        .attributes(attributes)
        .materials(mesh.materialIds(), Layers.picked(mesh.faceSlot(), sourceFace))
        .smoothing(Layers.picked(mesh.smoothing(), sourceFace))
        .hardEdges(joinedPairs(mesh.hardEdges()))
        .faceSets(Layers.sets(mesh.faceSets(), newFace))
        .edgeSets(Layers.edgeSets(mesh.edgeSets(), keptAs))
        .loose(Layers.loose(mesh.loose(), keptAs))
        .subdivision(subdivision(newFace))
        .build();
  }

  /** A layer on vertices as one on corners where joined vertices have different values. */
  private Attribute seamed(Attribute a, int[] corners) {
    boolean differs = false;
    for (int v = 0; v < keptAs.length && !differs; v++) {
      differs = keptAs[v] != v && !Layers.sameValue(a, v, keptAs[v]);
    }
    if (!differs) {
      return a;
    }
    int[] indices = new int[corners.length];
    for (int c = 0; c < indices.length; c++) {
      int v = mesh.faces().vertex(corners[c]);
      indices[c] = a.indices() == null ? v : a.indices()[v];
    }
    return a.on(Domain.CORNER, indices);
  }

  private int[] joinedPairs(int[] pairs) {
    if (pairs == null) {
      return null;
    }
    IntList result = new IntList(pairs.length);
    for (int i = 0; i + 1 < pairs.length; i += 2) {
      int a = keptAs[pairs[i]];
      int b = keptAs[pairs[i + 1]];
      if (a != b) {
        result.add(a);
        result.add(b);
      }
    }
    return result.toArray();
  }

  private Subdivision subdivision(int[] newFace) {
    Subdivision s = mesh.subdivision();
    if (s == null) {
      return null;
    }
    int[] edges = new int[s.creaseEdges().length];
    for (int i = 0; i < edges.length; i++) {
      edges[i] = keptAs[s.creaseEdges()[i]];
    }
    int[] vertices = new int[s.creaseVertices().length];
    for (int i = 0; i < vertices.length; i++) {
      vertices[i] = keptAs[s.creaseVertices()[i]];
    }
    return new Subdivision(
        s.scheme(),
        s.level(),
        edges,
        s.creaseSharpness(),
        vertices,
        s.vertexSharpness(),
        Layers.numbers(s.holes(), newFace));
  }

  /** Without the vertices that went; others that no face uses stay. */
  private Result compacted(PolygonMesh rough, int joined, int facesGone) {
    int[] newNumber = new int[keptAs.length];
    IntList source = new IntList(keptAs.length - joined);
    for (int v = 0; v < keptAs.length; v++) {
      if (keptAs[v] == v) {
        newNumber[v] = source.size();
        source.add(v);
      }
    }
    int[] sourceVertex = source.toArray();
    return new Result(
        Layers.renumbered(rough, sourceVertex, newNumber), sourceVertex, joined, facesGone);
  }
}
