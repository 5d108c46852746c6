package ferry.stone.core.geometry.triangle;

import ferry.stone.core.geometry.mesh.EqualValues;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.geometry.uv.TangentSpace;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * Turns a polygon mesh into triangles with one index for all values: faces are triangulated, a
 * vertex is repeated only where its UV, normal or colour differs between corners.
 *
 * <p>Order is a contract: in each primitive the first appearance of every source vertex comes
 * first, in source order; repeats for seams follow, again in source order. Time O(c) for c corners.
 */
public final class RenderMesh {
  private final PolygonMesh mesh;
  private final int[] look;
  private final Attribute normals;
  private final List<Attribute> uvs;
  private final Attribute colours;
  private final Attribute tangents;
  private final List<Attribute> custom;
  private final List<Attribute> split = new ArrayList<>();
  private final List<int[]> canonical = new ArrayList<>();

  private RenderMesh(PolygonMesh mesh, List<Attribute> custom, Progress progress) {
    this.custom = custom;
    this.mesh = mesh;
    look = mesh.looks();
    Attribute found = mesh.first(Attribute.Semantic.NORMAL).orElse(null);
    if (found == null && mesh.smoothing() != null && mesh.faces().faceCount() > 0) {
      found = Normals.bySmoothingGroups(mesh, progress);
    } else if (found == null && mesh.hardEdges() != null && mesh.faces().faceCount() > 0) {
      found = Normals.byHardEdges(mesh, progress);
    }
    normals = complete(found) ? found : null;
    uvs = mesh.all(Attribute.Semantic.UV);
    colours = mesh.first(Attribute.Semantic.COLOUR).orElse(null);
    Attribute own = mesh.first(Attribute.Semantic.TANGENT).orElse(null);
    boolean sided = own != null && own.components() == TangentSpace.COMPONENTS;
    tangents = sided && normals != null && complete(own) ? own : null;
    addSplitting(normals);
    uvs.forEach(this::addSplitting);
    addSplitting(colours);
    addSplitting(tangents);
    custom.forEach(this::addSplitting);
  }

  /**
   * One primitive for each material in use (with its variants, where there are some), in slot
   * order; unassigned faces last.
   */
  public static List<RenderPrimitive> of(PolygonMesh mesh, Progress progress) {
    return new RenderMesh(mesh, List.of(), progress).build(progress);
  }

  /** As {@link #of} with rows of custom layers of the mesh, which may part vertices too. */
  public static List<RenderPrimitive> with(
      PolygonMesh mesh, List<Attribute> custom, Progress progress) {
    return new RenderMesh(mesh, custom, progress).build(progress);
  }

  /** Whether every corner has a normal: a half-filled layer would land as zeros. */
  private boolean complete(Attribute attribute) {
    if (attribute == null || attribute.indices() == null) {
      return attribute != null;
    }
    for (int index : attribute.indices()) {
      if (index < 0) {
        return false;
      }
    }
    return true;
  }

  private void addSplitting(Attribute attribute) {
    if (attribute != null
        && (attribute.domain() != Attribute.Domain.VERTEX || attribute.indices() != null)) {
      split.add(attribute);
      canonical.add(
          attribute.semantic() == Attribute.Semantic.OTHER
              ? attribute.table().firstOfEach()
              : EqualValues.firstOfEach(attribute.values(), attribute.components()));
    }
  }

  private List<RenderPrimitive> build(Progress progress) {
    Polygons faces = mesh.faces();
    int[] triangles = triangles(mesh, look);
    List<RenderPrimitive> result = new ArrayList<>();
    int[] head = new int[mesh.points().count()];
    for (int slot : order(look)) {
      int count = triangles[slot + 1];
      if (count > 0) {
        progress.checkCancelled();
        boolean whole = split.isEmpty() && faces.allTriangles() && count == faces.faceCount();
        result.add(whole ? whole(slot, head) : primitive(slot, count, head));
      }
    }
    return result;
  }

  private int lookOf(int face) {
    return lookOf(mesh, look, face);
  }

  private static int lookOf(PolygonMesh mesh, int[] look, int face) {
    int slot = mesh.slot(face);
    return slot < 0 ? -1 : look[slot];
  }

  /** How many there are of each look; those without a material come first. */
  private static int[] triangles(PolygonMesh mesh, int[] look) {
    Polygons faces = mesh.faces();
    int[] triangles = new int[look.length + 1];
    if (mesh.faceSlot() == null && faces.faceCount() > 0) {
      triangles[lookOf(mesh, look, 0) + 1] = Math.toIntExact(faces.triangleCount());
      return triangles;
    }
    for (int f = 0; f < faces.faceCount(); f++) {
      triangles[lookOf(mesh, look, f) + 1] += Math.max(0, faces.size(f) - 2);
    }
    return triangles;
  }

  /** The looks in the order of their primitives. */
  private static Set<Integer> order(int[] look) {
    Set<Integer> order = new LinkedHashSet<>();
    for (int slot : look) {
      order.add(slot);
    }
    order.add(-1);
    return order;
  }

  /** The mesh face of each triangle in the order of {@link #of}, without making them. */
  public static int[] faces(PolygonMesh mesh) {
    Polygons faces = mesh.faces();
    int[] look = mesh.looks();
    int[] triangles = triangles(mesh, look);
    int[] all = new int[Math.toIntExact(faces.triangleCount())];
    int at = 0;
    if (faces.allTriangles() && mesh.faceSlot() == null) {
      Arrays.setAll(all, f -> f);
      return all;
    }
    for (int slot : order(look)) {
      for (int f = 0; triangles[slot + 1] > 0 && f < faces.faceCount(); f++) {
        int count = lookOf(mesh, look, f) == slot ? Math.max(0, faces.size(f) - 2) : 0;
        Arrays.fill(all, at, at + count, f);
        at += count;
      }
    }
    return all;
  }

  /** All triangles of a mesh whose vertices carry all values: they stay as they are. */
  private RenderPrimitive whole(int slot, int[] place) {
    int[] indices = mesh.faces().vertices();
    Arrays.fill(place, -1);
    for (int v : indices) {
      place[v] = 0;
    }
    int used = 0;
    for (int v = 0; v < place.length; v++) {
      place[v] = place[v] < 0 ? -1 : used++;
    }
    int[] source = new int[used];
    for (int v = 0; v < place.length; v++) {
      if (place[v] >= 0) {
        source[place[v]] = v;
      }
    }
    for (int i = 0; used < place.length && i < indices.length; i++) {
      indices[i] = place[indices[i]];
    }
    int[] triangleFace = new int[indices.length / 3];
    for (int t = 0; t < triangleFace.length; t++) {
      triangleFace[t] = t;
    }
    return fill(slot, source, null, indices, triangleFace);
  }

  private RenderPrimitive primitive(int slot, int triangleCount, int[] head) {
    Polygons faces = mesh.faces();
    Arrays.fill(head, -1);
    int[] corners = new int[3 * triangleCount];
    int[] triangleFace = new int[triangleCount];
    Triangulation triangulation = new Triangulation(mesh.points());
    int at = 0;
    for (int f = 0; f < faces.faceCount(); f++) {
      if (lookOf(f) == slot) {
        int to = triangulation.cut(faces, f, corners, at);
        Arrays.fill(triangleFace, at / 3, to / 3, f);
        at = to;
      }
    }
    Variants variants = new Variants(head, Math.min(3 * triangleCount, head.length * 2 + 16));
    int[] indices = new int[corners.length];
    for (int i = 0; i < corners.length; i++) {
      indices[i] = variants.of(corners[i], triangleFace[i / 3]);
    }
    int[] order = variants.inSourceOrder();
    int[] newPlace = new int[order.length];
    for (int i = 0; i < order.length; i++) {
      newPlace[order[i]] = i;
    }
    for (int i = 0; i < indices.length; i++) {
      indices[i] = newPlace[indices[i]];
    }
    int[] source = new int[order.length];
    for (int i = 0; i < source.length; i++) {
      source[i] = variants.vertex[order[i]];
    }
    return fill(slot, source, keys(variants, order), indices, triangleFace);
  }

  /** Rows of the layers that part vertices, for each vertex in its order. */
  private int[] keys(Variants variants, int[] order) {
    int width = split.size();
    int[] keys = new int[width * order.length];
    for (int i = 0; i < order.length; i++) {
      System.arraycopy(variants.keys, order[i] * width, keys, i * width, width);
    }
    return keys;
  }

  /**
   * @param source mesh vertex of each vertex here
   * @param keys rows of the layers that part vertices, for each vertex here; {@code null} where
   *     there are none
   */
  private RenderPrimitive fill(
      int slot, int[] source, int[] keys, int[] indices, int[] triangleFace) {
    List<float[]> uvValues = new ArrayList<>();
    uvs.forEach(uv -> uvValues.add(values(uv, source, keys)));
    return new RenderPrimitive(
        slot < 0 ? -1 : mesh.materialIds()[slot],
        slot,
        positions(source),
        normals == null ? null : unit(values(normals, source, keys)),
        tangents == null ? null : sided(values(tangents, source, keys)),
        uvValues,
        colours == null ? null : values(colours, source, keys),
        colours == null ? 0 : colours.components(),
        source,
        indices,
        triangleFace,
        custom.stream().map(layer -> rows(layer, source, keys)).toList());
  }

  private float[] positions(int[] source) {
    Coordinates points = mesh.points();
    if (source.length == points.count()) {
      float[] all = points.toFloats();
      if (isInOrder(source)) {
        return points.isDouble() ? all : all.clone();
      }
    }
    float[] positions = new float[3 * source.length];
    for (int i = 0; i < source.length; i++) {
      int v = source[i];
      positions[3 * i] = (float) points.x(v);
      positions[3 * i + 1] = (float) points.y(v);
      positions[3 * i + 2] = (float) points.z(v);
    }
    return positions;
  }

  /** Whether a full list names all rows as they are. */
  private static boolean isInOrder(int[] source) {
    for (int i = 0; i < source.length; i++) {
      if (source[i] != i) {
        return false;
      }
    }
    return true;
  }

  private int[] rows(Attribute layer, int[] source, int[] keys) {
    int place = split.indexOf(layer);
    if (place < 0) {
      return source.clone();
    }
    int[] rows = new int[source.length];
    for (int i = 0; i < rows.length; i++) {
      rows[i] = keys[i * split.size() + place];
    }
    return rows;
  }

  private float[] values(Attribute attribute, int[] source, int[] keys) {
    int components = attribute.components();
    float[] all = attribute.values();
    int place = split.indexOf(attribute);
    if (place < 0 && all.length == components * source.length && isInOrder(source)) {
      return all.clone();
    }
    float[] result = new float[components * source.length];
    float otherwise = attribute.semantic() == Attribute.Semantic.COLOUR ? 1f : 0f;
    for (int i = 0; i < source.length; i++) {
      int value = place < 0 ? source[i] : keys[i * split.size() + place];
      for (int k = 0; k < components; k++) {
        result[components * i + k] = value < 0 ? otherwise : all[components * value + k];
      }
    }
    return result;
  }

  /** Tangents at length 1, with a side of 1 or −1; those without a direction stay as they are. */
  private static float[] sided(float[] t) {
    for (int i = 0; i < t.length; i += TangentSpace.COMPONENTS) {
      double length = Math.hypot(Math.hypot(t[i], t[i + 1]), t[i + 2]);
      if (length > 1e-20 && !Double.isInfinite(length)) {
        t[i] = (float) (t[i] / length);
        t[i + 1] = (float) (t[i + 1] / length);
        t[i + 2] = (float) (t[i + 2] / length);
      }
      t[i + 3] = t[i + 3] < 0 ? -1 : 1;
    }
    return t;
  }

  /** Normals at length 1; what cannot be brought to it becomes +Z. */
  private static float[] unit(float[] n) {
    for (int i = 0; i < n.length; i += 3) {
      double length =
          Math.sqrt(
              (double) n[i] * n[i] + (double) n[i + 1] * n[i + 1] + (double) n[i + 2] * n[i + 2]);
      boolean bad = !(length > 1e-20) || Double.isInfinite(length);
      n[i] = bad ? 0 : (float) (n[i] / length);
      n[i + 1] = bad ? 0 : (float) (n[i + 1] / length);
      n[i + 2] = bad ? 1 : (float) (n[i + 2] / length);
    }
    return n;
  }

  /** Different combinations of values at each vertex, chained from the vertex. */
  private final class Variants {
    private final int[] head;
    private int[] vertex;
    private int[] next;
    private int[] keys;
    private int count;
    private final int width = split.size();
    private final int[] key = new int[width];

    Variants(int[] head, int capacity) {
      this.head = head;
      vertex = new int[capacity];
      next = new int[capacity];
      keys = new int[capacity * width];
    }

    int of(int corner, int face) {
      int v = mesh.faces().vertex(corner);
      for (int k = 0; k < width; k++) {
        int value = split.get(k).valueOf(corner, v, face);
        key[k] = value < 0 ? -1 : canonical.get(k)[value];
      }
      int last = -1;
      for (int at = head[v]; at >= 0; at = next[at]) {
        int k = 0;
        while (k < width && keys[at * width + k] == key[k]) {
          k++;
        }
        if (k == width) {
          return at;
        }
        last = at;
      }
      return add(v, last);
    }

    private int add(int v, int last) {
      if (count == vertex.length) {
        int capacity = count + (count >> 1) + 16;
        vertex = Arrays.copyOf(vertex, capacity);
        next = Arrays.copyOf(next, capacity);
        keys = Arrays.copyOf(keys, capacity * width);
      }
      vertex[count] = v;
      next[count] = -1;
      System.arraycopy(key, 0, keys, count * width, width);
      if (last < 0) {
        head[v] = count;
      } else {
        next[last] = count;
      }
      return count++;
    }

    /** Variants with all first ones before all repeats, each run by source vertex. */
    int[] inSourceOrder() {
      int[] order = new int[count];
      int first = 0;
      for (int v = 0; v < head.length; v++) {
        first += head[v] >= 0 ? 1 : 0;
      }
      int repeat = first;
      first = 0;
      for (int v = 0; v < head.length; v++) {
        if (head[v] >= 0) {
          order[first++] = head[v];
          for (int at = next[head[v]]; at >= 0; at = next[at]) {
            order[repeat++] = at;
          }
        }
      }
      return order;
    }
  }
}
