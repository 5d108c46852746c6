package ferry.stone.core.format.usd.read.look;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Follows connections of shading networks: through graphs and interfaces, up to the value or the
 * shader that says it.
 */
public final class ShadeGraph {
  private static final String OUTPUT = "outputs:";

  private final UsdStage stage;
  private final Map<String, UsdPrim> prims = new HashMap<>();

  public ShadeGraph(UsdStage stage) {
    this.stage = stage;
  }

  /**
   * What says an input.
   *
   * @param shader whose output it is, {@code null} where it is a value
   * @param output name of the output without {@code outputs:}
   * @param property that has the value, {@code null} for none
   */
  record Source(UsdPrim shader, String output, UsdProperty property) {
    UsdValue value() throws IOException, FormatException {
      return Said.value(property);
    }
  }

  UsdPrim prim(String path) throws IOException, FormatException {
    if (!prims.containsKey(path)) {
      prims.put(path, stage.prim(path));
    }
    return prims.get(path);
  }

  /** Which shader a prim is; empty for graphs, interfaces and what says no name. */
  static String id(UsdPrim shader) throws IOException, FormatException {
    return Said.text(shader, "info:id", "");
  }

  /** What says a property; {@code null} where nothing does. */
  Source source(UsdPrim prim, String name) throws IOException, FormatException {
    Set<String> seen = new HashSet<>();
    UsdPrim at = prim;
    String property = name;
    UsdProperty found = at.property(property);
    while (found != null && seen.add(at.path() + "." + property)) {
      List<String> targets = found.targets();
      String target = targets.isEmpty() ? "" : targets.get(0);
      int dot = target.indexOf('.');
      if (dot < 0) {
        return new Source(null, "", found);
      }
      UsdPrim next = prim(target.substring(0, dot));
      String nextName = target.substring(dot + 1);
      if (next == null) {
        return new Source(null, "", found);
      }
      boolean shader = next.typeName().equals("Shader") || !id(next).isEmpty();
      if (shader && nextName.startsWith(OUTPUT)) {
        return new Source(next, nextName.substring(OUTPUT.length()), found);
      }
      at = next;
      property = nextName;
      found = at.property(property);
    }
    return null;
  }
}
