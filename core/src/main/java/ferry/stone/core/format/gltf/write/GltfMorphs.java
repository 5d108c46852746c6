package ferry.stone.core.format.gltf.write;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.Arrays;

/** Writes morph targets: deltas of positions and normals for each vertex that is written. */
final class GltfMorphs {
  private final GltfVertexData data;

  GltfMorphs(GltfVertexData data) {
    this.data = data;
  }

  void targets(ObjectNode json, PolygonMesh mesh, RenderPrimitive primitive) {
    if (mesh.morphs().isEmpty()) {
      return;
    }
    ArrayNode targets = json.putArray("targets");
    boolean normals =
        primitive.normals() != null
            && mesh.morphs().stream().anyMatch(m -> m.full().normalDeltas() != null);
    int[] place = new int[mesh.points().count()];
    for (MorphTarget morph : mesh.morphs()) {
      MorphTarget.Shape shape = morph.full();
      Arrays.fill(place, -1);
      for (int i = 0; i < shape.deltas().length / 3; i++) {
        place[shape.vertices() == null ? i : shape.vertices()[i]] = i;
      }
      ObjectNode target = targets.addObject();
      float[] deltas = spread(shape.deltas(), place, primitive.sourceVertex());
      target.put("POSITION", data.positions(deltas));
      if (normals) {
        float[] turns =
            shape.normalDeltas() == null
                ? new float[deltas.length]
                : spread(shape.normalDeltas(), place, primitive.sourceVertex());
        target.put("NORMAL", data.directions(turns));
      }
    }
  }

  /** Deltas of the source's vertices at the vertices that are written. */
  private static float[] spread(float[] deltas, int[] place, int[] sourceVertex) {
    float[] result = new float[3 * sourceVertex.length];
    for (int v = 0; v < sourceVertex.length; v++) {
      int from = place[sourceVertex[v]];
      for (int k = 0; from >= 0 && k < 3; k++) {
        float delta = deltas[3 * from + k];
        result[3 * v + k] = Float.isFinite(delta) ? delta : 0;
      }
    }
    return result;
  }

  /** Names and rest weights, on the mesh. */
  void names(ObjectNode json, PolygonMesh mesh) {
    if (mesh.morphs().isEmpty()) {
      return;
    }
    ArrayNode weights = json.putArray("weights");
    ArrayNode names = json.withObject("/extras").putArray("targetNames");
    for (MorphTarget morph : mesh.morphs()) {
      weights.add(morph.weight());
      names.add(morph.name());
    }
  }
}
