package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.format.losses.BrokenRules;
import java.io.IOException;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * What the standard demands of a file (glTF 2.0, Khronos Group 2021) and {@link GltfReader}
 * forgives, because a picture can be had without it: other readers may stop there, or see something
 * else. O(n) for all numbers of the file.
 */
public final class GltfRules {
  /** As the standards body's own validator takes for unit length. */
  private static final double UNIT = 0.00674;

  /** Directions and weights in a byte are rounded by up to half a step each. */
  private static final double ROUNDED = 0.02;

  private static final double WEIGHTS = 2e-3;
  private static final int BYTE = 5120;
  private static final int UNSIGNED_SHORT = 5123;
  private static final int FLOAT = 5126;

  private final GltfContainer container;
  private final GltfAccessors accessors;
  private final JsonNode root;

  private final BrokenRules rules = new BrokenRules();

  private final Set<Integer> positions = new HashSet<>();

  private GltfRules(GltfContainer container) {
    this.container = container;
    accessors = new GltfAccessors(container);
    root = container.root();
  }

  /** Tells each rule that is broken once, with the first place and how often. */
  public static void check(String resource, Resources resources, Findings findings)
      throws IOException, FormatException {
    ReferenceFinder finder = new ReferenceFinder(resources, Map.of());
    GltfRules all = new GltfRules(GltfContainer.open(resource, resources, finder, new Findings()));
    all.extensions();
    all.layout();
    all.meshes();
    all.nodes();
    all.skins();
    all.clips();
    all.images();
    all.rules.tell(resource, findings);
  }

  private void broken(String where, String rule) {
    rules.broken(where, rule);
  }

  private void hold(boolean holds, String where, String rule) {
    rules.hold(holds, where, rule);
  }

  /** Section 3.12. */
  private void extensions() {
    Set<String> said = new HashSet<>();
    root.path("extensionsUsed").forEach(e -> said.add(e.asText()));
    for (JsonNode required : root.path("extensionsRequired")) {
      hold(
          said.contains(required.asText()),
          "/extensionsRequired",
          "An extension that is required is not listed as used (3.12).");
    }
    used(root, "", said);
  }

  private void used(JsonNode node, String path, Set<String> said) {
    node.fields()
        .forEachRemaining(
            field -> {
              String inside = path + "/" + field.getKey();
              if (field.getKey().equals("extensions")) {
                field
                    .getValue()
                    .fieldNames()
                    .forEachRemaining(
                        name ->
                            hold(
                                said.contains(name),
                                inside,
                                "An extension stands there that is not listed as used (3.12)."));
              }
              if (!field.getKey().equals("extras")) {
                used(field.getValue(), inside, said);
              }
            });
    for (int i = 0; node.isArray() && i < node.size(); i++) {
      used(node.get(i), path + "/" + i, said);
    }
  }

  private static int size(int componentType) {
    return componentType < BYTE + 2 ? 1 : componentType <= UNSIGNED_SHORT ? 2 : 4;
  }

  /** Section 3.6.2.4, data alignment. */
  private void layout() {
    JsonNode views = root.path("bufferViews");
    for (int i = 0; i < root.path("accessors").size(); i++) {
      JsonNode accessor = root.path("accessors").get(i);
      JsonNode view = views.path(accessor.path("bufferView").asInt(-1));
      // What a packed view becomes lies as its reader likes.
      if (view.isMissingNode() || view.has("extensions")) {
        continue;
      }
      long size = size(accessor.path("componentType").asInt(FLOAT));
      long offset = accessor.path("byteOffset").asLong(0);
      long start = view.path("byteOffset").asLong(0);
      hold(
          offset % size == 0 && (start + offset) % size == 0,
          "/accessors/" + i,
          "Its numbers do not begin at a multiple of their size (3.6.2.4).");
    }
  }

  private void meshes() throws IOException, FormatException {
    for (int m = 0; m < root.path("meshes").size(); m++) {
      JsonNode primitives = root.path("meshes").get(m).path("primitives");
      for (int p = 0; p < primitives.size(); p++) {
        primitive(primitives.get(p), "/meshes/" + m + "/primitives/" + p);
      }
    }
  }

  private void primitive(JsonNode primitive, String path) throws IOException, FormatException {
    JsonNode attributes = primitive.path("attributes");
    int count = -1;
    var names = attributes.fieldNames();
    while (names.hasNext()) {
      String name = names.next();
      int index = attributes.path(name).asInt(-1);
      String where = path + "/attributes/" + name;
      int own = accessors.count(index, where);
      count = count < 0 ? own : count;
      hold(own == count, where, "The attributes of a primitive have different counts (3.7.2.1).");
      attribute(name, index, where);
    }
    JsonNode indices = primitive.path("indices");
    if (indices.isInt()) {
      long restart = (1L << 8 * size(type(indices.asInt()))) - 1;
      for (int index : accessors.integers(indices.asInt(), path + "/indices")) {
        if ((index & 0xffff_ffffL) == restart || index >= count) {
          broken(path + "/indices", "An index is that of no vertex (3.7.2.1).");
          break;
        }
      }
    }
  }

  private int type(int accessor) {
    return root.path("accessors").path(accessor).path("componentType").asInt(FLOAT);
  }

  private void attribute(String name, int index, String where) throws IOException, FormatException {
    if (name.equals("POSITION")) {
      if (positions.add(index)) {
        extremes(index, where, "Positions");
      }
    } else if (name.equals("NORMAL") || name.equals("TANGENT")) {
      directions(index, name.equals("TANGENT"), where);
    } else if (name.startsWith("WEIGHTS_0")) {
      weights(index, where);
    }
  }

  /** Section 3.6.2.5: least and largest values are as written. */
  private void extremes(int index, String where, String what) throws IOException, FormatException {
    JsonNode accessor = root.path("accessors").path(index);
    JsonNode min = accessor.path("min");
    JsonNode max = accessor.path("max");
    int components = accessors.components(index, where);
    if (min.size() != components || max.size() != components) {
      broken(where, what + " do not say their least and largest values (3.7.2.1).");
      return;
    }
    boolean floats = accessors.isFloat(index, where);
    float[] values = accessors.floats(index, components, where);
    for (int c = 0; c < components; c++) {
      float low = Float.POSITIVE_INFINITY;
      float high = Float.NEGATIVE_INFINITY;
      boolean finite = true;
      for (int i = c; i < values.length; i += components) {
        float value = values[i];
        finite &= value - value == 0;
        low = value < low ? value : low;
        high = value > high ? value : high;
      }
      if (!finite) {
        broken(where, what + " hold what is no number (3.6.2.2).");
        return;
      }
      hold(
          !floats
              || values.length == 0
              || (float) min.get(c).asDouble() == low && (float) max.get(c).asDouble() == high,
          where,
          what + " say other least or largest values than they have (3.6.2.5).");
    }
  }

  /** Section 3.7.2.1: unit vectors; the last of a tangent is a sign. */
  private void directions(int index, boolean tangents, String where)
      throws IOException, FormatException {
    int components = tangents ? 4 : 3;
    float[] values = accessors.floats(index, components, where);
    double most = accessors.isFloat(index, where) ? UNIT : ROUNDED;
    for (int i = 0; i + components <= values.length; i += components) {
      double length =
          Math.sqrt(
              (double) values[i] * values[i]
                  + (double) values[i + 1] * values[i + 1]
                  + (double) values[i + 2] * values[i + 2]);
      if (!(Math.abs(length - 1) <= most)) {
        broken(where, "A direction has not the length 1 (3.7.2.1).");
        return;
      }
      if (tangents && Math.abs(Math.abs(values[i + 3]) - 1) > most) {
        broken(where, "The sign of a tangent is neither 1 nor −1 (3.7.2.1).");
        return;
      }
    }
  }

  /** Section 3.7.3.3: the weights of a vertex are 1 together. */
  private void weights(int index, String where) throws IOException, FormatException {
    // A second set of four belongs to the same sum.
    String second = where.substring(0, where.lastIndexOf('/')) + "/WEIGHTS_1";
    JsonNode more = root.at(second);
    float[] first = accessors.floats(index, 4, where);
    float[] other = more.isInt() ? accessors.floats(more.asInt(), 4, second) : new float[0];
    double most = accessors.isFloat(index, where) ? WEIGHTS : ROUNDED;
    for (int i = 0; i + 4 <= first.length; i += 4) {
      double sum = 0;
      boolean negative = false;
      for (int k = i; k < i + 4; k++) {
        sum += first[k] + (k < other.length ? other[k] : 0);
        negative |= first[k] < 0;
      }
      if (negative || !(Math.abs(sum - 1) <= most)) {
        broken(where, "The weights of a vertex are not 1 together (3.7.3.3).");
        return;
      }
    }
  }

  /** Section 3.5.3. */
  private void nodes() {
    Set<Integer> moved = new HashSet<>();
    for (JsonNode clip : root.path("animations")) {
      clip.path("channels").forEach(c -> moved.add(c.at("/target/node").asInt(-1)));
    }
    for (int i = 0; i < root.path("nodes").size(); i++) {
      JsonNode node = root.path("nodes").get(i);
      String where = "/nodes/" + i;
      boolean parts = node.has("translation") || node.has("rotation") || node.has("scale");
      hold(
          !node.has("matrix") || !parts,
          where,
          "A node has a matrix and other transforms beside it (3.5.3).");
      hold(
          !node.has("matrix") || !moved.contains(i),
          where,
          "A node that a clip moves has a matrix (3.5.3).");
      if (node.path("rotation").size() == 4) {
        double squared = 0;
        for (JsonNode part : node.path("rotation")) {
          squared += part.asDouble() * part.asDouble();
        }
        hold(
            Math.abs(Math.sqrt(squared) - 1) <= UNIT,
            where,
            "A rotation has not the length 1 (3.5.3).");
      }
      skinned(node, where);
    }
  }

  /** Section 3.7.3.3: joints are those of the skin. */
  private void skinned(JsonNode node, String where) {
    if (!node.has("skin")) {
      return;
    }
    int joints = root.path("skins").path(node.path("skin").asInt()).path("joints").size();
    JsonNode primitives = root.path("meshes").path(node.path("mesh").asInt(-1)).path("primitives");
    for (JsonNode primitive : primitives) {
      int index = primitive.at("/attributes/JOINTS_0").asInt(-1);
      try {
        for (int joint : index < 0 ? new int[0] : accessors.integers(index, 4, where)) {
          if (joint >= joints) {
            broken(where, "A vertex names a joint that its skin does not have (3.7.3.3).");
            return;
          }
        }
      } catch (IOException | FormatException e) {
        broken(where, "The joints of its vertices cannot be read (3.7.3.3).");
      }
    }
  }

  /** Section 3.7.3.2. */
  private void skins() throws IOException, FormatException {
    for (int i = 0; i < root.path("skins").size(); i++) {
      JsonNode skin = root.path("skins").get(i);
      String where = "/skins/" + i;
      Set<Integer> joints = new HashSet<>();
      skin.path("joints").forEach(j -> joints.add(j.asInt()));
      hold(
          joints.size() == skin.path("joints").size(),
          where,
          "A skin lists a joint twice (3.7.3.2).");
      if (skin.path("inverseBindMatrices").isInt()) {
        float[] m = accessors.floats(skin.path("inverseBindMatrices").asInt(), 16, where);
        hold(
            m.length >= 16 * skin.path("joints").size(),
            where,
            "A skin has fewer inverse bind matrices than joints (3.7.3.2).");
        for (int k = 0; k + 16 <= m.length; k += 16) {
          boolean affine = m[k + 3] == 0 && m[k + 7] == 0 && m[k + 11] == 0 && m[k + 15] == 1;
          hold(
              affine, where, "The last row of an inverse bind matrix is not 0, 0, 0, 1 (3.7.3.2).");
        }
      }
    }
  }

  /** Section 3.11. */
  private void clips() throws IOException, FormatException {
    for (int a = 0; a < root.path("animations").size(); a++) {
      JsonNode clip = root.path("animations").get(a);
      for (int c = 0; c < clip.path("channels").size(); c++) {
        JsonNode channel = clip.path("channels").get(c);
        JsonNode sampler = clip.path("samplers").path(channel.path("sampler").asInt(-1));
        String where = "/animations/" + a + "/channels/" + c;
        times(sampler.path("input").asInt(-1), where);
        if (channel.at("/target/path").asText().equals("rotation")) {
          turns(sampler, where);
        }
      }
    }
  }

  private void times(int input, String where) throws IOException, FormatException {
    float[] times = accessors.floats(input, 1, where);
    extremes(input, where, "Times of keys");
    for (int i = 0; i < times.length; i++) {
      if (!(times[i] >= 0) || i > 0 && !(times[i] > times[i - 1])) {
        broken(where, "The times of keys do not rise from 0 or more (3.11).");
        return;
      }
    }
  }

  private void turns(JsonNode sampler, String where) throws IOException, FormatException {
    float[] q = accessors.floats(sampler.path("output").asInt(-1), 4, where);
    boolean cubic = sampler.path("interpolation").asText().equals("CUBICSPLINE");
    for (int i = cubic ? 4 : 0; i + 4 <= q.length; i += cubic ? 12 : 4) {
      double squared = 0;
      for (int k = i; k < i + 4; k++) {
        squared += (double) q[k] * q[k];
      }
      if (!(Math.abs(Math.sqrt(squared) - 1) <= UNIT)) {
        broken(where, "A rotation of a key has not the length 1 (3.11).");
        return;
      }
    }
  }

  /** Section 3.8.4: an image is of the type that it says. */
  private void images() throws IOException, FormatException {
    for (int i = 0; i < root.path("images").size(); i++) {
      JsonNode image = root.path("images").get(i);
      String type = image.path("mimeType").asText("");
      String where = "/images/" + i;
      if (image.has("bufferView")) {
        hold(!type.isEmpty(), where, "An image inside the file does not say its type (3.8.4).");
        var bytes = container.view(image.path("bufferView").asInt(), where);
        if (bytes.remaining() >= 4 && !type.isEmpty()) {
          int first = bytes.get(bytes.position()) & 255;
          boolean fits =
              !type.equals("image/png") && !type.equals("image/jpeg")
                  || first == (type.equals("image/png") ? 0x89 : 0xff);
          hold(fits, where, "An image is not of the type that it says (3.8.4).");
        }
      }
    }
  }
}
