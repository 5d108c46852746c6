package ferry.stone.core.format.usd.compose;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * A place where opinions of a prim are, with the places that arcs bring in from there.
 *
 * @param kind of the arc that brought it in
 * @param depth of the prim at which the arc is: what is said of the prim itself is stronger than
 *     what is said of one above it
 * @param from where the arc leads, and {@code to} where it is: paths of targets are carried so
 * @param times its time codes on those of the whole
 */
record PrimNode(
    LayerStack stack,
    SitePath path,
    Kind kind,
    int depth,
    SitePath from,
    SitePath to,
    TimeMap times,
    List<PrimNode> children) {

  /** In the order of strength. */
  enum Kind {
    ROOT,
    INHERIT,
    VARIANT,
    RELOCATE,
    REFERENCE,
    PAYLOAD,
    SPECIALIZE;

    boolean isClass() {
      return this == INHERIT || this == SPECIALIZE;
    }
  }

  static PrimNode root(LayerStack stack, SitePath path) {
    return new PrimNode(
        stack, path, Kind.ROOT, 0, SitePath.ROOT, SitePath.ROOT, TimeMap.SAME, new ArrayList<>());
  }

  /** The same for a prim below. */
  PrimNode child(String name) {
    PrimNode copy =
        new PrimNode(stack, path.child(name), kind, depth, from, to, times, new ArrayList<>());
    children.forEach(c -> copy.children.add(c.child(name)));
    return copy;
  }

  /** The tree of another place, hung here by an arc. */
  PrimNode hung(PrimNode tree, Kind how, int at, SitePath source, SitePath target, TimeMap map) {
    PrimNode node =
        new PrimNode(
            tree.stack, tree.path, how, at, source, target, times.after(map), new ArrayList<>());
    tree.children.forEach(c -> node.children.add(c.retimed(node.times)));
    children.add(node);
    return node;
  }

  /** The same, to hang other things on. */
  PrimNode copy() {
    return retimed(TimeMap.SAME);
  }

  private PrimNode retimed(TimeMap outer) {
    PrimNode copy =
        new PrimNode(stack, path, kind, depth, from, to, outer.after(times), new ArrayList<>());
    children.forEach(c -> copy.children.add(c.retimed(outer)));
    return copy;
  }

  /** The same without what hangs on it and is among others already. */
  PrimNode without(List<PrimNode> others) {
    Set<String> known = new HashSet<>();
    others.forEach(o -> known.add(o.site()));
    return without(known);
  }

  private PrimNode without(Set<String> known) {
    PrimNode copy = new PrimNode(stack, path, kind, depth, from, to, times, new ArrayList<>());
    for (PrimNode child : children) {
      if (!known.contains(child.site())) {
        copy.children.add(child.without(known));
      }
    }
    return copy;
  }

  /** What its layers say there; nothing where the prim stands elsewhere now. */
  List<LayerStack.Spec> specs() {
    return stack.relocates().isAway(path) ? List.of() : stack.specs(path);
  }

  /**
   * Lets go of what arcs bring to a place that another prim is moved to.
   *
   * @param moved gets the places that are such
   */
  void cutAtMoves(List<PrimNode> moved) {
    if (stack.relocates().source(path) != null) {
      children.clear();
      moved.add(this);
    }
    children.forEach(c -> c.cutAtMoves(moved));
  }

  /** Whether it, or anything that hangs on it, is inherited or specialized. */
  boolean hasClass() {
    return kind.isClass() || children.stream().anyMatch(PrimNode::hasClass);
  }

  /**
   * Writes down what arcs of this very prim bring in, and not those of the prims above it. A layer
   * that several stacks have below them says it once.
   */
  void ownArcs(Set<String> keys) {
    for (PrimNode child : children) {
      if (child.depth == path.depth()) {
        child.all(keys);
      } else {
        child.ownArcs(keys);
      }
    }
  }

  private void all(Set<String> keys) {
    specs().forEach(spec -> keys.add(key(this, spec)));
    children.forEach(c -> c.all(keys));
  }

  /** Where and when a layer says something of a place. */
  static String key(PrimNode node, LayerStack.Spec spec) {
    TimeMap times = node.times().after(spec.member().times());
    String layer = spec.member().layer().resource();
    return layer + ' ' + node.path() + ' ' + times.offset() + '*' + times.scale();
  }

  /** How many places it is, with all that hangs on it. */
  int size() {
    int size = 1;
    for (PrimNode child : children) {
      size += child.size();
    }
    return size;
  }

  private String site() {
    return stack.identifier() + '\n' + path;
  }

  /** All places, the strongest first; what is specialized is weaker than everything else. */
  List<PrimNode> inOrder() {
    List<PrimNode> order = new ArrayList<>();
    List<PrimNode> weakest = new ArrayList<>();
    gather(order, weakest);
    for (int i = 0; i < weakest.size(); i++) {
      weakest.get(i).gather(order, weakest);
    }
    return order;
  }

  private void gather(List<PrimNode> order, List<PrimNode> weakest) {
    order.add(this);
    List<PrimNode> sorted = new ArrayList<>(children);
    sorted.sort(
        Comparator.comparing(PrimNode::kind).thenComparing(Comparator.comparing(n -> -n.depth)));
    for (PrimNode child : sorted) {
      if (child.kind == Kind.SPECIALIZE) {
        weakest.add(child);
      } else {
        child.gather(order, weakest);
      }
    }
  }
}
