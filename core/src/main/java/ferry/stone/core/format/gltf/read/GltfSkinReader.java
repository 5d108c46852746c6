package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.Skin;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;

/** Reads skins: one of ours for each pair of a skin and a mesh that a node shows together. */
final class GltfSkinReader {
  private final GltfContainer container;
  private final GltfAccessors accessors;
  private final SceneBuilder scene;
  private final Map<List<Integer>, Integer> ids = new LinkedHashMap<>();

  GltfSkinReader(GltfContainer container, GltfAccessors accessors, SceneBuilder scene) {
    this.container = container;
    this.accessors = accessors;
    this.scene = scene;
  }

  int idFor(int skin, int mesh) {
    return ids.computeIfAbsent(List.of(skin, mesh), k -> scene.newId());
  }

  /** Node indices of a skin's joints. */
  int[] joints(int skin) throws FormatException {
    String path = "/skins/" + skin + "/joints";
    JsonNode list = container.item("skins", skin, path).path("joints");
    if (list.size() == 0) {
      throw container.error(Kind.CORRUPT, path, "a skin needs a joint.");
    }
    int[] joints = new int[list.size()];
    for (int j = 0; j < joints.length; j++) {
      joints[j] = list.get(j).asInt(-1);
      container.item("nodes", joints[j], path + "/" + j);
    }
    return joints;
  }

  /**
   * @param nodeIds id of each node of the file
   */
  void build(int[] nodeIds, List<GltfMeshReader.ReadMesh> meshes)
      throws IOException, FormatException {
    for (Map.Entry<List<Integer>, Integer> entry : ids.entrySet()) {
      int skin = entry.getKey().get(0);
      GltfMeshReader.ReadMesh mesh = meshes.get(entry.getKey().get(1));
      int[] joints = joints(skin);
      if (mesh.influences().highestJoint() >= joints.length) {
        throw container.error(
            Kind.CORRUPT,
            "/meshes/" + entry.getKey().get(1),
            "names joint "
                + mesh.influences().highestJoint()
                + " of a skin that has "
                + joints.length
                + ".");
      }
      double[] inverseBind = inverseBind(skin, joints.length);
      for (int j = 0; j < joints.length; j++) {
        joints[j] = nodeIds[joints[j]];
      }
      scene.add(
          new Skin(
              entry.getValue(),
              container.root().path("skins").get(skin).path("name").asText(""),
              mesh.mesh().id(),
              joints,
              inverseBind,
              mesh.influences().offsets(),
              mesh.influences().joints(),
              mesh.influences().weights(),
              "linear"));
    }
  }

  private double[] inverseBind(int skin, int count) throws IOException, FormatException {
    String path = "/skins/" + skin;
    double[] result = new double[16 * count];
    int accessor =
        container.integer(
            container.root().path("skins").get(skin), "inverseBindMatrices", -1, path);
    float[] values =
        accessor < 0 ? null : accessors.floats(accessor, 16, path + "/inverseBindMatrices");
    if (values != null && values.length < result.length) {
      throw container.error(
          Kind.CORRUPT,
          path + "/inverseBindMatrices",
          "has " + values.length / 16 + " matrices for " + count + " joints.");
    }
    for (int i = 0; i < result.length; i++) {
      result[i] = values != null ? values[i] : i % 16 % 5 == 0 ? 1 : 0;
    }
    for (int j = 0; j < count; j++) {
      if (!new Matrix4d().set(result, 16 * j).isFinite()) {
        throw container.error(
            Kind.CORRUPT, path + "/inverseBindMatrices", "matrix " + j + " is no matrix.");
      }
    }
    return result;
  }
}
