package ferry.stone.core.geometry.mesh;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import java.util.ArrayList;
import java.util.List;

/** What becomes of a mesh's layers when its faces, corners or vertices get other numbers. */
public final class Layers {
  private Layers() {}

  /** The layer for elements that stood at other places: element i is what {@code from[i]} was. */
  public static Attribute moved(Attribute a, int[] from) {
    int[] indices = new int[from.length];
    for (int i = 0; i < indices.length; i++) {
      indices[i] = a.indices() == null ? from[i] : a.indices()[from[i]];
    }
    return a.on(a.domain(), indices);
  }

  public static int[] picked(int[] values, int[] from) {
    if (values == null) {
      return null;
    }
    int[] result = new int[from.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = values[from[i]];
    }
    return result;
  }

  /** The new numbers of some elements, without those that went ({@code −1}). */
  static int[] numbers(int[] elements, int[] newNumber) {
    IntList result = new IntList(elements.length);
    for (int e : elements) {
      if (newNumber[e] >= 0) {
        result.add(newNumber[e]);
      }
    }
    return result.toArray();
  }

  static List<FaceSet> sets(List<FaceSet> sets, int[] newFace) {
    return sets.stream().map(s -> new FaceSet(s.name(), numbers(s.faces(), newFace))).toList();
  }

  static LooseElements loose(LooseElements l, int[] newNumber) {
    return l == null
        ? null
        : l.of(picked(newNumber, l.lineVertices()), picked(newNumber, l.points()));
  }

  /** Whether two elements of a layer's domain carry the same numbers. */
  static boolean sameValue(Attribute a, int x, int y) {
    int i = a.indices() == null ? x : a.indices()[x];
    int j = a.indices() == null ? y : a.indices()[y];
    if (i == j) {
      return true;
    }
    return i >= 0 && j >= 0 && a.table().same(i, a.table(), j);
  }

  /**
   * The mesh with some vertices only, in their order. Everything that names a vertex must name one
   * that stays.
   *
   * @param sourceVertex vertex before for each vertex
   * @param newNumber number after for each vertex that stays
   */
  public static PolygonMesh renumbered(PolygonMesh mesh, int[] sourceVertex, int[] newNumber) {
    Polygons faces = mesh.faces();
    int[] corners = new int[faces.cornerCount()];
    int[] offsets = new int[faces.faceCount() + 1];
    for (int f = 0; f < faces.faceCount(); f++) {
      for (int c = faces.start(f); c < faces.end(f); c++) {
        corners[c] = newNumber[faces.vertex(c)];
      }
      offsets[f + 1] = faces.end(f);
    }
    List<Attribute> attributes = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      attributes.add(a.domain() == Attribute.Domain.VERTEX ? onVertices(a, sourceVertex) : a);
    }
    int[] stays = new int[mesh.points().count()];
    java.util.Arrays.fill(stays, -1);
    for (int v = 0; v < sourceVertex.length; v++) {
      stays[sourceVertex[v]] = v;
    }
    Subdivision s = mesh.subdivision();
    return mesh.toBuilder()
        .points(mesh.points().picked(sourceVertex))
        .faces(Polygons.of(corners, offsets))
        .attributes(attributes)
        .hardEdges(mesh.hardEdges() == null ? null : picked(newNumber, mesh.hardEdges()))
        .edgeSets(edgeSets(mesh.edgeSets(), newNumber))
        .loose(loose(mesh.loose(), newNumber))
        .morphs(mesh.morphs().stream().map(m -> morph(m, sourceVertex, stays)).toList())
        .subdivision(
            s == null
                ? null
                : new Subdivision(
                    s.scheme(),
                    s.level(),
                    picked(newNumber, s.creaseEdges()),
                    s.creaseSharpness(),
                    picked(newNumber, s.creaseVertices()),
                    s.vertexSharpness(),
                    s.holes()))
        .build();
  }

  /** Sets without the edges whose vertices went. */
  static List<EdgeSet> edgeSets(List<EdgeSet> sets, int[] newNumber) {
    List<EdgeSet> all = new ArrayList<>(sets.size());
    for (EdgeSet set : sets) {
      IntList pairs = new IntList(set.pairs().length);
      for (int i = 0; i + 1 < set.pairs().length; i += 2) {
        int a = newNumber[set.pairs()[i]];
        int b = newNumber[set.pairs()[i + 1]];
        if (a >= 0 && b >= 0 && a != b) {
          pairs.add(a);
          pairs.add(b);
        }
      }
      all.add(set.withPairs(pairs.toArray()));
    }
    return all;
  }

  static Attribute onVertices(Attribute a, int[] sourceVertex) {
    if (a.indices() != null) {
      return moved(a, sourceVertex);
    }
    return a.withTable(a.table().picked(sourceVertex));
  }

  private static MorphTarget morph(MorphTarget morph, int[] sourceVertex, int[] newNumber) {
    List<MorphTarget.Shape> shapes = new ArrayList<>();
    for (MorphTarget.Shape shape : morph.shapes()) {
      IntList vertices = new IntList(16);
      IntList from = new IntList(16);
      if (shape.vertices() == null) {
        for (int v : sourceVertex) {
          from.add(v);
        }
      } else {
        for (int i = 0; i < shape.vertices().length; i++) {
          if (newNumber[shape.vertices()[i]] >= 0) {
            vertices.add(newNumber[shape.vertices()[i]]);
            from.add(i);
          }
        }
      }
      int[] places = from.toArray();
      shapes.add(
          new MorphTarget.Shape(
              shape.fullWeight(),
              shape.vertices() == null ? null : vertices.toArray(),
              triples(shape.deltas(), places),
              shape.normalDeltas() == null ? null : triples(shape.normalDeltas(), places)));
    }
    return new MorphTarget(morph.name(), morph.weight(), shapes);
  }

  static float[] triples(float[] values, int[] from) {
    float[] result = new float[3 * from.length];
    for (int i = 0; i < from.length; i++) {
      System.arraycopy(values, 3 * from[i], result, 3 * i, 3);
    }
    return result;
  }
}
