package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.scene.node.Node.Content;
import java.util.Locale;
import java.util.Map;

/** Groups of detail levels, as a landing of ours marks them. */
final class Levels {
  private Levels() {}

  /** The content of a group whose variants are levels; {@code null} for any other prim. */
  static Content.DetailGroup of(UsdPrim prim) {
    boolean marked =
        prim.field("customData") instanceof Map<?, ?> custom
            && custom.get(UsdNames.LEVELS) instanceof Map<?, ?>;
    if (!marked) {
      return null;
    }
    Map<?, ?> marks = (Map<?, ?>) ((Map<?, ?>) prim.field("customData")).get(UsdNames.LEVELS);
    double[] thresholds =
        marks.get("thresholds") instanceof UsdValue value ? value.doubles() : new double[0];
    return new Content.DetailGroup(thresholds, measure(marks.get("measure")));
  }

  private static Content.DetailGroup.Measure measure(Object said) {
    for (Content.DetailGroup.Measure each : Content.DetailGroup.Measure.values()) {
      if (said instanceof UsdValue value
          && each.name().toLowerCase(Locale.ROOT).equals(value.text())) {
        return each;
      }
    }
    return Content.DetailGroup.Measure.DISTANCE;
  }
}
