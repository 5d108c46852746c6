package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdLayer;
import java.io.IOException;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Which files of the cargo a layer is made of, whatever variants are chosen. */
final class UsdParts {
  private UsdParts() {}

  static Set<String> of(String resource, ReadContext context) throws IOException, FormatException {
    UsdFiles files = new UsdFiles(context.resources(), Budget.of(resource, context.resources()));
    UsdLayer layer = files.layer(resource);
    Set<String> written = new LinkedHashSet<>();
    layer.sublayers().forEach(arc -> written.add(arc.asset()));
    gather(layer.root(), written);
    ReferenceFinder finder = new ReferenceFinder(context.resources(), context.bindings());
    Set<String> parts = new LinkedHashSet<>();
    for (String path : written) {
      int bracket = path.indexOf('[');
      String file = bracket < 0 ? path : path.substring(0, bracket);
      if (!file.isEmpty() && !layer.resource().endsWith("]")) {
        finder
            .find(file, layer.resource())
            .ifPresentOrElse(
                m -> parts.add(m.resource()),
                // What a missing file may have become is no scene of its own either.
                () -> finder.propose(file).stream().limit(1).forEach(parts::add));
      }
    }
    parts.remove(resource);
    return parts;
  }

  private static void gather(PrimSpec prim, Set<String> into) {
    for (String field : new String[] {"references", "payload"}) {
      if (prim.fields().get(field) instanceof ListOp<?> edit) {
        for (Object item : edit.over(List.of())) {
          if (item instanceof UsdArc arc) {
            into.add(arc.asset());
          }
        }
      }
    }
    prim.children().values().forEach(child -> gather(child, into));
    for (Map<String, PrimSpec> set : prim.variantSets().values()) {
      set.values().forEach(variant -> gather(variant, into));
    }
  }
}
