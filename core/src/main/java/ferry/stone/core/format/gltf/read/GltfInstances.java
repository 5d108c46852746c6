package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import java.io.IOException;
import java.util.List;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Instances that a node lists in arrays become nodes below it that show the same mesh, and are
 * known as copies.
 */
final class GltfInstances {
  private static final int MOST = 100_000;

  private final GltfContainer container;
  private final GltfAccessors accessors;
  private final SceneBuilder scene;

  GltfInstances(GltfContainer container, GltfAccessors accessors, SceneBuilder scene) {
    this.container = container;
    this.accessors = accessors;
    this.scene = scene;
  }

  void expand(JsonNode json, String path, List<Node> nodes, int place)
      throws IOException, FormatException {
    String at = path + "/extensions/" + GltfExtensions.INSTANCING + "/attributes";
    JsonNode attributes = json.at("/extensions/" + GltfExtensions.INSTANCING + "/attributes");
    float[] t = values(attributes, "TRANSLATION", 3, at);
    float[] r = values(attributes, "ROTATION", 4, at);
    float[] s = values(attributes, "SCALE", 3, at);
    int count = t != null ? t.length / 3 : r != null ? r.length / 4 : s != null ? s.length / 3 : 0;
    boolean same =
        (t == null || t.length == 3 * count)
            && (r == null || r.length == 4 * count)
            && (s == null || s.length == 3 * count);
    if (!same) {
      throw container.error(Kind.CORRUPT, at, "its arrays are not of one length.");
    }
    if (count > MOST) {
      throw container.error(
          Kind.TOO_LARGE, at, count + " instances are more than the " + MOST + " that are read.");
    }
    Node node = nodes.get(place);
    if (count == 0 || !(node.content() instanceof Node.Content.MeshContent)) {
      return;
    }
    nodes.set(place, node.withContent(Node.Content.GROUP));
    int[] copies = new int[count];
    for (int i = 0; i < count; i++) {
      LocalTransform transform =
          LocalTransform.Trs.of(
              t == null ? new Vector3d() : new Vector3d(t[3 * i], t[3 * i + 1], t[3 * i + 2]),
              r == null
                  ? new Quaterniond()
                  : new Quaterniond(r[4 * i], r[4 * i + 1], r[4 * i + 2], r[4 * i + 3]).normalize(),
              s == null ? new Vector3d(1) : new Vector3d(s[3 * i], s[3 * i + 1], s[3 * i + 2]));
      copies[i] = scene.newId();
      nodes.add(
          Node.of(copies[i], Copies.name(node.name(), i), place, node.content())
              .withTransform(transform));
    }
    scene.add(new CopySet(CopySet.Kind.PLACES, node.id(), copies));
  }

  private float[] values(JsonNode attributes, String key, int components, String at)
      throws IOException, FormatException {
    return attributes.has(key)
        ? accessors.floats(container.integer(attributes, key, -1, at), components, at + "/" + key)
        : null;
  }
}
