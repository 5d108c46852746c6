package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.MorphTarget;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * Morph targets of a mesh, joined over its primitives. Names come from {@code extras.targetNames}:
 * common practice, no source; a target without a name is called {@code target_} and its number.
 */
final class GltfMorphReader {
  private final GltfContainer container;
  private final GltfAccessors accessors;
  private final JsonNode mesh;
  private final String path;
  private final Findings findings;
  private final List<Target> targets = new ArrayList<>();

  GltfMorphReader(
      GltfContainer container,
      GltfAccessors accessors,
      JsonNode mesh,
      String path,
      Findings findings) {
    this.container = container;
    this.accessors = accessors;
    this.mesh = mesh;
    this.path = path;
    this.findings = findings;
  }

  /** Touched vertices of one target with their deltas. */
  private static final class Target {
    final IntList vertices = new IntList(16);
    final FloatList deltas = new FloatList(16);
    final FloatList normals = new FloatList(16);
    boolean hasNormals;
  }

  void add(JsonNode primitive, String at, int first, int count)
      throws IOException, FormatException {
    JsonNode list = primitive.path("targets");
    for (int t = 0; t < list.size(); t++) {
      if (t == targets.size()) {
        targets.add(new Target());
      }
      String place = at + "/targets/" + t;
      float[] deltas = values(list.get(t), "POSITION", place, count);
      float[] normals = values(list.get(t), "NORMAL", place, count);
      Target target = targets.get(t);
      target.hasNormals |= normals != null;
      for (int v = 0; v < count; v++) {
        boolean moves = deltas != null && touches(deltas, v);
        boolean turns = normals != null && touches(normals, v);
        if (moves || turns) {
          target.vertices.add(first + v);
          for (int k = 3 * v; k < 3 * v + 3; k++) {
            target.deltas.add(deltas == null ? 0 : deltas[k]);
            target.normals.add(normals == null ? 0 : normals[k]);
          }
        }
      }
      reportOthers(list.get(t), place);
    }
  }

  private float[] values(JsonNode target, String key, String place, int count)
      throws IOException, FormatException {
    if (!target.has(key)) {
      return null;
    }
    String at = place + "/" + key;
    float[] values = accessors.floats(container.integer(target, key, -1, place), 3, at);
    if (values.length != 3 * count) {
      throw container.error(
          Kind.CORRUPT, at, "has " + values.length / 3 + " values for " + count + " vertices.");
    }
    return values;
  }

  private static boolean touches(float[] deltas, int v) {
    return deltas[3 * v] != 0 || deltas[3 * v + 1] != 0 || deltas[3 * v + 2] != 0;
  }

  private void reportOthers(JsonNode target, String place) {
    target
        .fieldNames()
        .forEachRemaining(
            key -> {
              if (key.startsWith("TEXCOORD_") || key.startsWith("COLOR_")) {
                findings.add(
                    Finding.of(
                        "morph-of-other-values",
                        Severity.LOOK,
                        place + "/" + key,
                        "A morph target that changes UVs or colours is read without that part."));
              }
            });
  }

  List<MorphTarget> finish(int vertexCount) throws FormatException {
    JsonNode names = mesh.at("/extras/targetNames");
    JsonNode weights = mesh.path("weights");
    if (weights.size() > 0 && weights.size() != targets.size()) {
      throw container.error(
          Kind.CORRUPT,
          path + "/weights",
          "has " + weights.size() + " weights for " + targets.size() + " targets.");
    }
    List<MorphTarget> result = new ArrayList<>();
    for (int t = 0; t < targets.size(); t++) {
      Target target = targets.get(t);
      String name = names.path(t).asText("");
      boolean all = target.vertices.size() == vertexCount;
      result.add(
          new MorphTarget(
              name.isEmpty() ? "target_" + t : name,
              weights.path(t).asDouble(0),
              List.of(
                  new MorphTarget.Shape(
                      1,
                      all ? null : target.vertices.toArray(),
                      target.deltas.toArray(),
                      target.hasNormals ? target.normals.toArray() : null))));
    }
    return result;
  }
}
