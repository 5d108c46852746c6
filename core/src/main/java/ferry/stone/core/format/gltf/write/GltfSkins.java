package ferry.stone.core.format.gltf.write;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Skin;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Writes skins, and the joints and weights of meshes in sets of four. */
final class GltfSkins {
  private static final int PER_SET = 4;
  private static final int MOST_WEIGHT = 65_535;

  private final Scene scene;
  private final GltfBuffer buffer;
  private final int mostInfluences;
  private final boolean small;
  private final Findings findings;

  /**
   * @param options with the influences to keep of each vertex
   */
  GltfSkins(Scene scene, GltfBuffer buffer, GltfOptions options, Findings findings) {
    this.scene = scene;
    this.buffer = buffer;
    mostInfluences = options.influences();
    small = options.packing().quantized();
    this.findings = findings;
  }

  /** Writes all skins; the place of each by its id. Equal joints and binds are written once. */
  Map<Integer, Integer> write(ObjectNode root) {
    Map<Integer, Integer> index = new HashMap<>();
    Map<List<Object>, Integer> written = new HashMap<>();
    Map<Integer, Integer> places = scene.nodePlaces();
    for (Skin skin : scene.skins()) {
      List<Object> key =
          List.of(Arrays.hashCode(skin.inverseBind()), Arrays.toString(skin.jointNodeIds()));
      Integer known = written.get(key);
      if (known == null) {
        ArrayNode list = root.withArray("skins");
        known = list.size();
        written.put(key, known);
        ObjectNode json = list.addObject();
        if (!skin.name().isEmpty()) {
          json.put("name", skin.name());
        }
        json.put("inverseBindMatrices", buffer.addMatrices(skin.inverseBind()));
        ArrayNode joints = json.putArray("joints");
        for (int id : skin.jointNodeIds()) {
          joints.add(places.get(id));
        }
      }
      index.put(skin.id(), known);
    }
    return index;
  }

  /** Adds JOINTS and WEIGHTS for the vertices of a primitive. */
  void attributes(Skin skin, int[] sourceVertex, ObjectNode attributes) {
    int most = 1;
    for (int v : sourceVertex) {
      most = Math.max(most, skin.offsets()[v + 1] - skin.offsets()[v]);
    }
    int kept = mostInfluences > 0 ? Math.min(mostInfluences, most) : most;
    int sets = (kept + PER_SET - 1) / PER_SET;
    int width = PER_SET * sets;
    int[] joints = new int[width * sourceVertex.length];
    float[] weights = new float[width * sourceVertex.length];
    int[] j = new int[most];
    double[] w = new double[most];
    for (int i = 0; i < sourceVertex.length; i++) {
      strongest(skin, sourceVertex[i], width, j, w);
      for (int k = 0; k < Math.min(width, most); k++) {
        joints[width * i + k] = w[k] > 0 ? j[k] : 0;
        weights[width * i + k] = (float) w[k];
      }
    }
    int[] whole = small ? wholeNumbers(weights, width) : null;
    for (int i = 0; small && i < whole.length; i++) {
      // A weight that was rounded away names no joint either.
      joints[i] = whole[i] == 0 ? 0 : joints[i];
    }
    for (int set = 0; set < sets; set++) {
      attributes.put(
          "JOINTS_" + set, buffer.addJoints(part(joints, width, set), skin.jointNodeIds().length));
      float[] some = new float[PER_SET * sourceVertex.length];
      for (int i = 0; i < some.length; i++) {
        some[i] = weights[width * (i / PER_SET) + PER_SET * set + i % PER_SET];
      }
      attributes.put(
          "WEIGHTS_" + set,
          small
              ? buffer.addShortWeights(part(whole, width, set))
              : buffer.addFloats(some, PER_SET, false));
    }
  }

  /** Weights as whole parts of 65,535 that add up to it at each vertex: section 3.7.3.3. */
  private static int[] wholeNumbers(float[] weights, int width) {
    int[] whole = new int[weights.length];
    for (int from = 0; from < weights.length; from += width) {
      int sum = 0;
      for (int i = from; i < from + width; i++) {
        whole[i] = Math.round(weights[i] * MOST_WEIGHT);
        sum += whole[i];
      }
      // The first is the strongest: what rounding left over is the least of it.
      whole[from] += MOST_WEIGHT - sum;
    }
    return whole;
  }

  private static int[] part(int[] joints, int width, int set) {
    int[] some = new int[joints.length / width * PER_SET];
    for (int i = 0; i < some.length; i++) {
      some[i] = joints[width * (i / PER_SET) + PER_SET * set + i % PER_SET];
    }
    return some;
  }

  /**
   * The strongest influences of a vertex, falling, adding up to 1; a joint that is named twice
   * counts once. A vertex without any follows the skin's first joint: the standard wants one.
   */
  private static void strongest(Skin skin, int vertex, int width, int[] joints, double[] weights) {
    Arrays.fill(joints, 0);
    Arrays.fill(weights, 0);
    int count = 0;
    for (int i = skin.offsets()[vertex]; i < skin.offsets()[vertex + 1]; i++) {
      double weight = skin.weights()[i];
      int at = 0;
      while (at < count && joints[at] != skin.joints()[i]) {
        at++;
      }
      if (weight > 0) {
        joints[at] = skin.joints()[i];
        weights[at] += weight;
        count = Math.max(count, at + 1);
      }
    }
    for (int i = 1; i < count; i++) {
      for (int k = i; k > 0 && weights[k] > weights[k - 1]; k--) {
        double weight = weights[k];
        weights[k] = weights[k - 1];
        weights[k - 1] = weight;
        int joint = joints[k];
        joints[k] = joints[k - 1];
        joints[k - 1] = joint;
      }
    }
    double sum = 0;
    for (int i = 0; i < Math.min(count, width); i++) {
      sum += weights[i];
    }
    for (int i = 0; i < weights.length; i++) {
      weights[i] = i < width && sum > 0 ? weights[i] / sum : 0;
    }
    if (sum == 0) {
      weights[0] = 1;
    }
  }

  private void reportWithoutJoint(Skin skin) {
    int none = 0;
    for (int v = 0; v + 1 < skin.offsets().length; v++) {
      none += skin.offsets()[v] == skin.offsets()[v + 1] ? 1 : 0;
    }
    if (none > 0) {
      findings.add(
          Finding.of(
                  "vertices-given-a-joint",
                  Severity.LOOK,
                  scene.mesh(skin.meshId()).map(m -> m.name()).orElse(""),
                  "Vertices that no joint moves follow the skin's first joint: glTF wants one.")
              .measured(Figures.count(none, "vertex")));
    }
  }

  /** Says what is dropped from skins with more influences than are kept. */
  void report() {
    for (Skin skin : scene.skins()) {
      reportWithoutJoint(skin);
      if (mostInfluences <= 0 || skin.mostInfluences() <= mostInfluences) {
        continue;
      }
      int vertices = 0;
      double largest = 0;
      for (int v = 0; v + 1 < skin.offsets().length; v++) {
        int from = skin.offsets()[v];
        int to = skin.offsets()[v + 1];
        if (to - from > mostInfluences) {
          vertices++;
          float[] sorted = Arrays.copyOfRange(skin.weights(), from, to);
          Arrays.sort(sorted);
          double dropped = 0;
          for (int i = 0; i < sorted.length - mostInfluences; i++) {
            dropped += sorted[i];
          }
          largest = Math.max(largest, dropped);
        }
      }
      findings.add(
          Finding.of(
                  "influences-reduced",
                  Severity.LOOK,
                  scene.mesh(skin.meshId()).map(m -> m.name()).orElse(""),
                  "Some vertices follow more than "
                      + mostInfluences
                      + " joints: the strongest are kept and scaled to 1. At most "
                      + Figures.plain(Math.round(1000 * largest) / 10.0)
                      + " % of a vertex's weight is dropped.")
              .measured(Figures.count(vertices, "vertex")));
    }
  }
}
