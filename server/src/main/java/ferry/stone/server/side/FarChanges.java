package ferry.stone.server.side;

import ferry.stone.core.view.SideView;
import ferry.stone.core.view.SideView.NodeView;
import io.swagger.v3.oas.annotations.media.Schema;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The far side against one that the page has: of its parts only those that are others.
 *
 * @param key names this far side, for the next time
 * @param base the far side that the parts left out are as in; {@code null} where none is left out
 * @param order ids of all parts in their order; {@code null} where it is that of the base
 * @param view without the parts that are as in the base
 */
public record FarChanges(
    String key,
    @Schema(nullable = true) String base,
    @Schema(nullable = true) List<Integer> order,
    SideView view) {

  /** A far side that was sent, under its name. */
  public record Sent(String key, List<NodeView> nodes) {}

  /** All of it. */
  public static FarChanges whole(String key, SideView view) {
    return new FarChanges(key, null, null, view);
  }

  /** What is other than in one that was sent. */
  public static FarChanges since(Sent before, String key, SideView view) {
    Map<Integer, NodeView> known = new HashMap<>();
    before.nodes().forEach(n -> known.put(n.id(), n));
    List<NodeView> changed = new ArrayList<>();
    boolean sameOrder = before.nodes().size() == view.nodes().size();
    for (int i = 0; i < view.nodes().size(); i++) {
      NodeView node = view.nodes().get(i);
      NodeView old = known.get(node.id());
      if (old == null || !isSame(old, node)) {
        changed.add(node);
      }
      sameOrder &= sameOrder && before.nodes().get(i).id() == node.id();
    }
    List<Integer> order = sameOrder ? null : view.nodes().stream().map(NodeView::id).toList();
    return new FarChanges(key, before.key(), order, with(view, changed));
  }

  private static SideView with(SideView view, List<NodeView> nodes) {
    return new SideView(
        view.caption(),
        view.height(),
        view.heightNote(),
        view.heightDoubtful(),
        view.metresPerUnit(),
        view.bounds(),
        view.fromNear(),
        nodes,
        view.materials(),
        view.skins(),
        view.clips(),
        view.cameras(),
        view.lights(),
        view.textures(),
        view.looks(),
        view.changing());
  }

  private static boolean isSame(NodeView a, NodeView b) {
    return a.parent() == b.parent()
        && a.skin() == b.skin()
        && a.drawn() == b.drawn()
        && a.level() == b.level()
        && a.mesh().equals(b.mesh())
        && a.kind().equals(b.kind())
        && a.name().equals(b.name())
        && a.path().equals(b.path())
        && Arrays.equals(a.matrix(), b.matrix())
        && Arrays.equals(a.pivot(), b.pivot())
        && Arrays.equals(a.weights(), b.weights());
  }
}
