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
import java.util.Arrays;
import java.util.List;

/**
 * Cuts a mesh into groups of faces, each a mesh of its own with the vertices, layers, slots, face
 * sets, morph targets, hard edges and creases that it uses. Faces, corners and vertices keep their
 * order. Lines and points go to the first group.
 *
 * <p>Time and memory O(n) over all groups together, for n corners, layer values and morph deltas:
 * tables that span the mesh are made once and cleared by what was touched.
 */
public final class MeshCut {
  private final PolygonMesh mesh;
  private final int[] groupOfFace;
  private final int[] facesByGroup;
  private final int[] groupStart;
  private final int[] placeInGroup;
  private final int[] localVertex;
  private final int[][] localValue;
  private final VertexPairs hardEdges;
  private final List<VertexPairs> edgeSets;
  private final VertexPairs creases;
  private final VertexPairs sharpVertices;
  private final int[][] deltaPlace;
  private final IntList[][] setFaces;

  /**
   * One group as a mesh.
   *
   * @param mesh with the id and name of the whole
   * @param sourceVertex vertex of the whole for each vertex
   * @param sourceSlot slot of the whole for each slot
   */
  public record Part(PolygonMesh mesh, int[] sourceVertex, int[] sourceSlot) {}

  private MeshCut(PolygonMesh mesh, int[] groupOfFace, int groups) {
    this.mesh = mesh;
    this.groupOfFace = groupOfFace;
    int faces = mesh.faces().faceCount();
    groupStart = new int[groups + 1];
    for (int f = 0; f < faces; f++) {
      if (groupOfFace[f] >= 0) {
        groupStart[groupOfFace[f] + 1]++;
      }
    }
    for (int g = 0; g < groups; g++) {
      groupStart[g + 1] += groupStart[g];
    }
    facesByGroup = new int[groupStart[groups]];
    placeInGroup = new int[faces];
    int[] cursor = Arrays.copyOf(groupStart, groups);
    for (int f = 0; f < faces; f++) {
      if (groupOfFace[f] >= 0) {
        placeInGroup[f] = cursor[groupOfFace[f]] - groupStart[groupOfFace[f]];
        facesByGroup[cursor[groupOfFace[f]]++] = f;
      }
    }
    int vertices = mesh.points().count();
    localVertex = filled(vertices);
    localValue = new int[mesh.attributes().size()][];
    for (int a = 0; a < localValue.length; a++) {
      localValue[a] = filled(mesh.attributes().get(a).valueCount());
    }
    Subdivision s = mesh.subdivision();
    hardEdges = mesh.hardEdges() == null ? null : new VertexPairs(mesh.hardEdges(), 2, vertices);
    edgeSets = mesh.edgeSets().stream().map(e -> new VertexPairs(e.pairs(), 2, vertices)).toList();
    creases = s == null ? null : new VertexPairs(s.creaseEdges(), 2, vertices);
    sharpVertices = s == null ? null : new VertexPairs(s.creaseVertices(), 1, vertices);
    deltaPlace = deltaPlaces(vertices);
    setFaces = setFaces(groups);
  }

  private static int[] filled(int length) {
    int[] result = new int[length];
    Arrays.fill(result, -1);
    return result;
  }

  /**
   * All groups in order.
   *
   * @param groupOfFace {@code int[f]}, from 0; −1 for faces that go
   */
  public static List<Part> into(PolygonMesh mesh, int[] groupOfFace, int groups) {
    MeshCut cut = new MeshCut(mesh, groupOfFace, groups);
    List<Part> parts = new ArrayList<>(groups);
    for (int g = 0; g < groups; g++) {
      parts.add(cut.part(g));
    }
    return parts;
  }

  /** The mesh without some faces and without the vertices that nothing uses any more. */
  public static Part keeping(PolygonMesh mesh, boolean[] keep) {
    int[] group = new int[keep.length];
    for (int f = 0; f < keep.length; f++) {
      group[f] = keep[f] ? 0 : -1;
    }
    return into(mesh, group, 1).get(0);
  }

  private Part part(int group) {
    Polygons faces = mesh.faces();
    int from = groupStart[group];
    int count = groupStart[group + 1] - from;
    int[] offsets = new int[count + 1];
    for (int i = 0; i < count; i++) {
      offsets[i + 1] = offsets[i] + faces.size(facesByGroup[from + i]);
    }
    int[] corners = new int[offsets[count]];
    int[] sourceCorner = new int[corners.length];
    IntList used = new IntList(Math.max(4, corners.length / 2));
    for (int i = 0; i < count; i++) {
      int start = faces.start(facesByGroup[from + i]);
      for (int c = offsets[i]; c < offsets[i + 1]; c++) {
        sourceCorner[c] = start + c - offsets[i];
      }
    }
    markUsed(group, sourceCorner, used);
    int[] sourceVertex = used.toArray();
    Arrays.sort(sourceVertex);
    for (int v = 0; v < sourceVertex.length; v++) {
      localVertex[sourceVertex[v]] = v;
    }
    for (int c = 0; c < corners.length; c++) {
      corners[c] = localVertex[faces.vertex(sourceCorner[c])];
    }
    int[] sourceFaces = Arrays.copyOfRange(facesByGroup, from, from + count);
    Slots slots = slots(sourceFaces);
    PolygonMesh part =
        mesh.toBuilder()
            .points(mesh.points().picked(sourceVertex))
            .faces(Polygons.of(corners, offsets))
            .attributes(attributes(sourceCorner, sourceVertex, sourceFaces))
            .materials(slots.materials, slots.ofFace)
            .variantMaterials(slots.variants)
            .smoothing(Layers.picked(mesh.smoothing(), sourceFaces))
            .hardEdges(hardEdges == null ? null : hardEdges.within(sourceVertex, localVertex))
            .faceSets(sets(group))
            .edgeSets(edgeSets(sourceVertex))
            .loose(group == 0 ? loose() : null)
            .morphs(morphs(sourceVertex))
            .subdivision(subdivision(sourceVertex, sourceFaces))
            .build();
    for (int v : sourceVertex) {
      localVertex[v] = -1;
    }
    return new Part(part, sourceVertex, slots.source);
  }

  private List<EdgeSet> edgeSets(int[] sourceVertex) {
    List<EdgeSet> sets = new ArrayList<>(edgeSets.size());
    for (int s = 0; s < edgeSets.size(); s++) {
      int[] pairs = edgeSets.get(s).within(sourceVertex, localVertex);
      if (pairs.length > 0) {
        sets.add(mesh.edgeSets().get(s).withPairs(pairs));
      }
    }
    return sets;
  }

  /** Vertices of the group's corners, and of lines and points for the first group. */
  private void markUsed(int group, int[] sourceCorner, IntList used) {
    for (int c : sourceCorner) {
      use(mesh.faces().vertex(c), used);
    }
    if (group == 0 && mesh.loose() != null) {
      for (int v : mesh.loose().lineVertices()) {
        use(v, used);
      }
      for (int v : mesh.loose().points()) {
        use(v, used);
      }
    }
  }

  private void use(int vertex, IntList used) {
    if (localVertex[vertex] < 0) {
      localVertex[vertex] = 0;
      used.add(vertex);
    }
  }

  private LooseElements loose() {
    LooseElements l = mesh.loose();
    return l == null ? null : l.of(local(l.lineVertices()), local(l.points()));
  }

  private int[] local(int[] vertices) {
    int[] result = new int[vertices.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = localVertex[vertices[i]];
    }
    return result;
  }

  private record Slots(int[] materials, int[][] variants, int[] ofFace, int[] source) {}

  /** The slots that these faces use, in the order of the whole. */
  private Slots slots(int[] sourceFaces) {
    int all = mesh.materialIds().length;
    if (all == 0) {
      return new Slots(
          mesh.materialIds(),
          mesh.variantMaterials(),
          Layers.picked(mesh.faceSlot(), sourceFaces),
          new int[0]);
    }
    boolean[] used = new boolean[all];
    for (int f : sourceFaces) {
      int slot = mesh.slot(f);
      if (slot >= 0) {
        used[slot] = true;
      }
    }
    int[] local = filled(all);
    IntList source = new IntList(4);
    for (int s = 0; s < all; s++) {
      if (used[s]) {
        local[s] = source.size();
        source.add(s);
      }
    }
    int[] sources = source.toArray();
    int[] ofFace = null;
    if (mesh.faceSlot() != null) {
      ofFace = new int[sourceFaces.length];
      for (int i = 0; i < ofFace.length; i++) {
        int slot = mesh.faceSlot()[sourceFaces[i]];
        ofFace[i] = slot < 0 ? -1 : local[slot];
      }
    }
    int[][] variants = new int[mesh.variantMaterials().length][];
    for (int v = 0; v < variants.length; v++) {
      variants[v] = Layers.picked(mesh.variantMaterials()[v], sources);
    }
    return new Slots(Layers.picked(mesh.materialIds(), sources), variants, ofFace, sources);
  }

  private List<Attribute> attributes(int[] corners, int[] vertices, int[] faces) {
    List<Attribute> result = new ArrayList<>();
    for (int a = 0; a < localValue.length; a++) {
      Attribute whole = mesh.attributes().get(a);
      result.add(
          switch (whole.domain()) {
            case CORNER -> attribute(whole, corners, localValue[a]);
            case VERTEX -> attribute(whole, vertices, localValue[a]);
            case FACE -> attribute(whole, faces, localValue[a]);
            case CONSTANT -> whole;
          });
    }
    return result;
  }

  private static Attribute attribute(Attribute whole, int[] elements, int[] local) {
    if (whole.indices() == null) {
      return whole.withTable(whole.table().picked(elements));
    }
    int[] indices = new int[elements.length];
    IntList touched = new IntList(16);
    for (int i = 0; i < indices.length; i++) {
      int value = whole.indices()[elements[i]];
      if (value >= 0 && local[value] < 0) {
        local[value] = touched.size();
        touched.add(value);
      }
      indices[i] = value < 0 ? -1 : local[value];
    }
    int[] rows = touched.toArray();
    for (int row : rows) {
      local[row] = -1;
    }
    return whole.withTable(whole.table().picked(rows)).on(whole.domain(), indices);
  }

  /** The faces of every set, by group: {@code [set][group]}. */
  private IntList[][] setFaces(int groups) {
    IntList[][] result = new IntList[mesh.faceSets().size()][];
    for (int s = 0; s < result.length; s++) {
      result[s] = new IntList[groups];
      for (int face : mesh.faceSets().get(s).faces()) {
        int g = groupOfFace[face];
        if (g >= 0) {
          result[s][g] = result[s][g] == null ? new IntList(8) : result[s][g];
          result[s][g].add(placeInGroup[face]);
        }
      }
    }
    return result;
  }

  private List<FaceSet> sets(int group) {
    List<FaceSet> result = new ArrayList<>();
    for (int s = 0; s < setFaces.length; s++) {
      if (setFaces[s][group] != null) {
        result.add(new FaceSet(mesh.faceSets().get(s).name(), setFaces[s][group].toArray()));
      }
    }
    return result;
  }

  /** For sparse shapes, in order of targets and shapes: the place of each vertex's delta, or −1. */
  private int[][] deltaPlaces(int vertices) {
    List<int[]> places = new ArrayList<>();
    for (MorphTarget morph : mesh.morphs()) {
      for (MorphTarget.Shape shape : morph.shapes()) {
        int[] place = null;
        if (shape.vertices() != null) {
          place = filled(vertices);
          for (int i = 0; i < shape.vertices().length; i++) {
            place[shape.vertices()[i]] = i;
          }
        }
        places.add(place);
      }
    }
    return places.toArray(new int[0][]);
  }

  private List<MorphTarget> morphs(int[] sourceVertex) {
    List<MorphTarget> result = new ArrayList<>();
    int at = 0;
    for (MorphTarget morph : mesh.morphs()) {
      List<MorphTarget.Shape> shapes = new ArrayList<>();
      for (MorphTarget.Shape shape : morph.shapes()) {
        shapes.add(shape(shape, deltaPlace[at++], sourceVertex));
      }
      result.add(new MorphTarget(morph.name(), morph.weight(), shapes));
    }
    return result;
  }

  private static MorphTarget.Shape shape(MorphTarget.Shape whole, int[] place, int[] sourceVertex) {
    IntList vertices = new IntList(16);
    IntList from = new IntList(16);
    for (int v = 0; v < sourceVertex.length; v++) {
      int i = place == null ? sourceVertex[v] : place[sourceVertex[v]];
      if (i >= 0) {
        vertices.add(v);
        from.add(i);
      }
    }
    int[] touched = place == null ? null : vertices.toArray();
    int[] source = from.toArray();
    return new MorphTarget.Shape(
        whole.fullWeight(),
        touched,
        Layers.triples(whole.deltas(), source),
        whole.normalDeltas() == null ? null : Layers.triples(whole.normalDeltas(), source));
  }

  private Subdivision subdivision(int[] sourceVertex, int[] sourceFaces) {
    Subdivision s = mesh.subdivision();
    if (s == null) {
      return null;
    }
    VertexPairs.Picked edges = creases.pick(sourceVertex, localVertex);
    VertexPairs.Picked vertices = sharpVertices.pick(sourceVertex, localVertex);
    IntList holes = new IntList(4);
    if (s.holes().length > 0) {
      boolean[] hole = new boolean[mesh.faces().faceCount()];
      for (int f : s.holes()) {
        hole[f] = true;
      }
      for (int i = 0; i < sourceFaces.length; i++) {
        if (hole[sourceFaces[i]]) {
          holes.add(i);
        }
      }
    }
    return new Subdivision(
        s.scheme(),
        s.level(),
        edges.vertices(),
        picked(s.creaseSharpness(), edges.places()),
        vertices.vertices(),
        picked(s.vertexSharpness(), vertices.places()),
        holes.toArray());
  }

  private static float[] picked(float[] values, int[] places) {
    float[] result = new float[places.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = values[places[i]];
    }
    return result;
  }
}
