package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProblem;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.format.usd.read.look.LookSets;
import ferry.stone.core.scene.Composition;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

/** Gathers what a stage is put together from, while its prims are gone through. */
final class Compositions {
  private final UsdStage stage;
  private final Predicate<String> loaded;
  private final Set<Composition.Layer> layers = new LinkedHashSet<>();
  private final List<Composition.Choice> choices = new ArrayList<>();
  private final List<Composition.Payload> payloads = new ArrayList<>();
  private final Map<Integer, List<String>> sources = new LinkedHashMap<>();

  /**
   * @param loaded whether the payloads of a prim are read
   */
  Compositions(UsdStage stage, Predicate<String> loaded) {
    this.stage = stage;
    this.loaded = loaded;
    layers.add(new Composition.Layer(stage.layer().resource(), "opened", ""));
    stage
        .sublayers()
        .forEach((path, by) -> layers.add(new Composition.Layer(path, "sublayer", by)));
  }

  /**
   * Takes a prim that becomes a node.
   *
   * @param levels whether its variants are detail levels, all of which are read
   */
  void add(UsdPrim prim, int nodeId, boolean levels) {
    sources.put(nodeId, prim.layers());
    prim.variantSets()
        .forEach(
            (set, names) -> {
              // Looks are chosen where they are shown.
              if (!levels && !LookSets.is(prim, set)) {
                choices.add(new Composition.Choice(prim.path(), set, names, prim.variant(set)));
              }
            });
    for (String file : prim.payloads()) {
      payloads.add(new Composition.Payload(prim.path(), file, loaded.test(prim.path())));
    }
    String own = stage.layer().resource();
    for (UsdPrim.Arc arc : prim.arcs()) {
      if (!arc.layer().equals(own)) {
        layers.add(new Composition.Layer(arc.layer(), arc.kind(), prim.path()));
      }
    }
  }

  /** Nothing is said of a single file without choices. */
  Composition all() {
    for (UsdProblem problem : stage.problems()) {
      if (problem.code().equals("usd-layer-missing")) {
        String where = problem.prim().isEmpty() ? problem.layer() : problem.prim();
        layers.add(new Composition.Layer(problem.written(), "missing", where));
      }
    }
    boolean one = layers.size() == 1 && choices.isEmpty() && payloads.isEmpty();
    return one
        ? Composition.NONE
        : new Composition(List.copyOf(layers), choices, payloads, sources);
  }
}
