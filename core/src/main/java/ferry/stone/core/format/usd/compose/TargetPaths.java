package ferry.stone.core.format.usd.compose;

import java.util.ArrayList;
import java.util.List;

/** Paths of targets and connections, carried along the arcs that bring them in. */
final class TargetPaths {
  private TargetPaths() {}

  /**
   * A path that a place speaks of, as the whole calls it; {@code null} for what it cannot see.
   *
   * @param index of the prim that the place is of
   */
  static String carried(PrimNode index, PrimNode node, String target) {
    int dot = target.indexOf('.');
    String prim = dot < 0 ? target : target.substring(0, dot);
    SitePath at = SitePath.of(prim);
    if (at == null) {
      return target;
    }
    // From the place that speaks to the one that it hangs on, and so on up to the whole.
    List<PrimNode> chain = new ArrayList<>();
    chain(index, node, chain);
    for (int i = 0; i < chain.size(); i++) {
      PrimNode each = chain.get(i);
      boolean inside = at.startsWith(each.from());
      PrimNode holder = i + 1 < chain.size() ? chain.get(i + 1) : index;
      boolean sameStack = each.stack() == holder.stack();
      if (!inside && !sameStack) {
        return null;
      }
      at = inside ? each.to().and(at.from(each.from().steps().size())) : at;
      // What the layers that the arc stands in have moved is found where it is now.
      at = holder.stack().relocates().moved(at);
      if (at == null) {
        return null;
      }
    }
    return at.plain() + (dot < 0 ? "" : target.substring(dot));
  }

  /** Nodes from the one looked for up to that below the root. */
  static boolean chain(PrimNode at, PrimNode wanted, List<PrimNode> chain) {
    if (at == wanted) {
      if (at.kind() != PrimNode.Kind.ROOT) {
        chain.add(at);
      }
      return true;
    }
    for (PrimNode child : at.children()) {
      if (chain(child, wanted, chain)) {
        if (at.kind() != PrimNode.Kind.ROOT) {
          chain.add(at);
        }
        return true;
      }
    }
    return false;
  }
}
