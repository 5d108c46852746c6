package ferry.stone.core.format.usd.write.layers;

import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Copies of specs, whole and in part. */
final class Specs {
  static final String APIS = "apiSchemas";

  private Specs() {}

  /** Its specifier, type and orders; no fields, properties, children or variants. */
  static PrimSpec head(PrimSpec of) {
    PrimSpec copy = new PrimSpec(of.name());
    copy.specifier(of.specifier());
    copy.typeName(of.typeName());
    copy.childOrder(of.childOrder());
    copy.propertyOrder(of.propertyOrder());
    return copy;
  }

  /** All of it: fields and properties are shared, which nothing changes any more. */
  static PrimSpec all(PrimSpec of) {
    PrimSpec copy = head(of);
    copy.fields().putAll(of.fields());
    copy.properties().putAll(of.properties());
    of.children().forEach((name, child) -> copy.children().put(name, all(child)));
    copy.variantSets().putAll(of.variantSets());
    return copy;
  }

  /** The declaration of a property with its value, without its samples. */
  static PropertySpec still(PropertySpec of) {
    PropertySpec copy = declared(of);
    copy.value(of.value());
    copy.targets(of.targets());
    copy.spline(of.spline());
    copy.fields().putAll(of.fields());
    return copy;
  }

  /** Nothing but the declaration of a property. */
  static PropertySpec declared(PropertySpec of) {
    PropertySpec copy = new PropertySpec(of.name(), of.isRelationship());
    copy.type(of.typeName(), of.isArray());
    copy.custom(of.isCustom());
    copy.uniform(of.isUniform());
    return copy;
  }

  /** The prim of a path below a root, made as an addition where it is not there. */
  static PrimSpec over(PrimSpec root, List<String> path) {
    PrimSpec at = root;
    for (String name : path) {
      at = at.children().computeIfAbsent(name, PrimSpec::new);
    }
    return at;
  }

  /** Lays what one layer adds over what another says. */
  static void lay(PrimSpec base, PrimSpec over) {
    over.fields()
        .forEach(
            (name, value) ->
                base.fields()
                    .merge(name, value, (old, own) -> name.equals(APIS) ? both(own, old) : own));
    over.properties().forEach((name, own) -> base.properties().merge(name, own, Specs::laid));
    base.variantSets().putAll(over.variantSets());
    over.children()
        .forEach(
            (name, child) -> {
              PrimSpec there = base.children().get(name);
              if (there == null) {
                base.children().put(name, all(child));
              } else {
                lay(there, child);
              }
            });
  }

  private static PropertySpec laid(PropertySpec old, PropertySpec own) {
    PropertySpec both = still(old);
    both.value(own.value() == null ? old.value() : own.value());
    both.samples(own.samples() == null ? old.samples() : own.samples());
    both.targets(own.targets() == null ? old.targets() : own.targets());
    both.fields().putAll(own.fields());
    return both;
  }

  @SuppressWarnings("unchecked")
  private static Object both(Object own, Object old) {
    List<String> all = new ArrayList<>(((ListOp<String>) old).prepended());
    ((ListOp<String>) own).prepended().stream().filter(s -> !all.contains(s)).forEach(all::add);
    return prepended(all);
  }

  static <T> ListOp<T> prepended(List<T> items) {
    return new ListOp<>(null, List.of(), items, List.of(), List.of(), List.of());
  }

  static UsdArc arc(String asset, String prim) {
    return new UsdArc(asset, prim, 0, 1, Map.of());
  }

  /** Fields of the layer that a layer beside it needs too: its units, axes and rate. */
  static Map<String, Object> frame(PrimSpec root) {
    Map<String, Object> own = new LinkedHashMap<>();
    for (String name :
        List.of(
            "defaultPrim", "framesPerSecond", "metersPerUnit", "timeCodesPerSecond", "upAxis")) {
      if (root.fields().containsKey(name)) {
        own.put(name, root.fields().get(name));
      }
    }
    return own;
  }
}
