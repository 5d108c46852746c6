package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.usd.layer.UsdLayer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Prims that arcs bring in, and which a stack of layers puts at another place or takes away. Paths
 * are those that the prims have once all others are moved.
 */
final class Relocates {
  private final Map<SitePath, SitePath> targets = new LinkedHashMap<>();
  private final Map<SitePath, SitePath> sources = new HashMap<>();
  private final Map<SitePath, List<SitePath>> leaving = new HashMap<>();
  private final Map<SitePath, List<SitePath>> coming = new HashMap<>();

  /** What the layers of a stack say, the strongest first; what contradicts itself is left out. */
  static Relocates of(List<LayerStack.Member> members, List<UsdProblem> problems) {
    Relocates all = new Relocates();
    Map<SitePath, UsdLayer> said = new LinkedHashMap<>();
    for (LayerStack.Member member : members) {
      if (member.layer().root().fields().get("layerRelocates") instanceof Map<?, ?> map) {
        map.forEach((from, to) -> all.take(member.layer(), from, to, said, problems));
      }
    }
    Map<SitePath, Integer> ends = new HashMap<>();
    all.targets.values().forEach(target -> ends.merge(target, 1, Integer::sum));
    List<SitePath> wrong =
        all.targets.keySet().stream().filter(source -> all.contradicts(source, ends)).toList();
    for (SitePath source : wrong) {
      all.targets.remove(source);
      problems.add(
          UsdProblem.relocate(
              said.get(source).resource(), source.toString(), "contradicts another move"));
    }
    all.index();
    return all;
  }

  private void index() {
    targets.forEach(
        (source, target) -> {
          leaving.computeIfAbsent(parent(source), k -> new ArrayList<>()).add(source);
          if (!target.isRoot()) {
            sources.put(target, source);
            coming.computeIfAbsent(parent(target), k -> new ArrayList<>()).add(target);
          }
        });
  }

  private static SitePath parent(SitePath path) {
    return path.prefix(path.steps().size() - 1);
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

  /**
   * Two moves to one place, chains of moves, and moves out of what is moved or into it.
   *
   * @param ends how many moves lead to each path
   */
  private boolean contradicts(SitePath source, Map<SitePath, Integer> ends) {
    SitePath target = targets.get(source);
    boolean one = !target.isRoot() && ends.get(target) > 1;
    return one || ends.containsKey(source) || isAway(target) || isAway(parent(source));
  }

  /** Where the prim that stands at a path came from; {@code null} where nothing moved there. */
  SitePath source(SitePath target) {
    return sources.get(target);
  }

  /** Whether what arcs bring to a path, or to one above it, stands elsewhere now. */
  boolean isAway(SitePath path) {
    return nearest(path) != null;
  }

  /** The nearest source at or above a path; {@code null} for none. */
  private SitePath nearest(SitePath path) {
    for (int length = targets.isEmpty() ? 0 : path.steps().size(); length > 0; length--) {
      SitePath prefix = path.prefix(length);
      if (targets.containsKey(prefix)) {
        return prefix;
      }
    }
    return null;
  }

  /** The path that a prim has after all moves, {@code null} where it is taken away. */
  SitePath moved(SitePath path) {
    SitePath nearest = nearest(path);
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
    for (SitePath source : leaving.getOrDefault(path, List.of())) {
      gone.add(source.name());
      SitePath target = targets.get(source);
      if (target.isChildOf(path)) {
        renamed.put(source.name(), target.name());
      }
    }
    Set<String> come = new TreeSet<>();
    for (SitePath target : coming.getOrDefault(path, List.of())) {
      if (!sources.get(target).isChildOf(path)) {
        come.add(target.name());
      }
    }
    if (!renamed.isEmpty()) {
      List<String> order = new ArrayList<>(names);
      names.clear();
      order.forEach(n -> names.add(renamed.getOrDefault(n, n)));
    }
    names.addAll(come);
  }
}
