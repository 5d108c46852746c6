package ferry.stone.core.format.usd.read.look;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Above;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Variant sets that do nothing but bind materials: looks to choose from. Variants of one name in
 * several sets are one look. The stage is put together once more for each look, as far as its
 * bindings are asked for.
 */
public final class LookSets {
  private final UsdReading reading;
  private final Opens opens;
  private final Map<String, Map<String, String>> chosen;
  private final Map<String, List<Variant>> looks = new LinkedHashMap<>();
  private final List<String> prims = new ArrayList<>();
  private final Map<String, Stage> stages = new HashMap<>();

  /** Opens the stage with other variants chosen. */
  public interface Opens {
    UsdStage with(Map<String, Map<String, String>> variants) throws IOException, FormatException;
  }

  private record Variant(String prim, String set, String name) {}

  /** The stage with a look, and what is bound there. */
  private record Stage(
      UsdStage stage, Map<String, Map<String, String>> variants, Bindings bindings) {}

  /**
   * @param chosen variants that are chosen from outside
   */
  public LookSets(UsdReading reading, Opens opens, Map<String, Map<String, String>> chosen) {
    this.reading = reading;
    this.opens = opens;
    this.chosen = chosen;
  }

  /** Takes the sets of a prim that are looks; what stands below it comes later. */
  public void add(UsdPrim prim) {
    Map<?, ?> originals = originals(prim);
    prim.variantSets()
        .forEach(
            (set, names) -> {
              if (!is(prim, set)) {
                return;
              }
              prims.add(prim.path());
              for (String name : names) {
                String look = original(originals, name);
                if (!look.isEmpty()) {
                  Variant variant = new Variant(prim.path(), set, name);
                  looks.computeIfAbsent(look, k -> new ArrayList<>()).add(variant);
                  Stage there = stages.get(look);
                  if (there != null) {
                    choose(there.variants, variant);
                  }
                }
              }
            });
  }

  /** Whether a variant set of a prim does nothing but bind materials. */
  public static boolean is(UsdPrim prim, String set) {
    return prim.bindsOnly(set);
  }

  private Map<?, ?> originals(UsdPrim prim) {
    return !reading.asOthers()
            && prim.field("customData") instanceof Map<?, ?> custom
            && custom.get(UsdNames.LOOKS) instanceof Map<?, ?> names
        ? names
        : Map.of();
  }

  private static String original(Map<?, ?> originals, String name) {
    return originals.get(name) instanceof UsdValue value && value.text() != null
        ? value.text()
        : name;
  }

  /** Names of all looks so far. */
  public List<String> names() {
    return List.copyOf(looks.keySet());
  }

  /** Whether looks may change a prim. */
  public boolean reach(String path) {
    return prims.stream().anyMatch(p -> path.equals(p) || path.startsWith(p + "/"));
  }

  /** The path of a prim's material in a look; empty for none. */
  public String material(String look, String path) throws IOException, FormatException {
    Stage stage = stage(look);
    Above above = Above.top(stage.stage.root());
    for (int slash = path.indexOf('/', 1); slash > 0; slash = path.indexOf('/', slash + 1)) {
      UsdPrim prim = stage.stage.prim(path.substring(0, slash));
      if (prim == null) {
        return "";
      }
      above = new Above(above, prim, -1, above.primvars());
    }
    UsdPrim prim = stage.stage.prim(path);
    return prim == null ? "" : stage.bindings.material(prim, above);
  }

  private Stage stage(String look) throws IOException, FormatException {
    Stage there = stages.get(look);
    if (there == null) {
      Map<String, Map<String, String>> variants = new HashMap<>();
      chosen.forEach((prim, sets) -> variants.put(prim, new HashMap<>(sets)));
      looks.get(look).forEach(v -> choose(variants, v));
      UsdStage stage = opens.with(variants);
      there = new Stage(stage, variants, new Bindings(reading.of(stage)));
      stages.put(look, there);
    }
    return there;
  }

  private static void choose(Map<String, Map<String, String>> variants, Variant variant) {
    variants.computeIfAbsent(variant.prim, k -> new HashMap<>()).put(variant.set, variant.name);
  }
}
