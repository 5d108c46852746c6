package ferry.stone.core.format.usd.write.look;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.write.spec.Spec;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Looks to choose from as a variant set of the prim at the top, or of the class that instances
 * have: each binds what it changes. What is shown with none chosen is one more variant, where it is
 * no look by itself; bindings of the prims themselves would be stronger than those of variants.
 */
public final class VariantsOut {
  /** Name of the variant set. */
  public static final String SET = "look";

  private final List<String> looks;
  private final LooksOut materials;
  private final Map<String, List<Binding>> byHolder = new TreeMap<>();

  /**
   * What one prim is bound to.
   *
   * @param path of the prim
   * @param own with no look chosen, −1 for none
   * @param others in each look
   */
  private record Binding(String path, int own, int[] others) {}

  /**
   * @param looks their names
   */
  public VariantsOut(List<String> looks, LooksOut materials) {
    this.looks = looks;
    this.materials = materials;
  }

  /** Whether some look shows another material than the one that is shown with none chosen. */
  public static boolean varies(int own, int[] others) {
    for (int other : others) {
      if (other >= 0 && other != own) {
        return true;
      }
    }
    return false;
  }

  /**
   * Takes a binding that looks change.
   *
   * @param holder path of the prim that gets the variants
   * @param others material in each look, −1 where the look changes nothing
   */
  public void add(String holder, String path, int own, int[] others) {
    int[] all = Arrays.copyOf(others, looks.size());
    Arrays.fill(all, Math.min(others.length, all.length), all.length, -1);
    for (int i = 0; i < all.length; i++) {
      all[i] = all[i] < 0 ? own : all[i];
    }
    byHolder.computeIfAbsent(holder, k -> new ArrayList<>()).add(new Binding(path, own, all));
  }

  /** Writes the sets. */
  public void write(PrimSpec root) {
    byHolder.forEach((holder, bindings) -> set(at(root, holder), holder, bindings));
  }

  private static PrimSpec at(PrimSpec root, String path) {
    PrimSpec at = root;
    for (String name : path.substring(1).split("/")) {
      at = at.children().get(name);
    }
    return at;
  }

  private void set(PrimSpec prim, String holder, List<Binding> bindings) {
    Map<String, PrimSpec> variants = new LinkedHashMap<>();
    Map<String, Object> originals = new LinkedHashMap<>();
    FreeNames names = new FreeNames();
    String chosen = null;
    for (int v = 0; v < looks.size(); v++) {
      String name = names.take(ValidNames.of(looks.get(v)));
      if (!name.equals(looks.get(v))) {
        originals.put(name, Spec.text("string", looks.get(v)));
      }
      int look = v;
      variants.put(name, variant(name, holder, bindings, b -> b.others[look]));
      boolean own = bindings.stream().allMatch(b -> b.others[look] == b.own);
      chosen = chosen == null && own ? name : chosen;
    }
    if (chosen == null) {
      chosen = names.take("unchosen");
      originals.put(chosen, Spec.text("string", ""));
      variants.put(chosen, variant(chosen, holder, bindings, Binding::own));
    }
    Spec.variants(prim, SET, variants, chosen);
    if (!originals.isEmpty()) {
      Spec.custom(prim, UsdNames.LOOKS, originals);
    }
  }

  private interface Choice {
    int of(Binding binding);
  }

  private PrimSpec variant(String name, String holder, List<Binding> bindings, Choice choice) {
    PrimSpec variant = new PrimSpec(name);
    for (Binding binding : bindings) {
      int material = choice.of(binding);
      if (material < 0) {
        continue;
      }
      PrimSpec at = variant;
      String below = binding.path.substring(holder.length());
      for (String step : below.isEmpty() ? new String[0] : below.substring(1).split("/")) {
        at = at.children().computeIfAbsent(step, PrimSpec::new);
      }
      Spec.target(at, "material:binding", materials.path(material));
    }
    return variant;
  }
}
