package ferry.stone.core.format.usd.layer;

import java.lang.reflect.Array;
import java.util.Map;
import java.util.TreeMap;

/** A layer as one text, so that layers of different files can be held against each other. */
public final class LayerText {
  private final StringBuilder out = new StringBuilder();

  public static String of(UsdLayer layer) throws Exception {
    LayerText text = new LayerText();
    text.out.append("sublayers ").append(layer.sublayers()).append('\n');
    text.prim(layer.root(), "/");
    return text.out.toString();
  }

  private void prim(PrimSpec prim, String path) throws Exception {
    out.append(path).append(' ').append(prim.specifier()).append(' ').append(prim.typeName());
    out.append(' ').append(prim.childOrder()).append(prim.propertyOrder()).append('\n');
    fields(prim.fields());
    // The standard's library writes them by name into text.
    for (PropertySpec property : new TreeMap<>(prim.properties()).values()) {
      out.append(path).append('.').append(property.name());
      out.append(property.isRelationship() ? " rel" : " " + property.typeName());
      out.append(property.isArray() ? "[]" : "").append(property.isCustom() ? " custom" : "");
      out.append(property.isUniform() && !property.isRelationship() ? " uniform" : "").append('\n');
      out.append("  value ").append(value(property.value())).append('\n');
      out.append("  targets ").append(property.targets()).append('\n');
      UsdSamples samples = property.samples();
      for (int i = 0; samples != null && i < samples.codes().length; i++) {
        out.append("  ").append(samples.codes()[i]).append(": ");
        out.append(value(samples.value(i))).append('\n');
      }
      fields(property.fields());
    }
    for (PrimSpec child : prim.children().values()) {
      prim(child, path + child.name() + "/");
    }
    for (var set : prim.variantSets().entrySet()) {
      for (PrimSpec variant : set.getValue().values()) {
        prim(variant, path + "{" + set.getKey() + "=" + variant.name() + "}");
      }
    }
  }

  private void fields(Map<String, Object> fields) {
    new TreeMap<>(fields)
        .forEach((n, v) -> out.append("  ").append(n).append(" = ").append(value(v)).append('\n'));
  }

  private static Object arcs(Object list) {
    return list instanceof ListOp<?> edit
        ? String.join(
            " | ",
            items(edit.explicit()),
            items(edit.added()),
            items(edit.prepended()),
            items(edit.appended()),
            items(edit.deleted()),
            items(edit.reordered()))
        : list;
  }

  private static String items(java.util.List<?> items) {
    StringBuilder all = new StringBuilder();
    for (Object item : items == null ? java.util.List.of("-") : items) {
      all.append(
          item instanceof UsdArc arc
              ? arc.asset() + arc.prim() + arc.offset() + arc.scale() + value(arc.custom())
              : item);
      all.append(", ");
    }
    return all.toString();
  }

  /** Numbers and texts without their types: what nothing declares has none in a text layer. */
  private static String value(Object value) {
    if (value instanceof UsdValue own && own.data() != null) {
      StringBuilder all = new StringBuilder(own.array() ? "[" : "");
      for (int i = 0; i < own.length(); i++) {
        Object item = Array.get(own.data(), i);
        all.append(i == 0 ? "" : ", ");
        all.append(item instanceof String ? "'" + item + "'" : number(item));
      }
      return all.append(own.array() ? "]" : "").toString();
    }
    if (value instanceof Map<?, ?> map) {
      Map<String, String> sorted = new TreeMap<>();
      map.forEach((k, v) -> sorted.put(String.valueOf(k), value(v)));
      return sorted.toString();
    }
    return String.valueOf(arcs(value));
  }

  private static String number(Object item) {
    return item instanceof Boolean is
        ? is ? "1.0" : "0.0"
        : item instanceof Long whole
            ? Long.toUnsignedString(whole) + ".0"
            : String.valueOf(((Number) item).doubleValue());
  }
}
