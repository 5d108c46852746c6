package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.gltf.GltfFormat;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.format.gltf.raw.GltfVariants;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.io.IOException;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Joins the primitives of a glTF mesh into one polygon mesh, one material slot for each material.
 */
final class GltfMeshReader {
  private static final int LINE_LOOP = 2;
  private static final int LINE_STRIP = 3;
  private static final int TRIANGLE_STRIP = 5;
  private static final int TRIANGLE_FAN = 6;

  private final GltfContainer container;
  private final GltfAccessors accessors;
  private final List<Integer> materialIds;
  private final Findings findings;

  GltfMeshReader(GltfContainer container, List<Integer> materialIds, Findings findings) {
    this.container = container;
    this.materialIds = materialIds;
    this.findings = findings;
    accessors = new GltfAccessors(container);
  }

  /**
   * @param influences which joints move its vertices, or {@code null}
   */
  record ReadMesh(PolygonMesh mesh, GltfInfluences influences) {}

  ReadMesh read(int index, int id) throws IOException, FormatException {
    JsonNode json = container.root().path("meshes").get(index);
    String path = "/meshes/" + index;
    if (json.path("primitives").size() == 0) {
      throw container.error(Kind.CORRUPT, path + "/primitives", "a mesh needs a primitive.");
    }
    FloatList positions = new FloatList(1 << 10);
    IntList corners = new IntList(1 << 10);
    IntList slotRuns = new IntList(16);
    IntList lineVertices = new IntList(16);
    IntList lineOffsets = new IntList(16);
    IntList points = new IntList(16);
    GltfVariants slotOf = new GltfVariants(container, materialIds);
    Map<String, GltfLayer> layers = new LinkedHashMap<>();
    GltfMorphReader morphs = new GltfMorphReader(container, accessors, json, path, findings);
    GltfInfluences influences = new GltfInfluences(container, accessors);
    Ranges ranges = new Ranges(positions, layers, morphs, influences);
    for (int p = 0; p < json.path("primitives").size(); p++) {
      JsonNode primitive = json.path("primitives").get(p);
      String at = path + "/primitives/" + p;
      // Primitives that share all their vertex data share their vertices.
      int[] range = ranges.of(primitive, at);
      int first = range[0];
      int[] indices = indices(primitive, at, range[1]);
      int material = container.integer(primitive, "material", -1, at);
      if (material >= 0) {
        container.item("materials", material, at + "/material");
      }
      int mode = container.integer(primitive, "mode", GltfFormat.TRIANGLES, at);
      int before = corners.size() / 3;
      switch (mode) {
        case GltfFormat.POINTS -> points(indices, first, points);
        case GltfFormat.LINES, LINE_LOOP, LINE_STRIP ->
            lines(mode, indices, first, lineOffsets, lineVertices);
        case GltfFormat.TRIANGLES, TRIANGLE_STRIP, TRIANGLE_FAN ->
            triangles(mode, indices, first, corners);
        default -> throw container.error(Kind.CORRUPT, at + "/mode", mode + " is no mode.");
      }
      slotRuns.add(slotOf.slot(primitive, material, at));
      slotRuns.add(corners.size() / 3 - before);
    }
    PolygonMesh mesh =
        PolygonMesh.of(
                id,
                json.path("name").asText(""),
                Coordinates.of(positions.toArray()),
                Polygons.triangles(corners.toArray()))
            .withAttributes(
                layers.entrySet().stream().map(l -> l.getValue().made(l.getKey())).toList())
            .toBuilder()
            .materials(slotOf.materials(), slots(slotRuns, slotOf.materials().length))
            .variantMaterials(slotOf.variants())
            .morphs(morphs.finish(positions.size() / 3))
            .properties(GltfExtras.properties(json, GltfExtensions.READ, Set.of("targetNames")))
            .build();
    mesh = withLoose(mesh, lineOffsets, lineVertices, points);
    return new ReadMesh(mesh, influences.finish(positions.size() / 3));
  }

  /**
   * The slots of all faces, {@code null} where there is no choice.
   *
   * @param runs a slot, how many faces have it, the next slot …
   */
  private static int[] slots(IntList runs, int materials) {
    int only = materials == 0 ? -1 : 0;
    boolean choice = false;
    int faces = 0;
    for (int r = 0; r < runs.size(); r += 2) {
      choice |= runs.get(r) != only && runs.get(r + 1) > 0;
      faces += runs.get(r + 1);
    }
    if (!choice) {
      return null;
    }
    IntList slots = new IntList(faces);
    for (int r = 0; r < runs.size(); r += 2) {
      slots.fill(runs.get(r), runs.get(r + 1));
    }
    return slots.toArray();
  }

  private static void points(int[] indices, int first, IntList points) {
    for (int i : indices) {
      points.add(first + i);
    }
  }

  private static PolygonMesh withLoose(
      PolygonMesh mesh, IntList lineOffsets, IntList lineVertices, IntList points) {
    if (lineOffsets.size() == 0 && points.size() == 0) {
      return mesh;
    }
    lineOffsets.add(lineVertices.size());
    return mesh.toBuilder()
        .loose(new LooseElements(lineOffsets.toArray(), lineVertices.toArray(), points.toArray()))
        .build();
  }

  /** The vertices of primitives by the data that they share. */
  private final class Ranges {
    private final Map<String, int[]> known = new HashMap<>();
    private final FloatList positions;
    private final Map<String, GltfLayer> layers;
    private final GltfMorphReader morphs;
    private final GltfInfluences influences;

    Ranges(
        FloatList positions,
        Map<String, GltfLayer> layers,
        GltfMorphReader morphs,
        GltfInfluences influences) {
      this.positions = positions;
      this.layers = layers;
      this.morphs = morphs;
      this.influences = influences;
    }

    /** First vertex and how many. */
    int[] of(JsonNode primitive, String at) throws IOException, FormatException {
      String data = primitive.path("attributes") + "/" + primitive.path("targets");
      int[] range = known.get(data);
      if (range == null) {
        range = new int[] {positions.size() / 3, 0};
        range[1] = readVertices(primitive, at, positions, layers);
        morphs.add(primitive, at, range[0], range[1]);
        influences.add(primitive, at, range[0], range[1]);
        known.put(data, range);
      }
      return range;
    }
  }

  /** Adds a primitive's vertices and the values over them; how many there are. */
  private int readVertices(
      JsonNode primitive, String at, FloatList positions, Map<String, GltfLayer> layers)
      throws IOException, FormatException {
    int position =
        container.integer(primitive.path("attributes"), "POSITION", -1, at + "/attributes");
    if (position < 0) {
      throw container.error(Kind.CORRUPT, at + "/attributes/POSITION", "is missing.");
    }
    float[] xyz = accessors.floats(position, 3, at + "/attributes/POSITION");
    int first = positions.size() / 3;
    positions.take(xyz);
    readLayers(primitive, at, first, xyz.length / 3, layers);
    return xyz.length / 3;
  }

  private void readLayers(
      JsonNode primitive, String at, int first, int count, Map<String, GltfLayer> layers)
      throws IOException, FormatException {
    var names = primitive.path("attributes").fieldNames();
    while (names.hasNext()) {
      String name = names.next();
      Semantic semantic =
          name.equals("NORMAL")
              ? Semantic.NORMAL
              : name.equals("TANGENT")
                  ? Semantic.TANGENT
                  : name.startsWith("TEXCOORD_")
                      ? Semantic.UV
                      : name.startsWith("COLOR_") ? Semantic.COLOUR : Semantic.OTHER;
      if (name.equals("POSITION") || name.startsWith("JOINTS_") || name.startsWith("WEIGHTS_")) {
        continue;
      }
      String path = at + "/attributes/" + name;
      int accessor = container.integer(primitive.path("attributes"), name, -1, at + "/attributes");
      int components = accessors.components(accessor, path);
      if (components > 4 && !(semantic == Semantic.OTHER && accessors.isFloat(accessor, path))) {
        findings.add(
            Finding.of(
                "layer-not-read",
                Severity.LOOK,
                path,
                "Matrices of whole numbers over vertices are not read."));
        continue;
      }
      if (!semantic.holds(components)) {
        throw container.error(
            Kind.CORRUPT, path, "a value cannot have " + components + " numbers here.");
      }
      boolean whole = semantic == Semantic.OTHER && accessors.isWhole(accessor, path);
      int[] wholes = whole ? accessors.integers(accessor, components, path) : null;
      float[] values = whole ? null : accessors.floats(accessor, components, path);
      int length = whole ? wholes.length : values.length;
      if (length != components * count) {
        throw container.error(
            Kind.CORRUPT,
            path,
            "has " + length / components + " values for " + count + " vertices.");
      }
      GltfLayer layer =
          layers.computeIfAbsent(name, n -> new GltfLayer(semantic, components, first));
      if (layer.components() != components) {
        throw container.error(Kind.CORRUPT, path, "changes its size between primitives.");
      }
      layer.add(values, wholes, first);
    }
    for (GltfLayer layer : layers.values()) {
      layer.reach(first + count);
    }
  }

  private int[] indices(JsonNode primitive, String at, int vertices)
      throws IOException, FormatException {
    int accessor = container.integer(primitive, "indices", -1, at);
    if (accessor < 0) {
      int[] all = new int[vertices];
      for (int i = 0; i < vertices; i++) {
        all[i] = i;
      }
      return all;
    }
    return accessors.indices(accessor, at + "/indices", vertices);
  }

  private static void triangles(int mode, int[] indices, int first, IntList corners) {
    if (mode == GltfFormat.TRIANGLES) {
      if (first == 0 && indices.length % 3 == 0) {
        corners.take(indices);
      } else {
        corners.addAll(indices, indices.length - indices.length % 3, first);
      }
      return;
    }
    for (int i = 0; i + 2 < indices.length; i++) {
      if (mode == TRIANGLE_FAN) {
        add(corners, first, indices[i + 1], indices[i + 2], indices[0]);
      } else {
        // Section 3.7.2.1: every other triangle of a strip is turned.
        add(corners, first, indices[i], indices[i + 1 + i % 2], indices[i + 2 - i % 2]);
      }
    }
  }

  private static void add(IntList corners, int first, int a, int b, int c) {
    corners.add(first + a);
    corners.add(first + b);
    corners.add(first + c);
  }

  private static void lines(int mode, int[] indices, int first, IntList offsets, IntList vertices) {
    if (mode == GltfFormat.LINES) {
      for (int i = 0; i + 1 < indices.length; i += 2) {
        offsets.add(vertices.size());
        vertices.add(first + indices[i]);
        vertices.add(first + indices[i + 1]);
      }
      return;
    }
    offsets.add(vertices.size());
    for (int i : indices) {
      vertices.add(first + i);
    }
    if (mode == LINE_LOOP && indices.length > 0) {
      vertices.add(first + indices[0]);
    }
  }
}
