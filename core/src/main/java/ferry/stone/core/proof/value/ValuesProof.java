package ferry.stone.core.proof.value;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Landed;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Measure;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/**
 * Compares custom values of parts that have the same path: numbers as numbers, whatever type they
 * came back as; a list of one is its item. Parts that are elsewhere are told by their names.
 */
public final class ValuesProof {
  /** Numbers may have been written with 32 bits. */
  private static final double SAME = 1e-6;

  private final Map<String, Map<String, Object>> found = new HashMap<>();
  private int same;
  private int changed;
  private int gone;
  private String first = "";

  private ValuesProof(Scene read) {
    List<String> paths = read.paths();
    for (int i = 0; i < paths.size(); i++) {
      found.putIfAbsent(paths.get(i), read.nodes().get(i).properties());
    }
  }

  /**
   * @param far as it was to land, under a root of its own where the format needs one
   */
  public static void list(Ledger ledger, Scene near, Scene far, Scene read, Landed landed) {
    if (landed.fate(Capability.CUSTOM_VALUES) != Fate.KEPT || landed.holding().isFlat()) {
      return;
    }
    ValuesProof proof = new ValuesProof(read);
    List<String> paths = far.paths();
    for (int i = 0; i < paths.size(); i++) {
      proof.node(paths.get(i), far.nodes().get(i));
    }
    int wanted = proof.same + proof.changed + proof.gone;
    if (wanted == 0) {
      return;
    }
    long before = near.nodes().stream().mapToInt(n -> n.properties().size()).sum();
    boolean all = proof.same == wanted;
    ledger
        .about(Capability.CUSTOM_VALUES)
        .measure(Measure.count(before, wanted, proof.same))
        .add(
            "Custom values",
            -1,
            Figures.count(before),
            Figures.count(wanted),
            Figures.count(proof.same) + " the same",
            Figures.count(wanted - proof.same),
            all ? Verdict.KEPT : proof.gone > 0 ? Verdict.LOST : Verdict.CHANGED,
            all ? "" : "first: " + proof.first);
  }

  private void node(String path, Node node) {
    Map<String, Object> there = found.get(path);
    if (there == null) {
      return;
    }
    node.properties()
        .forEach(
            (name, value) -> {
              Object own = there.get(name);
              boolean is = own != null && isSame(value, own);
              same += is ? 1 : 0;
              changed += own != null && !is ? 1 : 0;
              gone += own == null ? 1 : 0;
              first = is || !first.isEmpty() ? first : path + ", " + name;
            });
  }

  static boolean isSame(Object a, Object b) {
    if (a instanceof List<?> one && b instanceof List<?> other) {
      boolean all = one.size() == other.size();
      for (int i = 0; all && i < one.size(); i++) {
        all = isSame(one.get(i), other.get(i));
      }
      return all;
    }
    if (a instanceof List<?> one && one.size() == 1) {
      return isSame(one.get(0), b);
    }
    if (b instanceof List<?> other && other.size() == 1) {
      return isSame(a, other.get(0));
    }
    if (a instanceof Map<?, ?> one && b instanceof Map<?, ?> other) {
      return one.keySet().equals(other.keySet())
          && one.keySet().stream().allMatch(k -> isSame(one.get(k), other.get(k)));
    }
    Double x = number(a);
    Double y = number(b);
    if (x != null && y != null) {
      return x.equals(y) || Math.abs(x - y) <= SAME * Math.max(Math.abs(x), Math.abs(y));
    }
    return Objects.equals(a, b);
  }

  private static Double number(Object value) {
    return value instanceof Number n
        ? Double.valueOf(n.doubleValue())
        : value instanceof Boolean b ? Double.valueOf(b ? 1 : 0) : null;
  }
}
