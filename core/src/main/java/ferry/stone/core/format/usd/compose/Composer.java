package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.PrimNode.Kind;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Puts layers together in the order of strength of the standard: local, inherits, variants,
 * relocates, references, payloads, specializes; each again for what an arc leads to. Arcs of a prim
 * are stronger than those of the prims above it. Classes of what is referenced are looked for among
 * the classes of whoever references it too.
 */
final class Composer {
  /** More places for one prim than any asset has: arcs that multiply each other. */
  private static final int MOST_PLACES = 2000;

  private static final double USUAL_RATE = 24;

  private final AssetFinder finder;
  private final UsdFiles files;
  private final List<UsdProblem> problems;
  private final UsdStage.Choices choices;
  private final Map<String, LayerStack> stacks = new HashMap<>();
  private final Map<String, PrimNode> whole = new HashMap<>();
  private final Map<String, PrimNode> open = new HashMap<>();
  private final Set<String> underWay = new HashSet<>();

  Composer(AssetFinder finder, UsdStage.Choices choices, List<UsdProblem> problems) {
    this.finder = finder;
    files = finder.files();
    this.choices = choices;
    this.problems = problems;
  }

  AssetFinder finder() {
    return finder;
  }

  /** A layer with all below it; read once. */
  LayerStack stack(String path) throws IOException, FormatException {
    LayerStack known = stacks.get(path);
    if (known == null) {
      UsdLayer root = files.layer(path);
      List<LayerStack.Member> members = new ArrayList<>();
      gather(root, TimeMap.SAME, members, new ArrayList<>());
      known = new LayerStack(path, members, Relocates.of(members, problems));
      stacks.put(path, known);
    }
    return known;
  }

  private void gather(
      UsdLayer layer, TimeMap times, List<LayerStack.Member> members, List<String> above)
      throws IOException, FormatException {
    members.add(new LayerStack.Member(layer, times));
    above.add(layer.resource());
    for (UsdArc arc : layer.sublayers()) {
      String path = finder.find(arc.asset(), layer.resource()).orElse(null);
      if (path == null) {
        problems.add(UsdProblem.missing(layer.resource(), "", arc.asset(), "sublayer"));
      } else {
        UsdLayer below = files.layer(path);
        if (above.contains(below.resource())) {
          problems.add(UsdProblem.circle(layer.resource(), "", arc.asset()));
        } else {
          gather(below, times.after(times(arc, layer, below)), members, above);
        }
      }
    }
    above.remove(above.size() - 1);
  }

  /** Offset and scale of an arc, and the rates of both layers. */
  private static TimeMap times(UsdArc arc, UsdLayer layer, UsdLayer below) {
    double scale = arc.scale() == 0 || !Double.isFinite(arc.scale()) ? 1 : arc.scale();
    return new TimeMap(arc.offset(), scale * rate(layer) / rate(below));
  }

  /** Time codes a second: what is said, else the frames a second, else 24. */
  static double rate(UsdLayer layer) {
    double frames = layer.number("framesPerSecond", USUAL_RATE);
    double rate = layer.number("timeCodesPerSecond", frames);
    return rate > 0 && Double.isFinite(rate) ? rate : USUAL_RATE;
  }

  /** All places of a prim, its variants chosen. */
  PrimNode index(LayerStack stack, SitePath path) throws IOException, FormatException {
    String key = stack.identifier() + '\n' + path;
    PrimNode known = whole.get(key);
    if (known == null) {
      PrimNode site = site(stack, path);
      known = site == null ? null : site.copy();
      if (known != null) {
        variants(known, path);
        whole.put(key, known);
      }
    }
    return known;
  }

  /** Forgets what is known of a prim whose children were all asked for. */
  void forget(LayerStack stack, SitePath path) {
    whole.remove(stack.identifier() + '\n' + path);
    open.remove(stack.identifier() + '\n' + path);
  }

  /** All places of a prim, before its variants are chosen; {@code null} in a circle. */
  private PrimNode site(LayerStack stack, SitePath path) throws IOException, FormatException {
    if (path.isRoot()) {
      return PrimNode.root(stack, path);
    }
    String key = stack.identifier() + '\n' + path;
    if (open.containsKey(key)) {
      return open.get(key);
    }
    if (!underWay.add(key)) {
      return null;
    }
    try {
      SitePath parent = path.prefix(path.steps().size() - 1);
      PrimNode above = index(stack, parent);
      if (above == null) {
        return null;
      }
      PrimNode node = above.child(path.steps().get(path.steps().size() - 1));
      List<PrimNode> moved = new ArrayList<>();
      node.cutAtMoves(moved);
      for (PrimNode each : node.inOrder()) {
        expand(each, path);
      }
      imply(node, path.depth());
      for (PrimNode each : moved) {
        SitePath source = each.stack().relocates().source(each.path());
        hang(each, each.stack(), source, Kind.RELOCATE, path.depth(), TimeMap.SAME, source + "");
      }
      open.put(key, node);
      return node;
    } finally {
      underWay.remove(key);
    }
  }

  /** Hangs on a place what its own specs refer to, variants excepted. */
  private void expand(PrimNode node, SitePath prim) throws IOException, FormatException {
    int depth = prim.depth();
    List<LayerStack.Spec> specs = node.specs();
    if (specs.isEmpty()) {
      return;
    }
    classes(node, specs, "inheritPaths", Kind.INHERIT, depth);
    arcs(node, specs, "references", Kind.REFERENCE, depth);
    if (choices.payloads().test(prim.toString())) {
      arcs(node, specs, "payload", Kind.PAYLOAD, depth);
    }
    classes(node, specs, "specializes", Kind.SPECIALIZE, depth);
  }

  private void classes(
      PrimNode node, List<LayerStack.Spec> specs, String field, Kind kind, int depth)
      throws IOException, FormatException {
    List<String> targets = new ArrayList<>();
    for (int i = specs.size() - 1; i >= 0; i--) {
      if (specs.get(i).prim().fields().get(field) instanceof ListOp<?> edit) {
        targets = texts(edit).over(targets);
      }
    }
    for (String target : targets) {
      SitePath to = SitePath.of(target);
      if (to != null && !to.isRoot()) {
        hang(node, node.stack(), to, kind, depth, TimeMap.SAME, target);
      }
    }
  }

  @SuppressWarnings("unchecked")
  private static ListOp<String> texts(ListOp<?> edit) {
    return (ListOp<String>) edit;
  }

  /** An arc with the layer that says it: paths are resolved from there. */
  private record Anchored(UsdArc arc, LayerStack.Member member) {}

  @SuppressWarnings("unchecked")
  private void arcs(PrimNode node, List<LayerStack.Spec> specs, String field, Kind kind, int depth)
      throws IOException, FormatException {
    List<UsdArc> all = new ArrayList<>();
    Map<UsdArc, LayerStack.Member> said = new HashMap<>();
    for (int i = specs.size() - 1; i >= 0; i--) {
      if (specs.get(i).prim().fields().get(field) instanceof ListOp<?> edit) {
        ListOp<UsdArc> own = (ListOp<UsdArc>) edit;
        LayerStack.Member member = specs.get(i).member();
        all = own.over(all);
        all.forEach(a -> said.putIfAbsent(a, member));
      }
    }
    for (UsdArc arc : all) {
      follow(node, new Anchored(arc, said.get(arc)), kind, depth);
    }
  }

  private void follow(PrimNode node, Anchored anchored, Kind kind, int depth)
      throws IOException, FormatException {
    UsdArc arc = anchored.arc();
    UsdLayer layer = anchored.member().layer();
    LayerStack stack = node.stack();
    TimeMap times = new TimeMap(arc.offset(), arc.scale() == 0 ? 1 : arc.scale());
    if (!arc.asset().isEmpty()) {
      String path = finder.find(arc.asset(), layer.resource()).orElse(null);
      if (path == null) {
        String what = kind == Kind.PAYLOAD ? "payload" : "reference";
        problems.add(
            UsdProblem.missing(layer.resource(), node.path().toString(), arc.asset(), what));
        return;
      }
      stack = stack(path);
      times = times(arc, layer, stack.root());
    }
    String wanted = arc.prim().isEmpty() ? stack.root().text("defaultPrim", "") : arc.prim();
    SitePath to = SitePath.of(wanted.startsWith("/") ? wanted : "/" + wanted);
    if (wanted.isEmpty() || to == null || to.isRoot()) {
      problems.add(UsdProblem.noPrim(layer.resource(), node.path().toString(), stack.identifier()));
      return;
    }
    hang(node, stack, to, kind, depth, anchored.member().times().after(times), arc.asset());
  }

  private void hang(
      PrimNode node,
      LayerStack stack,
      SitePath to,
      Kind kind,
      int depth,
      TimeMap times,
      String written)
      throws IOException, FormatException {
    if (kind != Kind.RELOCATE && stack.relocates().isAway(to)) {
      problems.add(UsdProblem.away(node.stack().identifier(), node.path().toString(), written));
      return;
    }
    PrimNode tree = site(stack, to);
    if (tree == null) {
      problems.add(UsdProblem.circle(node.stack().identifier(), node.path().toString(), written));
      return;
    }
    if (tree.size() + node.size() > MOST_PLACES) {
      problems.add(UsdProblem.tooMany(node.stack().identifier(), node.path().toString()));
      return;
    }
    node.hung(tree, kind, depth, to, node.path(), times);
  }

  /** From what is deepest up: a class that is referenced through several files is each one's. */
  private void imply(PrimNode node, int depth) throws IOException, FormatException {
    if (!node.hasClass()) {
      return;
    }
    for (PrimNode child : List.copyOf(node.children())) {
      imply(child, depth);
      if (child.kind() == Kind.REFERENCE || child.kind() == Kind.PAYLOAD) {
        implied(node, child, depth);
      }
    }
  }

  /** Classes of what is referenced: those of the same name here are stronger. */
  private void implied(PrimNode node, PrimNode hung, int depth)
      throws IOException, FormatException {
    for (PrimNode each : hung.inOrder()) {
      if (!each.kind().isClass() || !each.stack().identifier().equals(hung.stack().identifier())) {
        continue;
      }
      SitePath there = each.path();
      SitePath here =
          there.startsWith(hung.from())
              ? hung.to().and(there.from(hung.from().steps().size()))
              : there;
      boolean known =
          node.children().stream().anyMatch(c -> c.kind() == each.kind() && c.path().equals(here));
      // Also where nothing is said of it here: who refers to this may say something.
      if (!known && !here.equals(node.path())) {
        PrimNode tree = site(node.stack(), here);
        if (tree != null) {
          // What is there already keeps its place and counts once.
          PrimNode own = tree.without(node.inOrder());
          node.hung(own, each.kind(), depth, here, node.path(), TimeMap.SAME);
        }
      }
    }
  }

  /** Chooses variants until no place has a set whose choice is open. */
  private void variants(PrimNode root, SitePath path) throws IOException, FormatException {
    Set<String> done = new HashSet<>();
    boolean more = true;
    while (more) {
      more = false;
      List<PrimNode> order = root.inOrder();
      if (order.size() > MOST_PLACES) {
        problems.add(UsdProblem.tooMany(root.stack().identifier(), path.toString()));
        return;
      }
      for (PrimNode node : order) {
        for (String set : sets(node)) {
          if (done.add(System.identityHashCode(node) + "\n" + set)) {
            String name = selection(order, path, set);
            SitePath variant = name == null ? null : node.path().variant(set, name);
            if (variant != null && !node.stack().specs(variant).isEmpty()) {
              PrimNode tree = PrimNode.root(node.stack(), variant);
              int depth = path.depth();
              PrimNode hung =
                  node.hung(tree, Kind.VARIANT, depth, variant, node.path(), TimeMap.SAME);
              expand(hung, path);
              imply(root, depth);
              more = true;
            }
          }
        }
        if (more) {
          break;
        }
      }
    }
  }

  private static Set<String> sets(PrimNode node) {
    Set<String> sets = new java.util.LinkedHashSet<>();
    for (LayerStack.Spec spec : node.specs()) {
      sets.addAll(spec.prim().variantSets().keySet());
    }
    return sets;
  }

  /** The strongest choice, {@code null} where nothing chooses. */
  private String selection(List<PrimNode> order, SitePath path, String set) {
    Map<String, String> own = choices.variants().getOrDefault(path.toString(), Map.of());
    if (own.containsKey(set)) {
      return own.get(set);
    }
    for (PrimNode node : order) {
      for (LayerStack.Spec spec : node.specs()) {
        if (spec.prim().fields().get("variantSelection") instanceof Map<?, ?> all
            && all.get(set) instanceof UsdValue value
            && value.text() != null) {
          return value.text();
        }
      }
    }
    return null;
  }
}
