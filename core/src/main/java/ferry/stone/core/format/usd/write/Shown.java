package ferry.stone.core.format.usd.write;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Visibility;
import java.util.List;

/** Which parts are seen where nothing is seen below a hidden one. */
final class Shown {
  private Shown() {}

  /** Which nodes say for themselves that they are not hidden; below a hidden one none is seen. */
  static boolean[] of(Scene scene) {
    List<Node> nodes = scene.nodes();
    boolean[] shown = new boolean[nodes.size()];
    boolean[] opens = new boolean[nodes.size()];
    for (int i = nodes.size() - 1; i >= 0; i--) {
      int parent = nodes.get(i).parent();
      boolean own = nodes.get(i).visibility() == Visibility.SHOWN;
      if (parent >= 0 && (own || opens[i])) {
        opens[parent] = true;
      }
    }
    boolean[] whole = scene.seen();
    for (int i = 0; i < shown.length; i++) {
      Node node = nodes.get(i);
      boolean hidden = node.visibility() == Visibility.HIDDEN;
      int parent = node.parent();
      boolean opened = parent >= 0 && opens[parent] && !whole[parent];
      shown[i] = hidden ? opens[i] : !opened || whole[i] || opens[i];
    }
    return shown;
  }
}
