package ferry.stone.core.format.usd.write.layers;

import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.util.Arrays;
import java.util.Map;
import java.util.Objects;

/** What one layer says otherwise than another. */
final class LayerDiff {
  private LayerDiff() {}

  /**
   * @param over gets what has to be laid over {@code base} so that it says what {@code wanted} says
   */
  static void over(PrimSpec base, PrimSpec wanted, PrimSpec over) {
    for (PrimSpec child : wanted.children().values()) {
      PrimSpec there = base.children().get(child.name());
      if (there == null) {
        over.children().put(child.name(), Specs.all(child));
        continue;
      }
      PrimSpec own = new PrimSpec(child.name());
      head(there, child, own);
      over(there, child, own);
      boolean says =
          !own.fields().isEmpty()
              || !own.properties().isEmpty()
              || !own.children().isEmpty()
              || !own.typeName().isEmpty();
      if (says) {
        over.children().put(child.name(), own);
      }
    }
  }

  private static void head(PrimSpec base, PrimSpec wanted, PrimSpec own) {
    if (!wanted.typeName().equals(base.typeName())) {
      own.typeName(wanted.typeName());
    }
    wanted
        .fields()
        .forEach(
            (name, value) -> {
              if (!same(base.fields().get(name), value)) {
                own.fields().put(name, value);
              }
            });
    wanted
        .variantSets()
        .forEach(
            (set, variants) -> {
              if (!base.variantSets().containsKey(set)) {
                own.variantSets().put(set, variants);
              }
            });
    wanted
        .properties()
        .forEach(
            (name, property) -> {
              PropertySpec there = base.properties().get(name);
              if (there == null || !same(there, property)) {
                own.properties().put(name, property);
              }
            });
  }

  /** Samples are not compared: what is over time is said again. */
  private static boolean same(PropertySpec a, PropertySpec b) {
    return b.samples() == null && a.samples() == null && still(a, b);
  }

  /** Whether two properties say the same apart from samples; fields of the second count. */
  static boolean still(PropertySpec a, PropertySpec b) {
    return a.typeName().equals(b.typeName())
        && a.isArray() == b.isArray()
        && same(a.value(), b.value())
        && Objects.equals(a.targets(), b.targets())
        && b.fields().entrySet().stream()
            .allMatch(f -> same(a.fields().get(f.getKey()), f.getValue()));
  }

  static boolean same(Object a, Object b) {
    if (a instanceof UsdValue one && b instanceof UsdValue other) {
      return one.type().equals(other.type())
          && one.array() == other.array()
          && Objects.deepEquals(one.data(), other.data());
    }
    if (a instanceof Map<?, ?> one && b instanceof Map<?, ?> other) {
      return one.keySet().equals(other.keySet())
          && one.keySet().stream().allMatch(k -> same(one.get(k), other.get(k)));
    }
    if (a instanceof ListOp<?> || b instanceof ListOp<?>) {
      return Objects.equals(a, b);
    }
    return a == b || a != null && Arrays.deepEquals(new Object[] {a}, new Object[] {b});
  }
}
