package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.usd.layer.UsdLayer;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Prims that arcs bring in, and which a stack of layers puts at another place or takes away. Paths
 * are those that the prims have once all others are moved.
 */
final class Relocates {
  private final Map<SitePath, SitePath> targets = new LinkedHashMap<>();
  private final Map<SitePath, SitePath> sources = new LinkedHashMap<>();

  /** What the layers of a stack say, the strongest first; what contradicts itself is left out. */
  static Relocates of(List<LayerStack.Member> members, List<UsdProblem> problems) {
    Relocates all = new Relocates();
    Map<SitePath, UsdLayer> said = new LinkedHashMap<>();
    for (LayerStack.Member member : members) {
      if (member.layer().root().fields().get("layerRelocates") instanceof Map<?, ?> map) {
        map.forEach((from, to) -> all.take(member.layer(), from, to, said, problems));
      }
    }
    Set<SitePath> wrong = new HashSet<>();
    all.targets.forEach(
        (source, target) ->
            all.targets.forEach(
                (other, otherTarget) -> {
                  if (!other.equals(source) && contradicts(source, target, other, otherTarget)) {
                    wrong.add(source);
                  }
                }));
    for (SitePath source : wrong) {
      all.targets.remove(source);
      problems.add(
          UsdProblem.relocate(
              said.get(source).resource(), source.toString(), "contradicts another move"));
    }
    all.targets.forEach((source, target) -> all.sources.put(target, source));
    all.sources.remove(SitePath.ROOT);
    return all;
  }

  private void take(
      UsdLayer layer,
      Object from,
      Object to,
      Map<SitePath, UsdLayer> said,
      List<UsdProblem> problems) {
    SitePath source = path(from);
    SitePath target = path(to);
    if (source != null && said.containsKey(source)) {
      return;
    }
    String why = null;
    if (source == null || target == null || source.isRoot()) {
      why = "names no prim";
    } else if (target.startsWith(source) || !target.isRoot() && source.startsWith(target)) {
      why = "leads into or above itself";
    } else if (source.depth() < 2 || target.depth() == 1) {
      why = "moves a prim to or from the top";
    } else if (!target.isRoot() && !source.prefix(1).equals(target.prefix(1))) {
      why = "leads below another prim at the top";
    }
    if (why == null) {
      said.put(source, layer);
      targets.put(source, target);
    } else {
      problems.add(UsdProblem.relocate(layer.resource(), String.valueOf(from), why));
    }
  }

  /** Nothing named stands for taken away. */
  private static SitePath path(Object written) {
    String text = String.valueOf(written);
    SitePath path = SitePath.of(text.startsWith("/") ? text : "/" + text);
    return path != null && path.equals(path.plain()) ? path : null;
  }

  /** Two moves to one place, chains of moves, and moves out of what is moved or into it. */
  private static boolean contradicts(
      SitePath source, SitePath target, SitePath other, SitePath otherTarget) {
    boolean one = !target.isRoot() && target.equals(otherTarget);
    boolean chained = source.equals(otherTarget) || target.equals(other);
    return one || chained || target.startsWith(other) || source.startsWith(other);
  }

  boolean isEmpty() {
    return targets.isEmpty();
  }

  /** Where the prim that stands at a path came from; {@code null} where nothing moved there. */
  SitePath source(SitePath target) {
    return sources.get(target);
  }

  /** Whether what arcs bring to a path, or to one above it, stands elsewhere now. */
  boolean isAway(SitePath path) {
    return !isEmpty() && targets.keySet().stream().anyMatch(path::startsWith);
  }

  /** The path that a prim has after all moves, {@code null} where it is taken away. */
  SitePath moved(SitePath path) {
    SitePath nearest = null;
    for (SitePath source : targets.keySet()) {
      boolean nearer = nearest == null || source.steps().size() > nearest.steps().size();
      if (nearer && path.startsWith(source)) {
        nearest = source;
      }
    }
    if (nearest == null) {
      return path;
    }
    SitePath target = targets.get(nearest);
    return target.isRoot() ? null : target.and(path.from(nearest.steps().size()));
  }

  /**
   * Changes the names below a path as the moves say: those that go are named in {@code gone}, those
   * that come stand where they came from, if that is below the same path, or else at the end.
   */
  void names(SitePath path, Set<String> names, Set<String> gone) {
    Map<String, String> renamed = new TreeMap<>();
    Set<String> come = new java.util.TreeSet<>();
    targets.forEach(
        (source, target) -> {
          boolean from = source.isChildOf(path);
          boolean to = !target.isRoot() && target.isChildOf(path);
          if (from) {
            gone.add(source.name());
          }
          if (from && to) {
            renamed.put(source.name(), target.name());
          } else if (to) {
            come.add(target.name());
          }
        });
    if (!renamed.isEmpty()) {
      List<String> order = new ArrayList<>(names);
      names.clear();
      order.forEach(n -> names.add(renamed.getOrDefault(n, n)));
    }
    names.addAll(come);
  }
}
