package ferry.stone.core.format.usd.write.spec;

import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Short ways to say prims and their properties. */
public final class Spec {
  private Spec() {}

  public static PrimSpec def(PrimSpec parent, String type, String name) {
    PrimSpec prim = new PrimSpec(name);
    prim.specifier(PrimSpec.Specifier.DEF);
    prim.typeName(type);
    parent.children().put(name, prim);
    return prim;
  }

  public static UsdValue value(String type, boolean array, Object data) {
    return new UsdValue(UsdType.known(type), array, data);
  }

  public static UsdValue number(String type, double value) {
    UsdType known = UsdType.known(type);
    Object data =
        switch (known.kind()) {
          case BOOL -> new boolean[] {value != 0};
          case UCHAR, INT -> new int[] {(int) value};
          case UINT, INT64, UINT64 -> new long[] {(long) value};
          case HALF, FLOAT -> new float[] {(float) value};
          default -> new double[] {value};
        };
    return new UsdValue(known, false, data);
  }

  public static UsdValue text(String type, String... texts) {
    return new UsdValue(UsdType.known(type), texts.length != 1, texts);
  }

  /** An attribute without a value yet. */
  public static PropertySpec attribute(PrimSpec prim, String type, boolean array, String name) {
    PropertySpec property = new PropertySpec(name, false);
    property.type(type, array);
    prim.properties().put(name, property);
    return property;
  }

  public static PropertySpec set(PrimSpec prim, String name, UsdValue value) {
    PropertySpec property = attribute(prim, value.type().name(), value.array(), name);
    property.value(value);
    return property;
  }

  /** One that does not change over time. */
  public static PropertySpec uniform(PrimSpec prim, String name, UsdValue value) {
    PropertySpec property = set(prim, name, value);
    property.uniform(true);
    return property;
  }

  public static PropertySpec token(PrimSpec prim, String name, String token) {
    return uniform(prim, name, text("token", token));
  }

  public static UsdValue tokens(List<String> all) {
    return new UsdValue(UsdType.known("token"), true, all.toArray(String[]::new));
  }

  public static PropertySpec target(PrimSpec prim, String name, String... paths) {
    PropertySpec property = new PropertySpec(name, true);
    property.uniform(true);
    property.targets(ListOp.explicit(List.of(paths)));
    prim.properties().put(name, property);
    return property;
  }

  public static void connect(PropertySpec property, String path) {
    property.targets(ListOp.explicit(List.of(path)));
  }

  public static void field(PropertySpec property, String name, UsdValue value) {
    property.fields().put(name, value);
  }

  public static void interpolation(PropertySpec property, String word) {
    field(property, "interpolation", text("token", word));
  }

  /** Lets a prim be what stands at another path of the layer. */
  public static void reference(PrimSpec prim, String path) {
    List<UsdArc> arcs = List.of(new UsdArc("", path, 0, 1, Map.of()));
    prim.fields()
        .put("references", new ListOp<>(null, List.of(), arcs, List.of(), List.of(), List.of()));
  }

  /** Applies an interface to a prim. */
  @SuppressWarnings("unchecked")
  public static void api(PrimSpec prim, String... schemas) {
    ListOp<String> before = (ListOp<String>) prim.fields().get("apiSchemas");
    List<String> all = new ArrayList<>(before == null ? List.of() : before.prepended());
    for (String schema : schemas) {
      if (!all.contains(schema)) {
        all.add(schema);
      }
    }
    prim.fields()
        .put("apiSchemas", new ListOp<>(null, List.of(), all, List.of(), List.of(), List.of()));
  }

  /**
   * Gives a prim a set of variants.
   *
   * @param chosen the one that counts until another is chosen
   */
  @SuppressWarnings("unchecked")
  public static void variants(
      PrimSpec prim, String set, Map<String, PrimSpec> variants, String chosen) {
    prim.variantSets().put(set, variants);
    ListOp<String> before = (ListOp<String>) prim.fields().get("variantSetNames");
    List<String> names = new ArrayList<>(before == null ? List.of() : before.prepended());
    names.add(set);
    prim.fields()
        .put(
            "variantSetNames",
            new ListOp<>(null, List.of(), names, List.of(), List.of(), List.of()));
    Map<String, Object> selection = new LinkedHashMap<>();
    if (prim.fields().get("variantSelection") instanceof Map<?, ?> map) {
      selection.putAll((Map<String, Object>) map);
    }
    selection.put(set, text("string", chosen));
    prim.fields().put("variantSelection", selection);
  }

  /** Adds to the custom data of a prim. */
  @SuppressWarnings("unchecked")
  public static void custom(PrimSpec prim, String name, Object value) {
    Map<String, Object> all = new LinkedHashMap<>();
    if (prim.fields().get("customData") instanceof Map<?, ?> map) {
      all.putAll((Map<String, Object>) map);
    }
    all.put(name, value);
    prim.fields().put("customData", all);
  }

  /** Keys of numbers or texts. */
  public static UsdSamples samples(double[] codes, List<? extends Object> values) {
    return new UsdSamples.Held(codes, values.toArray());
  }
}
