package ferry.stone.core.format.fbx.write;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Faces without a material in meshes where others have one. The format numbers the materials of a
 * model; readers take a missing number for the first.
 */
public final class BareFaces {
  private static final String NAME = "unassigned";

  private BareFaces() {}

  /** Name of the material that they get, unlike all others. */
  static String name(Scene scene) {
    Set<String> taken = scene.materials().stream().map(m -> m.name()).collect(Collectors.toSet());
    String name = NAME;
    for (int i = 2; taken.contains(name); i++) {
      name = NAME + "_" + i;
    }
    return name;
  }

  /** Names of the parts that show such meshes. */
  public static List<String> meshes(Scene scene) {
    Map<Integer, PolygonMesh> byId = scene.meshesById();
    Set<Integer> known = scene.materials().stream().map(m -> m.id()).collect(Collectors.toSet());
    List<String> found = new ArrayList<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content
          && byId.containsKey(content.meshId())) {
        PolygonMesh mesh = byId.get(content.meshId());
        int[] own = content.slotMaterials() != null ? content.slotMaterials() : mesh.materialIds();
        int[] slots = Arrays.stream(own).map(id -> known.contains(id) ? 0 : -1).toArray();
        if (areDressed(mesh, slots) && areBare(mesh, slots)) {
          found.add(node.name());
        }
      }
    }
    return found;
  }

  /**
   * @param slots −1 for slots without a material
   */
  static boolean areDressed(PolygonMesh mesh, int[] slots) {
    return any(mesh, slots, true);
  }

  static boolean areBare(PolygonMesh mesh, int[] slots) {
    return any(mesh, slots, false);
  }

  private static boolean any(PolygonMesh mesh, int[] slots, boolean dressed) {
    int faces = mesh.faces().faceCount();
    if (mesh.faceSlot() == null) {
      return faces > 0 && (slots.length > 0 && slots[0] >= 0) == dressed;
    }
    for (int f = 0; f < faces; f++) {
      int slot = mesh.faceSlot()[f];
      if ((slot >= 0 && slot < slots.length && slots[slot] >= 0) == dressed) {
        return true;
      }
    }
    return false;
  }
}
