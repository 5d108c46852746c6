package ferry.stone.core.format.usd.write;

import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.scene.node.Node.Content;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Detail levels as a variant set of their group: each variant leaves one of the prims below active.
 * The finest is chosen.
 */
final class LevelsOut {
  /** Name of the variant set. */
  static final String SET = "detail";

  private LevelsOut() {}

  /**
   * @param levels the prims below, the finest first
   */
  static void write(PrimSpec prim, List<PrimSpec> levels, Content.DetailGroup group) {
    Map<String, PrimSpec> variants = new LinkedHashMap<>();
    for (PrimSpec level : levels) {
      PrimSpec variant = new PrimSpec(level.name());
      for (PrimSpec other : levels) {
        // All of them, so that their order is that of the levels in every variant.
        PrimSpec over = new PrimSpec(other.name());
        over.fields().put("active", Spec.number("bool", other == level ? 1 : 0));
        variant.children().put(other.name(), over);
      }
      variants.put(level.name(), variant);
    }
    Spec.variants(prim, SET, variants, levels.get(0).name());
    Map<String, Object> marks = new LinkedHashMap<>();
    marks.put("measure", Spec.text("string", group.measure().name().toLowerCase(Locale.ROOT)));
    marks.put("thresholds", Spec.value("double", true, group.thresholds()));
    Spec.custom(prim, UsdNames.LEVELS, marks);
  }
}
