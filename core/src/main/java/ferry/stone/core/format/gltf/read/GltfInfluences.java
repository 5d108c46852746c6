package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Joints and weights of a mesh's vertices, from any number of JOINTS and WEIGHTS sets. */
final class GltfInfluences {
  private static final int PER_SET = 4;

  private final GltfContainer container;
  private final GltfAccessors accessors;
  private final IntList offsets = new IntList(16);
  private final IntList joints = new IntList(16);
  private final FloatList weights = new FloatList(16);
  private int highestJoint = -1;

  GltfInfluences(GltfContainer container, GltfAccessors accessors) {
    this.container = container;
    this.accessors = accessors;
    offsets.add(0);
  }

  void add(JsonNode primitive, String at, int first, int count)
      throws IOException, FormatException {
    fillTo(first);
    JsonNode attributes = primitive.path("attributes");
    List<int[]> jointSets = new ArrayList<>();
    List<float[]> weightSets = new ArrayList<>();
    for (int set = 0; attributes.has("JOINTS_" + set); set++) {
      String path = at + "/attributes/JOINTS_" + set;
      String weightPath = at + "/attributes/WEIGHTS_" + set;
      if (!attributes.has("WEIGHTS_" + set)) {
        throw container.error(Kind.CORRUPT, weightPath, "is missing beside JOINTS_" + set + ".");
      }
      int[] j = accessors.integers(container.integer(attributes, "JOINTS_" + set, -1, at), 4, path);
      float[] w =
          accessors.floats(container.integer(attributes, "WEIGHTS_" + set, -1, at), 4, weightPath);
      if (j.length != PER_SET * count || w.length != j.length) {
        throw container.error(Kind.CORRUPT, path, "does not have one value for each vertex.");
      }
      jointSets.add(j);
      weightSets.add(w);
    }
    for (int v = 0; v < count && !jointSets.isEmpty(); v++) {
      for (int set = 0; set < jointSets.size(); set++) {
        for (int k = PER_SET * v; k < PER_SET * v + PER_SET; k++) {
          float weight = weightSets.get(set)[k];
          if (weight > 0) {
            joints.add(jointSets.get(set)[k]);
            weights.add(weight);
            highestJoint = Math.max(highestJoint, jointSets.get(set)[k]);
          }
        }
      }
      offsets.add(joints.size());
    }
  }

  private void fillTo(int vertices) {
    offsets.fill(joints.size(), vertices + 1 - offsets.size());
  }

  /** These influences, or {@code null} when there are none. */
  GltfInfluences finish(int vertices) {
    if (joints.size() == 0) {
      return null;
    }
    fillTo(vertices);
    return this;
  }

  int highestJoint() {
    return highestJoint;
  }

  int[] offsets() {
    return offsets.toArray();
  }

  int[] joints() {
    return joints.toArray();
  }

  float[] weights() {
    return weights.toArray();
  }
}
