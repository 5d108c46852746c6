package ferry.stone.core.proof.value;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.proof.Landed;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Compares shapes that are kept as they are by what they are and by their materials in each look.
 */
public final class KeptShapeProof {
  private KeptShapeProof() {}

  /**
   * @param far as it was to land
   */
  public static void list(Ledger ledger, Scene near, Scene far, Scene read, Landed landed) {
    List<String> wanted = shapes(far);
    if (wanted.isEmpty() || landed.fate(Capability.KEPT_SHAPES) != Fate.KEPT) {
      return;
    }
    List<String> found = shapes(read);
    int same = 0;
    for (String shape : wanted) {
      same += found.remove(shape) ? 1 : 0;
    }
    ledger
        .about(Capability.KEPT_SHAPES)
        .count(
            "Shapes kept as they are",
            -1,
            shapes(near).size(),
            wanted.size(),
            same,
            "they, or their materials, differ");
  }

  /** Path, schema and materials of each. */
  private static List<String> shapes(Scene scene) {
    Map<Integer, String> names = new HashMap<>();
    for (Material material : scene.materials()) {
      names.put(material.id(), material.name());
    }
    List<String> shapes = new ArrayList<>();
    List<String> paths = scene.paths();
    int looks = scene.variants().size();
    for (int i = 0; i < paths.size(); i++) {
      if (scene.nodes().get(i).content() instanceof Node.Content.KeptShape kept) {
        int[] ids = kept.materialIds();
        StringBuilder text = new StringBuilder(paths.get(i)).append('\n').append(kept.schema());
        for (int look = 0; look <= looks; look++) {
          int own = look < ids.length ? ids[look] : -1;
          int id = own < 0 && ids.length > 0 ? ids[0] : own;
          text.append('\n').append(names.getOrDefault(id, ""));
        }
        shapes.add(text.toString());
      }
    }
    return shapes;
  }
}
