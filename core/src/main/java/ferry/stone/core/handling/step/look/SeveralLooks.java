package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.HashSet;
import java.util.Set;

/**
 * Meshes with more than one look: by variants, or by parts that show them in materials of their
 * own.
 */
final class SeveralLooks {
  static final String STAYS = "The part keeps its materials: it has several looks to choose from.";

  private SeveralLooks() {}

  /** Ids of the meshes. */
  static Set<Integer> of(Scene scene) {
    Set<Integer> ids = new HashSet<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content
          && content.slotMaterials() != null) {
        ids.add(content.meshId());
      }
    }
    for (PolygonMesh mesh : scene.meshes()) {
      if (mesh.variantMaterials().length > 0) {
        ids.add(mesh.id());
      }
    }
    return ids;
  }
}
