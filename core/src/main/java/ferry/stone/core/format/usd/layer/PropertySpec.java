package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.usd.layer.spline.UsdSpline;
import java.util.LinkedHashMap;
import java.util.Map;

/** What a layer says of an attribute or a relationship. */
public final class PropertySpec {
  private final String name;
  private final boolean relationship;
  private final Map<String, Object> fields = new LinkedHashMap<>();
  private String typeName = "";
  private boolean array;
  private boolean custom;
  private boolean uniform;
  private Object value;
  private UsdSamples samples;
  private UsdSpline spline;
  private ListOp<String> targets;

  public PropertySpec(String name, boolean relationship) {
    this.name = name;
    this.relationship = relationship;
  }

  /** With its namespaces: {@code primvars:st}. */
  public String name() {
    return name;
  }

  public boolean isRelationship() {
    return relationship;
  }

  /** Of an attribute, without {@code []}; empty where the layer does not say it. */
  public String typeName() {
    return typeName;
  }

  public boolean isArray() {
    return array;
  }

  public boolean isCustom() {
    return custom;
  }

  public boolean isUniform() {
    return uniform;
  }

  /**
   * {@link UsdValue}, {@link UsdBlock}, {@link ArrayEdit}, a dictionary, or {@code null} where
   * nothing is said.
   */
  public Object value() {
    return value;
  }

  /** {@code null} for none. */
  public UsdSamples samples() {
    return samples;
  }

  /** A curve of its value over time, {@code null} for none. */
  public UsdSpline spline() {
    return spline;
  }

  /** Targets of a relationship, or what an attribute is connected to; {@code null} for none. */
  public ListOp<String> targets() {
    return targets;
  }

  /** Everything else that is said, by its name. */
  public Map<String, Object> fields() {
    return fields;
  }

  public void type(String name, boolean isArray) {
    typeName = name;
    array = isArray;
  }

  public void custom(boolean is) {
    custom = is;
  }

  public void uniform(boolean is) {
    uniform = is;
  }

  public void value(Object newValue) {
    value = newValue;
  }

  public void samples(UsdSamples newSamples) {
    samples = newSamples;
  }

  public void spline(UsdSpline found) {
    spline = found;
  }

  public void targets(ListOp<String> newTargets) {
    targets = newTargets;
  }
}
