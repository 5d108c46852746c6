package ferry.stone.core.format.usd.write.layers;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.write.spec.Spec;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Several layers of one stage, one for each variant, as one layer with a set of variants: what all
 * of them say stays where it is, what they say otherwise goes into the variants of the nearest prim
 * above all of it.
 */
public final class VariantSets {
  private final PrimSpec root;
  private final PrimSpec original;
  private final Map<Difference, Added> taken = new LinkedHashMap<>();
  private final List<Difference> found = new ArrayList<>();
  private boolean possible = true;

  /**
   * Something that variants say otherwise.
   *
   * @param path of the prim
   * @param whole whether all of the prim, else one property or field of it
   */
  private record Difference(List<String> path, boolean whole, String property, String field) {
    /** Whether it is the same, or a part of it, or it a part of this. */
    boolean meets(Difference other) {
      boolean inside = whole && starts(other.path, path) || other.whole && starts(path, other.path);
      return inside || equals(other);
    }

    private static boolean starts(List<String> path, List<String> with) {
      return path.size() >= with.size() && path.subList(0, with.size()).equals(with);
    }

    List<String> holder() {
      return whole ? path.subList(0, path.size() - 1) : path;
    }
  }

  /**
   * A set that is there.
   *
   * @param holder path of its prim
   */
  private record Added(List<String> holder, Map<String, PrimSpec> variants) {}

  /**
   * @param root of the layer with the variants that are chosen, which is changed
   */
  public VariantSets(PrimSpec root) {
    this.root = root;
    original = Specs.all(root);
  }

  /**
   * Adds a set.
   *
   * @param chosen name of the variant that the layer has
   * @param others roots of the layers with the other variants
   * @return whether it could be added; a prim that another set has or has not cannot be in a second
   */
  public boolean add(String set, String chosen, Map<String, PrimSpec> others)
      throws IOException, FormatException {
    found.clear();
    possible = true;
    compare(original, List.copyOf(others.values()), List.of());
    if (found.isEmpty() || !possible) {
      return possible;
    }
    List<String> holder = found.get(0).holder();
    for (Difference each : found) {
      int same = 0;
      List<String> own = each.holder();
      while (same < Math.min(holder.size(), own.size()) && holder.get(same).equals(own.get(same))) {
        same++;
      }
      holder = holder.subList(0, same);
    }
    PrimSpec at = Specs.over(root, holder);
    Map<String, PrimSpec> variants = new LinkedHashMap<>();
    List<String> path = holder;
    variants.put(chosen, body(chosen, original, path));
    others.forEach((name, other) -> variants.put(name, body(name, other, path)));
    Added added = new Added(path, variants);
    if (holder.isEmpty() || at.variantSets().containsKey(set) || !standApart(added)) {
      return false;
    }
    found.forEach(this::take);
    found.forEach(each -> taken.putIfAbsent(each, added));
    Spec.variants(at, set, variants, chosen);
    return true;
  }

  /**
   * Makes way where two sets change one property: the stronger says it only where its variants say
   * something else than what is chosen, so that it follows the other set elsewhere.
   *
   * @return whether that can be; not where prims are there in some variants alone, or values
   */
  private boolean standApart(Added added) throws IOException, FormatException {
    Map<PrimSpec, List<Difference>> ways = new IdentityHashMap<>();
    for (Difference each : found) {
      for (Map.Entry<Difference, Added> other : taken.entrySet()) {
        if (!each.meets(other.getKey())) {
          continue;
        }
        boolean known = below(original, each.path) != null;
        if (!each.equals(other.getKey()) || each.whole && known) {
          return false;
        }
        if (each.whole) {
          // There in some variants of both alone: each says it where it is.
          continue;
        }
        Added before = other.getValue();
        // Of two prims the one below is stronger, of two sets of a prim the first.
        Added strong = added.holder.size() > before.holder.size() ? added : before;
        for (PrimSpec variant : strong.variants.values()) {
          PrimSpec at = below(variant, each.path.subList(strong.holder.size(), each.path.size()));
          PrimSpec base = below(original, each.path);
          if (says(at, each) != says(base, each)) {
            return false;
          }
          if (says(at, each) && isAs(at, base, each)) {
            ways.computeIfAbsent(at, k -> new ArrayList<>()).add(each);
          }
        }
      }
    }
    ways.forEach((at, all) -> all.forEach(each -> remove(at, each)));
    return true;
  }

  private static PrimSpec below(PrimSpec top, List<String> path) {
    PrimSpec at = top;
    for (String step : path) {
      at = at == null ? null : at.children().get(step);
    }
    return at;
  }

  private static boolean says(PrimSpec prim, Difference each) {
    return prim != null
        && (each.property == null
            ? prim.fields().containsKey(each.field)
            : prim.properties().containsKey(each.property));
  }

  private static boolean isAs(PrimSpec prim, PrimSpec base, Difference each)
      throws IOException, FormatException {
    return each.property == null
        ? LayerDiff.same(prim.fields().get(each.field), base.fields().get(each.field))
        : same(prim.properties().get(each.property), base.properties().get(each.property));
  }

  private static void remove(PrimSpec at, Difference each) {
    if (each.property != null) {
      at.properties().remove(each.property);
    } else {
      at.fields().remove(each.field);
    }
  }

  private void compare(PrimSpec base, List<PrimSpec> others, List<String> path)
      throws IOException, FormatException {
    for (String name : names(base, others, PrimSpec::fields)) {
      boolean same = name.startsWith("variantSe");
      boolean all = true;
      for (PrimSpec other : others) {
        all &= LayerDiff.same(base.fields().get(name), other.fields().get(name));
      }
      if (!all && !same && !path.isEmpty()) {
        found.add(new Difference(path, false, null, name));
      }
    }
    for (String name : names(base, others, PrimSpec::properties)) {
      boolean all = true;
      for (PrimSpec other : others) {
        all &= same(base.properties().get(name), other.properties().get(name));
      }
      if (!all) {
        found.add(new Difference(path, false, name, null));
      }
    }
    for (String name : names(base, others, PrimSpec::children)) {
      child(base, others, path, name);
    }
  }

  private void child(PrimSpec base, List<PrimSpec> others, List<String> path, String name)
      throws IOException, FormatException {
    List<String> below = new ArrayList<>(path);
    below.add(name);
    PrimSpec own = base.children().get(name);
    List<PrimSpec> theirs = new ArrayList<>();
    boolean everywhere = own != null;
    for (PrimSpec other : others) {
      PrimSpec there = other.children().get(name);
      everywhere &=
          there != null
              && own != null
              && there.typeName().equals(own.typeName())
              && there.specifier() == own.specifier();
      theirs.add(there);
    }
    if (everywhere) {
      compare(own, theirs, below);
    } else if (path.isEmpty()) {
      // What classes hold is shown by nothing but those that refer to it.
      boolean classes = theirs.stream().noneMatch(p -> p != null && !isClass(p));
      possible &= classes && (own == null || isClass(own));
      theirs.stream().filter(p -> p != null && own == null).forEach(this::keep);
    } else if (own == null && isClass(root.children().get(path.get(0)))) {
      PrimSpec holder = Specs.over(root, path);
      theirs.stream()
          .filter(p -> p != null)
          .forEach(p -> holder.children().putIfAbsent(p.name(), Specs.all(p)));
    } else if (!isClass(root.children().get(path.get(0)))) {
      found.add(new Difference(below, true, null, null));
    }
  }

  private void keep(PrimSpec top) {
    root.children().putIfAbsent(top.name(), Specs.all(top));
  }

  private static boolean isClass(PrimSpec prim) {
    return prim != null && prim.specifier() == PrimSpec.Specifier.CLASS;
  }

  private interface Named {
    Map<String, ?> of(PrimSpec prim);
  }

  private static Set<String> names(PrimSpec base, List<PrimSpec> others, Named named) {
    Set<String> names = new LinkedHashSet<>(named.of(base).keySet());
    others.forEach(o -> names.addAll(named.of(o).keySet()));
    return names;
  }

  private static boolean same(PropertySpec a, PropertySpec b) throws IOException, FormatException {
    if (a == null || b == null) {
      return a == b;
    }
    UsdSamples one = a.samples();
    UsdSamples other = b.samples();
    if ((one == null) != (other == null)) {
      return false;
    }
    if (one != null) {
      if (!Arrays.equals(one.codes(), other.codes())) {
        return false;
      }
      for (int s = 0; s < one.codes().length; s++) {
        if (!LayerDiff.same(one.value(s), other.value(s))) {
          return false;
        }
      }
    }
    return LayerDiff.still(a, b);
  }

  /** What a layer says of all that is found, below a holder. */
  private PrimSpec body(String name, PrimSpec from, List<String> holder) {
    PrimSpec body = new PrimSpec(name);
    for (Difference each : found) {
      PrimSpec there = from;
      for (String step : each.path()) {
        there = there == null ? null : there.children().get(step);
      }
      if (there == null) {
        continue;
      }
      if (each.whole()) {
        PrimSpec above =
            Specs.over(body, each.holder().subList(holder.size(), each.holder().size()));
        above.children().put(there.name(), Specs.all(there));
        continue;
      }
      PrimSpec at = Specs.over(body, each.path().subList(holder.size(), each.path().size()));
      if (each.property() != null && there.properties().containsKey(each.property())) {
        at.properties().put(each.property(), there.properties().get(each.property()));
      } else if (each.field() != null && there.fields().containsKey(each.field())) {
        at.fields().put(each.field(), there.fields().get(each.field()));
      }
    }
    return body;
  }

  /** Takes away what would be stronger than any variant; the order of prims stays. */
  private void take(Difference each) {
    PrimSpec at = root;
    for (String step : each.holder()) {
      at = at.children().get(step);
    }
    if (each.whole()) {
      if (at.childOrder().isEmpty()) {
        at.childOrder(List.copyOf(at.children().keySet()));
      }
      at.children().remove(each.path().get(each.path().size() - 1));
    } else {
      remove(at, each);
    }
  }
}
