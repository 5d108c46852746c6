package ferry.stone.core.proof.pair;

import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Measure;
import ferry.stone.core.proof.PartMatch;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.Scene.ShownMesh;
import ferry.stone.core.scene.node.Node.Content.MeshContent;
import ferry.stone.core.scene.node.Skin;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** Compares how much each joint moves each vertex, joints being known by their names. */
final class WeightsProof {
  /** Formats with 8 bits a weight are further off; 16 bits are not. */
  private static final double SAME = 1e-4;

  private WeightsProof() {}

  /** A row for each part with a skin, on both sides and with as many vertices. */
  static void list(Ledger ledger, Scene a, Scene b, PartMatch match) {
    for (int i = 0; i < match.wanted().size(); i++) {
      ShownMesh own = match.wanted().get(i);
      ShownMesh other = match.landed(i);
      Skin one = skin(a, own);
      Skin two = other == null ? null : skin(b, other);
      if (one == null && two == null) {
        continue;
      }
      ledger.group(own.path());
      if (one == null || two == null || one.offsets().length != two.offsets().length) {
        String vertices = one == null ? "none" : Figures.count(one.offsets().length - 1, "vertex");
        String there = two == null ? "none" : Figures.count(two.offsets().length - 1, "vertex");
        ledger.add("Weights", own.node().id(), vertices, vertices, there, "", Verdict.CHANGED, "");
      } else {
        row(ledger, own, names(a, one), one, names(b, two), two);
      }
    }
  }

  private static void row(
      Ledger ledger, ShownMesh part, String[] names, Skin one, String[] otherNames, Skin two) {
    int count = one.offsets().length - 1;
    double most = 0;
    int changed = 0;
    int first = -1;
    String joint = "";
    Map<String, Double> was = new HashMap<>();
    Map<String, Double> is = new HashMap<>();
    for (int v = 0; v < count; v++) {
      gather(one, v, names, was);
      gather(two, v, otherNames, is);
      double here = 0;
      Set<String> all = new TreeSet<>(was.keySet());
      all.addAll(is.keySet());
      for (String name : all) {
        double off = Math.abs(was.getOrDefault(name, 0.0) - is.getOrDefault(name, 0.0));
        here = Math.max(here, off);
        if (off > most) {
          most = off;
          joint = name;
        }
      }
      if (here > SAME) {
        changed++;
        first = first < 0 ? v : first;
      }
    }
    String vertices = Figures.count(count, "vertex");
    ledger.measure(new Measure(Measure.PART, null, null, null, most));
    ledger.add(
        "Weights",
        part.node().id(),
        vertices,
        vertices,
        Figures.count(count - changed) + " the same",
        Figures.plain(Math.round(most * 1e4) / 1e4),
        changed == 0 ? Verdict.KEPT : Verdict.CHANGED,
        changed == 0
            ? ""
            : Figures.count(changed, "vertex")
                + " moved otherwise, the first "
                + first
                + "; most by "
                + joint);
  }

  private static void gather(Skin skin, int vertex, String[] names, Map<String, Double> into) {
    into.clear();
    for (int k = skin.offsets()[vertex]; k < skin.offsets()[vertex + 1]; k++) {
      into.merge(names[skin.joints()[k]], (double) skin.weights()[k], Double::sum);
    }
  }

  private static Skin skin(Scene scene, ShownMesh shown) {
    return shown.node().content() instanceof MeshContent content
        ? scene.skin(content.skinId()).orElse(null)
        : null;
  }

  private static String[] names(Scene scene, Skin skin) {
    Map<Integer, Integer> places = scene.nodePlaces();
    String[] names = new String[skin.jointNodeIds().length];
    for (int j = 0; j < names.length; j++) {
      names[j] = scene.nodes().get(places.get(skin.jointNodeIds()[j])).name();
    }
    return names;
  }
}
