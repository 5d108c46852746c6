package ferry.stone.core.format.usd.layer;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What a layer says of a prim, or of one variant of it. */
public final class PrimSpec {
  /** How a prim is said. */
  public enum Specifier {
    /** Makes it. */
    DEF,
    /** Adds to one that is made elsewhere. */
    OVER,
    /** Makes one to be inherited from, that is not there itself. */
    CLASS
  }

  private final String name;
  private Specifier specifier = Specifier.OVER;
  private String typeName = "";
  private final Map<String, Object> fields = new LinkedHashMap<>();
  private final Map<String, PrimSpec> children = new LinkedHashMap<>();
  private final Map<String, PropertySpec> properties = new LinkedHashMap<>();
  private final Map<String, Map<String, PrimSpec>> variantSets = new LinkedHashMap<>();
  private List<String> childOrder = List.of();
  private List<String> propertyOrder = List.of();

  public PrimSpec(String name) {
    this.name = name;
  }

  public String name() {
    return name;
  }

  public Specifier specifier() {
    return specifier;
  }

  /** Empty where the layer does not say it. */
  public String typeName() {
    return typeName;
  }

  /**
   * Everything else that is said, by its name: {@link UsdValue}, {@link ListOp} of texts or {@link
   * UsdArc}, dictionaries as maps, {@link UsdBlock}.
   */
  public Map<String, Object> fields() {
    return fields;
  }

  /** By name, in the order of the file. */
  public Map<String, PrimSpec> children() {
    return children;
  }

  /** By name, in the order of the file. */
  public Map<String, PropertySpec> properties() {
    return properties;
  }

  /** Variants by set and name. */
  public Map<String, Map<String, PrimSpec>> variantSets() {
    return variantSets;
  }

  /** What {@code reorder nameChildren} says, empty for nothing. */
  public List<String> childOrder() {
    return childOrder;
  }

  /** What {@code reorder properties} says, empty for nothing. */
  public List<String> propertyOrder() {
    return propertyOrder;
  }

  public void specifier(Specifier newSpecifier) {
    specifier = newSpecifier;
  }

  public void typeName(String newType) {
    typeName = newType;
  }

  public void childOrder(List<String> order) {
    childOrder = new ArrayList<>(order);
  }

  public void propertyOrder(List<String> order) {
    propertyOrder = new ArrayList<>(order);
  }
}
