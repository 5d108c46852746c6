package ferry.stone.core.geometry.mesh;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import java.util.ArrayList;
import java.util.List;

/**
 * A mesh some of whose vertices stand there several times. The first vertices are the old ones in
 * their order, the copies follow; everything that a vertex carries its copies carry too. O(n).
 */
public final class VertexCopies {
  private VertexCopies() {}

  /**
   * @param corners vertex of each corner
   * @param sourceVertex vertex before for each vertex; the first n are themselves
   */
  static PolygonMesh of(PolygonMesh mesh, int[] corners, int[] sourceVertex) {
    int old = mesh.points().count();
    if (sourceVertex.length == old) {
      return mesh;
    }
    List<Attribute> attributes = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      attributes.add(
          a.domain() == Attribute.Domain.VERTEX ? Layers.onVertices(a, sourceVertex) : a);
    }
    Polygons faces = faces(mesh.faces(), corners);
    int[][] copies = copies(old, sourceVertex);
    return mesh.toBuilder()
        .points(mesh.points().picked(sourceVertex))
        .faces(faces)
        .attributes(attributes)
        .hardEdges(
            mesh.hardEdges() == null
                ? null
                : edges(mesh.hardEdges(), null, faces, sourceVertex, old).pairs().toArray())
        .edgeSets(
            mesh.edgeSets().stream()
                .map(
                    s ->
                        s.withPairs(
                            edges(s.pairs(), null, faces, sourceVertex, old).pairs().toArray()))
                .toList())
        .morphs(mesh.morphs().stream().map(m -> morph(m, copies, sourceVertex)).toList())
        .subdivision(creases(mesh.subdivision(), faces, copies, sourceVertex, old))
        .build();
  }

  /** The same faces on other vertices. */
  public static Polygons faces(Polygons faces, int[] corners) {
    int[] offsets = new int[faces.faceCount() + 1];
    for (int f = 0; f < faces.faceCount(); f++) {
      offsets[f + 1] = faces.end(f);
    }
    return Polygons.of(corners.clone(), offsets);
  }

  /** The copies of each vertex, {@code null} for none. */
  private static int[][] copies(int old, int[] sourceVertex) {
    int[][] copies = new int[old][];
    for (int v = old; v < sourceVertex.length; v++) {
      int source = sourceVertex[v];
      int n = copies[source] == null ? 0 : copies[source].length;
      int[] more = n == 0 ? new int[1] : java.util.Arrays.copyOf(copies[source], n + 1);
      more[n] = v;
      copies[source] = more;
    }
    return copies;
  }

  private record Edges(IntList pairs, FloatList values) {}

  /** Named edges, and the sides of faces that were on them and are on copies now. */
  private static Edges edges(
      int[] named, float[] values, Polygons faces, int[] sourceVertex, int old) {
    IntList pairs = new IntList(named.length);
    FloatList kept = new FloatList(named.length / 2);
    VertexPairs byVertex = new VertexPairs(named, 2, old);
    for (int i = 0; i < named.length; i++) {
      pairs.add(named[i]);
    }
    for (int i = 0; values != null && i < values.length; i++) {
      kept.add(values[i]);
    }
    EdgeTable table = EdgeTable.of(faces, sourceVertex.length);
    for (int e = 0; e < table.count(); e++) {
      int a = table.low(e);
      int b = table.high(e);
      if (a < old && b < old) {
        continue;
      }
      int place = byVertex.find(sourceVertex[a], sourceVertex[b]);
      if (place >= 0) {
        pairs.add(a);
        pairs.add(b);
        kept.add(values == null ? 0 : values[place]);
      }
    }
    return new Edges(pairs, kept);
  }

  private static Subdivision creases(
      Subdivision s, Polygons faces, int[][] copies, int[] sourceVertex, int old) {
    if (s == null) {
      return null;
    }
    Edges edges = edges(s.creaseEdges(), s.creaseSharpness(), faces, sourceVertex, old);
    IntList vertices = new IntList(s.creaseVertices().length);
    FloatList sharp = new FloatList(s.creaseVertices().length);
    for (int i = 0; i < s.creaseVertices().length; i++) {
      int v = s.creaseVertices()[i];
      vertices.add(v);
      sharp.add(s.vertexSharpness()[i]);
      for (int copy : copies[v] == null ? new int[0] : copies[v]) {
        vertices.add(copy);
        sharp.add(s.vertexSharpness()[i]);
      }
    }
    return new Subdivision(
        s.scheme(),
        s.level(),
        edges.pairs().toArray(),
        edges.values().toArray(),
        vertices.toArray(),
        sharp.toArray(),
        s.holes());
  }

  private static MorphTarget morph(MorphTarget morph, int[][] copies, int[] sourceVertex) {
    List<MorphTarget.Shape> shapes = new ArrayList<>();
    for (MorphTarget.Shape shape : morph.shapes()) {
      int[] from = sourceVertex;
      int[] vertices = null;
      if (shape.vertices() != null) {
        IntList own = new IntList(shape.vertices().length);
        IntList places = new IntList(shape.vertices().length);
        for (int i = 0; i < shape.vertices().length; i++) {
          own.add(shape.vertices()[i]);
          places.add(i);
        }
        for (int i = 0; i < shape.vertices().length; i++) {
          int[] more = copies[shape.vertices()[i]];
          for (int k = 0; more != null && k < more.length; k++) {
            own.add(more[k]);
            places.add(i);
          }
        }
        from = places.toArray();
        vertices = own.toArray();
      }
      shapes.add(
          new MorphTarget.Shape(
              shape.fullWeight(),
              vertices,
              Layers.triples(shape.deltas(), from),
              shape.normalDeltas() == null ? null : Layers.triples(shape.normalDeltas(), from)));
    }
    return new MorphTarget(morph.name(), morph.weight(), shapes);
  }
}
