package ferry.stone.core.format.obj.read;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Makes the mesh of one part: its runs of faces, lines and points with the values they use. */
final class ObjPart {
  private final ObjData data;
  private final Map<String, Integer> materialIds;
  private final Compaction vertices;
  private final Compaction uvs;
  private final Compaction normals;

  ObjPart(ObjData data, Map<String, Integer> materialIds) {
    this.data = data;
    this.materialIds = materialIds;
    vertices = new Compaction(data.vertexCount());
    uvs = new Compaction(data.uvs.size() / 2);
    normals = new Compaction(data.normals.size() / 3);
  }

  /**
   * @param runs the part's runs in file order
   * @param unused vertices of the part that nothing names, or {@code null}
   */
  PolygonMesh build(int id, String name, int[] runs, IntList unused, boolean groupsAreSets) {
    Faces faces = faces(runs);
    int[] corners = faces.corners();
    IntList lineVertices = new IntList(16);
    IntList lineOffsets = new IntList(16);
    IntList points = new IntList(16);
    collectLoose(runs, lineOffsets, lineVertices, points);
    vertices.use(corners);
    // Then layers whose corners name what they name among the points are whole too.
    boolean all = vertices.isFull();
    int[] uvPlaces = places(faces.uvs(), corners, all && data.uvs.size() / 2 == points());
    int[] normalPlaces =
        places(faces.normals(), corners, all && data.normals.size() / 3 == points());
    vertices.use(lineVertices.toArray());
    vertices.use(points.toArray());
    vertices.use(unused == null ? new int[0] : unused.toArray());
    int[] kept = vertices.finish();
    vertices.apply(corners);
    Coordinates positions = positions(kept);
    List<Attribute> attributes = new ArrayList<>();
    add(
        attributes,
        indexed("uv", Attribute.Semantic.UV, 2, uvPlaces, corners, uvs, data.uvs),
        corners);
    add(
        attributes,
        indexed(
            "normal", Attribute.Semantic.NORMAL, 3, normalPlaces, corners, normals, data.normals),
        corners);
    float[] colours = colours(kept);
    if (colours != null) {
      attributes.add(
          new Attribute(
              "colour", Attribute.Semantic.COLOUR, Attribute.Domain.VERTEX, 3, colours, null));
    }
    PolygonMesh mesh =
        PolygonMesh.of(id, name, positions, Polygons.of(corners, faces.offsets()))
            .withAttributes(attributes);
    mesh = withRunValues(mesh, runs, groupsAreSets);
    if (points.size() > 0 || lineVertices.size() > 0) {
      lineOffsets.add(lineVertices.size());
      mesh =
          mesh.toBuilder()
              .loose(
                  new LooseElements(
                      lineOffsets.toArray(),
                      vertices.apply(lineVertices.toArray().clone()),
                      vertices.apply(points.toArray().clone())))
              .build();
    }
    vertices.clear(kept);
    return mesh;
  }

  /** What corners name; {@code null} where the file has no UVs or normals. */
  private record Faces(int[] corners, int[] offsets, int[] uvs, int[] normals) {}

  private Faces faces(int[] runs) {
    int faceCount = 0;
    int cornerCount = 0;
    for (int r : runs) {
      for (int f = data.runs.get(r).firstFace(); f < data.endFace(r); f++) {
        int size = data.faceEnd(f) - data.faceStart.get(f);
        faceCount += size >= 3 ? 1 : 0;
        cornerCount += size >= 3 ? size : 0;
      }
    }
    int[] offsets = new int[faceCount + 1];
    if (cornerCount == data.cornerVertex.size() && inOrder(runs)) {
      // One part has all corners of the file: nobody else asks for them.
      for (int f = 0; f < faceCount; f++) {
        offsets[f + 1] = data.faceEnd(f);
      }
      int[] corners = data.cornerVertex.toArray();
      return new Faces(
          corners, offsets, all(data.cornerUv, corners), all(data.cornerNormal, corners));
    }
    int[] corners = new int[cornerCount];
    int[] uvIndex = some(data.cornerUv, corners);
    int[] normalIndex = some(data.cornerNormal, corners);
    IntList ownUvs = data.cornerUv.own();
    IntList ownNormals = data.cornerNormal.own();
    int c = 0;
    int face = 0;
    for (int r : runs) {
      for (int f = data.runs.get(r).firstFace(); f < data.endFace(r); f++) {
        int from = data.faceStart.get(f);
        int to = data.faceEnd(f);
        if (to - from < 3) {
          continue;
        }
        for (int k = from; k < to; k++, c++) {
          corners[c] = data.cornerVertex.get(k);
          if (ownUvs != null) {
            uvIndex[c] = ownUvs.get(k);
          }
          if (ownNormals != null) {
            normalIndex[c] = ownNormals.get(k);
          }
        }
        offsets[++face] = c;
      }
    }
    return new Faces(corners, offsets, uvIndex, normalIndex);
  }

  private static int[] all(CornerPlaces places, int[] corners) {
    return places.isNone() ? null : places.isAsPoints() ? corners : places.own().toArray();
  }

  private static int[] some(CornerPlaces places, int[] corners) {
    return places.isNone() ? null : places.isAsPoints() ? corners : new int[corners.length];
  }

  private static boolean inOrder(int[] runs) {
    for (int r = 1; r < runs.length; r++) {
      if (runs[r] < runs[r - 1]) {
        return false;
      }
    }
    return true;
  }

  private void collectLoose(int[] runs, IntList lineOffsets, IntList lineVertices, IntList points) {
    for (int r : runs) {
      for (int l = data.runs.get(r).firstLine(); l < data.endLine(r); l++) {
        lineOffsets.add(lineVertices.size());
        for (int k = data.lineStart.get(l); k < data.lineEnd(l); k++) {
          lineVertices.add(data.lineVertex.get(k));
        }
      }
      for (int p = data.runs.get(r).firstPoint(); p < data.endPoint(r); p++) {
        points.add(data.points.get(p));
      }
    }
  }

  /** White where a vertex has none; {@code null} when none has. */
  private float[] colours(int[] kept) {
    if (data.colours == null) {
      return null;
    }
    float[] colours = new float[3 * kept.length];
    boolean any = false;
    for (int i = 0; i < colours.length; i++) {
      float value = data.colours.get(3 * kept[i / 3] + i % 3);
      any |= !Float.isNaN(value);
      colours[i] = Float.isNaN(value) ? 1 : value;
    }
    return any ? colours : null;
  }

  private Coordinates positions(int[] kept) {
    if (data.doubles != null) {
      double[] xyz = new double[3 * kept.length];
      for (int i = 0; i < kept.length; i++) {
        for (int k = 0; k < 3; k++) {
          xyz[3 * i + k] = data.doubles.get(3 * kept[i] + k);
        }
      }
      return Coordinates.of(xyz);
    }
    if (kept.length == data.vertexCount()) {
      return Coordinates.of(data.floats.toArray());
    }
    float[] xyz = new float[3 * kept.length];
    for (int i = 0; i < kept.length; i++) {
      for (int k = 0; k < 3; k++) {
        xyz[3 * i + k] = data.floats.get(3 * kept[i] + k);
      }
    }
    return Coordinates.of(xyz);
  }

  /** Corners that name the same places in a layer as in the points are held once. */
  private static void add(List<Attribute> attributes, Attribute layer, int[] corners) {
    if (layer != null) {
      boolean same = Arrays.equals(layer.indices(), corners);
      attributes.add(same ? layer.on(Attribute.Domain.CORNER, corners) : layer);
    }
  }

  private int points() {
    return data.vertexCount();
  }

  /**
   * Places among the values of a layer: those among the points themselves where these are not
   * renumbered, a copy where they are.
   *
   * @param whole whether all points are named, and as many values
   */
  private static int[] places(int[] named, int[] corners, boolean whole) {
    return named == corners && !whole ? corners.clone() : named;
  }

  /**
   * A layer of the values that corners name; {@code null} where none does.
   *
   * @param indices the corners' own where they name all values as they name the points
   */
  private static Attribute indexed(
      String name,
      Attribute.Semantic semantic,
      int components,
      int[] indices,
      int[] corners,
      Compaction compaction,
      ferry.stone.core.math.FloatList pool) {
    if (indices == null) {
      return null;
    }
    if (indices == corners) {
      float[] values = pool.toArray();
      return new Attribute(name, semantic, Attribute.Domain.CORNER, components, values, corners);
    }
    compaction.use(indices);
    int[] kept = compaction.finish();
    Attribute layer = null;
    if (kept.length > 0) {
      compaction.apply(indices);
      float[] values = new float[components * kept.length];
      for (int i = 0; i < kept.length; i++) {
        for (int k = 0; k < components; k++) {
          values[components * i + k] = pool.get(components * kept[i] + k);
        }
      }
      layer = new Attribute(name, semantic, Attribute.Domain.CORNER, components, values, indices);
    }
    compaction.clear(kept);
    return layer;
  }

  private PolygonMesh withRunValues(PolygonMesh mesh, int[] runs, boolean groupsAreSets) {
    int faces = mesh.faces().faceCount();
    int[] slots = new int[faces];
    int[] smoothing = data.smoothingSaid ? new int[faces] : null;
    Map<Integer, Integer> slotOf = new LinkedHashMap<>();
    Map<String, IntList> sets = new LinkedHashMap<>();
    int face = 0;
    for (int r : runs) {
      ObjData.Run run = data.runs.get(r);
      int first = face;
      for (int f = run.firstFace(); f < data.endFace(r); f++) {
        face += data.faceEnd(f) - data.faceStart.get(f) >= 3 ? 1 : 0;
      }
      if (face == first) {
        continue;
      }
      int material =
          run.material() < 0
              ? -1
              : materialIds.getOrDefault(data.materials.get(run.material()), -1);
      int slot = material < 0 ? -1 : slotOf.computeIfAbsent(material, k -> slotOf.size());
      Arrays.fill(slots, first, face, slot);
      if (smoothing != null) {
        Arrays.fill(smoothing, first, face, run.smoothing());
      }
      if (groupsAreSets || ObjAssembler.groupNames(data, run.group()).size() > 1) {
        for (String group : ObjAssembler.groupNames(data, run.group())) {
          IntList set = sets.computeIfAbsent(group, k -> new IntList(16));
          for (int f = first; f < face; f++) {
            set.add(f);
          }
        }
      }
    }
    int[] materials = slotOf.keySet().stream().mapToInt(Integer::intValue).toArray();
    boolean allFirst = materials.length > 0 && Arrays.stream(slots).allMatch(s -> s == 0);
    List<FaceSet> faceSets =
        sets.entrySet().stream().map(e -> new FaceSet(e.getKey(), e.getValue().toArray())).toList();
    return mesh.toBuilder()
        .materials(materials, allFirst || materials.length == 0 ? null : slots)
        .smoothing(smoothing)
        .faceSets(faceSets)
        .build();
  }
}
