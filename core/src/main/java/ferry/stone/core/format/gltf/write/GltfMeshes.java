package ferry.stone.core.format.gltf.write;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.gltf.GltfFormat;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.format.gltf.raw.GltfVariants;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Writes meshes: one primitive for each material, then lines and points. */
final class GltfMeshes {
  private final GltfBuffer buffer;
  private final Map<Integer, Integer> materialIndex;
  private final Findings findings;
  private final GltfSkins skins;
  private final GltfMorphs morphs;
  private final GltfVertexData data;
  private final GltfPacking packing;
  private final GltfTangents tangents;
  private final Set<String> extensions;

  GltfMeshes(
      Scene scene,
      GltfBuffer buffer,
      Map<Integer, Integer> materialIndex,
      GltfSkins skins,
      Set<String> extensions,
      GltfPacking packing,
      Findings findings) {
    this.packing = packing;
    tangents = GltfTangents.of(scene, packing.tangents());
    data = new GltfVertexData(scene, buffer, packing.quantized());
    this.skins = skins;
    this.extensions = extensions;
    morphs = new GltfMorphs(data);
    this.buffer = buffer;
    this.materialIndex = materialIndex;
    this.findings = findings;
  }

  /**
   * The mesh's JSON, or {@code null} when it holds nothing that can be shown.
   *
   * @param skin that moves it, or {@code null}
   */
  ObjectNode write(PolygonMesh mesh, Skin skin, Progress progress) {
    ObjectNode json = JsonNodeFactory.instance.objectNode();
    if (!mesh.name().isEmpty()) {
      json.put("name", mesh.name());
    }
    ArrayNode primitives = json.putArray("primitives");
    List<GltfLayers> layers = GltfLayers.of(mesh);
    for (RenderPrimitive primitive : packing.primitives(mesh, tangents, progress)) {
      triangles(primitives, mesh, primitive, skin, layers);
    }
    if (mesh.loose() != null) {
      loose(primitives, mesh, mesh.loose(), layers);
    }
    morphs.names(json, mesh);
    GltfExtras.write(json, mesh.properties(), extensions);
    return primitives.isEmpty() ? null : json;
  }

  private void triangles(
      ArrayNode primitives,
      PolygonMesh mesh,
      RenderPrimitive p,
      Skin skin,
      List<GltfLayers> layers) {
    int[] indices = finiteTriangles(mesh, p);
    if (indices.length == 0) {
      return;
    }
    ObjectNode json = primitives.addObject();
    ObjectNode attributes = json.putObject("attributes");
    attributes.put("POSITION", data.positions(finite(p.positions())));
    if (p.normals() != null) {
      attributes.put("NORMAL", data.directions(p.normals()));
    }
    if (p.tangents() != null && p.normals() != null) {
      attributes.put("TANGENT", buffer.addFloats(p.tangents(), 4, false));
    }
    for (int set = 0; set < p.uvs().size(); set++) {
      attributes.put("TEXCOORD_" + set, data.uvs(p.uvs().get(set)));
    }
    if (p.colours() != null) {
      attributes.put("COLOR_0", data.colours(p.colours(), p.colourComponents()));
    }
    for (int l = 0; l < layers.size(); l++) {
      int accessor = layers.get(l).add(data, buffer, p.layerRows().get(l));
      if (accessor >= 0) {
        attributes.put(layers.get(l).name(), accessor);
      }
    }
    if (skin != null) {
      skins.attributes(skin, p.sourceVertex(), attributes);
    }
    morphs.targets(json, mesh, p);
    json.put("indices", buffer.addIndices(indices, p.vertexCount()));
    Integer material = materialIndex.get(p.materialId());
    if (material != null) {
      json.put("material", material);
    }
    GltfVariants.write(json, mesh, p.slot(), materialIndex, extensions);
  }

  /** glTF allows no NaN: triangles at vertices that are nowhere are left out and reported. */
  private int[] finiteTriangles(PolygonMesh mesh, RenderPrimitive p) {
    boolean[] nowhere = null;
    for (int v = 0; v < p.vertexCount(); v++) {
      if (!isFinite(p.positions(), 3 * v)) {
        nowhere = nowhere == null ? new boolean[p.vertexCount()] : nowhere;
        nowhere[v] = true;
      }
    }
    if (nowhere == null) {
      return p.indices();
    }
    IntList kept = new IntList(p.indices().length);
    for (int i = 0; i < p.indices().length; i += 3) {
      if (!nowhere[p.indices()[i]]
          && !nowhere[p.indices()[i + 1]]
          && !nowhere[p.indices()[i + 2]]) {
        kept.add(p.indices()[i]);
        kept.add(p.indices()[i + 1]);
        kept.add(p.indices()[i + 2]);
      }
    }
    int lost = (p.indices().length - kept.size()) / 3;
    findings.add(
        Finding.of(
                "triangles-nowhere",
                Severity.FIX,
                mesh.name(),
                "Triangles with a corner that is not a number cannot be written and are left out.")
            .measured(Figures.count(lost, "triangle")));
    return kept.toArray();
  }

  /** Vertices that are nowhere are moved to one that is somewhere, so that no box grows. */
  private static float[] finite(float[] positions) {
    int good = 0;
    while (good < positions.length && !isFinite(positions, good)) {
      good += 3;
    }
    float[] result = positions;
    for (int i = 0; i < positions.length; i += 3) {
      if (!isFinite(positions, i)) {
        result = result == positions ? positions.clone() : result;
        for (int k = 0; k < 3; k++) {
          result[i + k] = good < positions.length ? positions[good + k] : 0;
        }
      }
    }
    return result;
  }

  private static boolean isFinite(float[] p, int at) {
    return Float.isFinite(p[at]) && Float.isFinite(p[at + 1]) && Float.isFinite(p[at + 2]);
  }

  private void loose(
      ArrayNode primitives, PolygonMesh mesh, LooseElements loose, List<GltfLayers> layers) {
    IntList lines = new IntList(2 * loose.lineVertices().length);
    for (int l = 0; l < loose.lineCount(); l++) {
      for (int i = loose.lineOffsets()[l]; i + 1 < loose.lineOffsets()[l + 1]; i++) {
        lines.add(loose.lineVertices()[i]);
        lines.add(loose.lineVertices()[i + 1]);
      }
    }
    looseElements(primitives, mesh, lines.toArray(), GltfFormat.LINES, layers);
    looseElements(primitives, mesh, loose.points(), GltfFormat.POINTS, layers);
  }

  private void looseElements(
      ArrayNode primitives, PolygonMesh mesh, int[] vertices, int mode, List<GltfLayers> layers) {
    if (vertices.length == 0) {
      return;
    }
    float[] positions = new float[3 * vertices.length];
    for (int i = 0; i < vertices.length; i++) {
      positions[3 * i] = (float) mesh.points().x(vertices[i]);
      positions[3 * i + 1] = (float) mesh.points().y(vertices[i]);
      positions[3 * i + 2] = (float) mesh.points().z(vertices[i]);
    }
    ObjectNode json = primitives.addObject();
    ObjectNode attributes = json.putObject("attributes");
    attributes.put("POSITION", data.positions(finite(positions)));
    Attribute colour = mesh.first(Attribute.Semantic.COLOUR).orElse(null);
    if (colour != null && colour.domain() == Attribute.Domain.VERTEX) {
      attributes.put(
          "COLOR_0", data.colours(LooseValues.colours(colour, vertices), colour.components()));
    }
    for (GltfLayers layer : layers) {
      if (layer.layer().domain() == Attribute.Domain.VERTEX) {
        int accessor = layer.add(data, buffer, LooseValues.rows(layer.layer(), vertices));
        if (accessor >= 0) {
          attributes.put(layer.name(), accessor);
        }
      }
    }
    json.put("mode", mode);
  }
}
