package ferry.stone.core.format.usd.read.stage;

import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Values over the elements of shapes: those of a prim, and the constant ones of the prims above it,
 * which come down until one below says another.
 */
public record Primvars(Map<String, Primvar> all) {
  static final String PREFIX = "primvars:";
  private static final String INDICES = ":indices";

  private static final String MAIN_UV = "st";

  public static final Primvars NONE = new Primvars(Map.of());

  /**
   * One of them.
   *
   * @param indices {@code null} where the n-th element has the n-th value
   * @param own whether it is said of the prim itself
   */
  public record Primvar(
      String name, UsdProperty values, UsdProperty indices, String owner, boolean own) {
    public String interpolation() {
      return Said.field(values, "interpolation", "constant");
    }

    boolean moves() {
      return Said.moves(values) || Said.moves(indices);
    }

    /** What it was called before its name was made one that others read. */
    public String shown() {
      return Said.field(values, "displayName", name);
    }

    /** How many values make one. */
    public int elementSize() {
      return values.field("elementSize") instanceof UsdValue value && value.length() > 0
          ? (int) Math.max(1, value.number(0))
          : 1;
    }
  }

  /** Those that count for a prim, with what comes down to it. */
  public Primvars of(UsdPrim prim) {
    Map<String, Primvar> result = new LinkedHashMap<>();
    all.forEach(
        (name, above) ->
            result.put(
                name, new Primvar(name, above.values(), above.indices(), above.owner(), false)));
    for (String property : prim.propertyNames()) {
      if (!property.startsWith(PREFIX) || property.endsWith(INDICES)) {
        continue;
      }
      UsdProperty values = prim.property(property);
      boolean said = values.value() != null || values.samples() != null;
      if (values.isRelationship() || !said) {
        continue;
      }
      String name = property.substring(PREFIX.length());
      result.put(
          name, new Primvar(name, values, prim.property(property + INDICES), prim.path(), true));
    }
    return new Primvars(result);
  }

  /** Those that are one value for all: what comes down to the prims below. */
  public Primvars constant() {
    Map<String, Primvar> result = new LinkedHashMap<>();
    all.forEach(
        (name, each) -> {
          if (each.interpolation().equals("constant")) {
            result.put(name, each);
          }
        });
    return result.isEmpty() ? NONE : new Primvars(result);
  }

  /** In the order of the layers: that which most others read first, then by name. */
  public List<Primvar> sorted() {
    List<Primvar> sorted = new ArrayList<>(all.values());
    sorted.sort(
        Comparator.comparing((Primvar p) -> !p.name().equals(MAIN_UV))
            .thenComparing(Primvar::name));
    return sorted;
  }

  /** Names of those that are UVs, in their order. */
  public List<String> uvs() {
    return sorted().stream()
        .filter(p -> meaning(p.name(), p.values().typeName()) == Semantic.UV)
        .map(Primvar::name)
        .toList();
  }

  /** What tells shapes apart that have the same values of their own. */
  public String inheritedKey() {
    StringBuilder key = new StringBuilder();
    all.forEach(
        (name, each) -> {
          if (!each.own()) {
            key.append(name).append('@').append(each.owner()).append(' ');
          }
        });
    return key.toString();
  }

  /** What a primvar is for, by its name and type. */
  public static Semantic meaning(String name, String type) {
    if (name.equals("normals") && type.matches("(normal|vector|point)3[fhd]|float3")) {
      return Semantic.NORMAL;
    }
    if (name.equals("tangents") && type.matches("(normal|vector)3[fhd]|float[34]")) {
      return Semantic.TANGENT;
    }
    if (type.matches("color[34][fhd]")) {
      return Semantic.COLOUR;
    }
    return type.matches("texCoord[23][fhd]|float2|half2|double2") ? Semantic.UV : Semantic.OTHER;
  }
}
