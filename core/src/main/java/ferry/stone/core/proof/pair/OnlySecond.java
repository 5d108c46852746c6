package ferry.stone.core.proof.pair;

import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.PartMatch;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.Scene.ShownMesh;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * Lists what the second of two files has besides all that the first has: a landing brings nothing
 * of its own, so the proof of one does not look for it.
 */
final class OnlySecond {
  private final Ledger ledger;

  private OnlySecond(Ledger ledger) {
    this.ledger = ledger;
  }

  static void list(Ledger ledger, Scene first, Scene second, PartMatch match) {
    OnlySecond more = new OnlySecond(ledger);
    ledger.group("Whole scene");
    more.names("Clips", -1, first, second, s -> named(s.clips(), c -> c.name()));
    more.names("Cameras", -1, first, second, s -> named(s.cameras(), c -> c.name()));
    more.names("Lights", -1, first, second, s -> named(s.lights(), l -> l.name()));
    more.names("Materials", -1, first, second, s -> named(s.materials(), m -> m.name()));
    more.names("Looks", -1, first, second, Scene::variants);
    more.names("Caches", -1, first, second, s -> named(s.caches(), c -> c.name()));
    more.names("Custom values", -1, first, second, OnlySecond::values);
    for (int i = 0; i < match.wanted().size(); i++) {
      ShownMesh own = match.wanted().get(i);
      ShownMesh other = match.landed(i);
      if (other != null && own.mesh() != other.mesh()) {
        ledger.group(own.path());
        PolygonMesh was = own.mesh();
        PolygonMesh is = other.mesh();
        int id = own.node().id();
        more.names("Layers", id, was, is, m -> named(m.attributes(), OnlySecond::layer));
        more.names("Morph targets", id, was, is, m -> named(m.morphs(), t -> t.name()));
        more.names("Sets of faces", id, was, is, m -> named(m.faceSets(), s -> s.name()));
      }
    }
  }

  private static String layer(Attribute layer) {
    return layer.semantic() + " " + layer.name();
  }

  private static <T> List<String> named(List<T> all, Function<T, String> name) {
    return all.stream().map(name).toList();
  }

  /** Of every node by its path. */
  private static List<String> values(Scene scene) {
    List<String> all = new ArrayList<>();
    List<String> paths = scene.paths();
    for (int i = 0; i < paths.size(); i++) {
      for (String name : scene.nodes().get(i).properties().keySet()) {
        all.add(paths.get(i) + ", " + name);
      }
    }
    return all;
  }

  private <T> void names(
      String what, int nodeId, T first, T second, Function<T, List<String>> names) {
    Map<String, Integer> there = new HashMap<>();
    List<String> own = names.apply(first);
    own.forEach(name -> there.merge(name, 1, Integer::sum));
    List<String> more = new ArrayList<>();
    List<String> others = names.apply(second);
    for (String name : others) {
      if (there.merge(name, -1, Integer::sum) < 0) {
        more.add(name);
      }
    }
    // What has another name is told as such by the proof; what is one more is told here.
    int surplus = others.size() - own.size();
    if (surplus > 0) {
      ledger.add(
          what,
          nodeId,
          Figures.count(own.size()),
          Figures.count(own.size()),
          Figures.count(others.size()),
          "+" + surplus,
          Verdict.CHANGED,
          "only the second file has it: "
              + String.join(", ", more.subList(0, Math.min(3, more.size()))));
    }
  }
}
