package ferry.stone.core.format.fbx.raw;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import org.joml.Vector3d;

/** The named properties of an object, with the defaults of its template. */
public final class FbxProperties {
  private static final int FIRST_VALUE = 4;
  private final Map<String, FbxRecord> own = new LinkedHashMap<>();
  private final Map<String, FbxRecord> template;

  public FbxProperties(FbxRecord holder, Map<String, FbxRecord> template) {
    this.template = template;
    for (FbxRecord p : holder.at("Properties70").children()) {
      own.put(p.text(0), p);
    }
  }

  /** Properties of a template record, by name. */
  static Map<String, FbxRecord> byName(FbxRecord holder) {
    Map<String, FbxRecord> all = new HashMap<>();
    for (FbxRecord p : holder.at("Properties70").children()) {
      all.put(p.text(0), p);
    }
    return all;
  }

  private FbxRecord find(String name) {
    FbxRecord found = own.get(name);
    return found != null ? found : template.get(name);
  }

  public boolean has(String name) {
    return own.containsKey(name);
  }

  public double number(String name, double otherwise) {
    FbxRecord found = find(name);
    return found == null ? otherwise : found.number(FIRST_VALUE, otherwise);
  }

  /** A text, empty when there is none. */
  public String text(String name) {
    FbxRecord found = find(name);
    return found == null ? "" : found.text(FIRST_VALUE);
  }

  public boolean flag(String name, boolean otherwise) {
    return number(name, otherwise ? 1 : 0) != 0;
  }

  public Vector3d vector(String name, double otherwise) {
    FbxRecord found = find(name);
    if (found == null || found.values().size() < FIRST_VALUE + 3) {
      return new Vector3d(otherwise);
    }
    return new Vector3d(
        found.number(FIRST_VALUE, otherwise),
        found.number(FIRST_VALUE + 1, otherwise),
        found.number(FIRST_VALUE + 2, otherwise));
  }

  /** Three numbers as a colour, or {@code null} when there is none. */
  public double[] colour(String name) {
    FbxRecord found = find(name);
    if (found == null || found.values().size() < FIRST_VALUE + 3) {
      return null;
    }
    Vector3d v = vector(name, 0);
    return new double[] {v.x, v.y, v.z};
  }

  /** Names and records of the object's own properties. */
  public Map<String, FbxRecord> own() {
    return own;
  }

  /** Values that users added: their flags hold a U. */
  public Map<String, Object> custom() {
    Map<String, Object> custom = new HashMap<>();
    own.forEach(
        (name, p) -> {
          if (p.text(3).contains("U") && p.values().size() > FIRST_VALUE) {
            custom.put(name, custom(p));
          }
        });
    return custom;
  }

  private static Object custom(FbxRecord p) {
    int count = p.values().size() - FIRST_VALUE;
    if (count == 1 || !(p.values().get(FIRST_VALUE) instanceof Number)) {
      Object value = p.values().get(FIRST_VALUE);
      if (p.text(2).equals(FbxCustom.JSON_LABEL) && value instanceof String s) {
        return FbxCustom.parse(s);
      }
      boolean truth = p.text(1).equalsIgnoreCase("bool") && value instanceof Number;
      return truth ? (Object) (((Number) value).doubleValue() != 0) : plain(value);
    }
    if (p.text(1).equalsIgnoreCase("enum")) {
      return plain(p.values().get(FIRST_VALUE));
    }
    java.util.List<Object> values = new java.util.ArrayList<>();
    for (int i = 0; i < count; i++) {
      values.add(plain(p.values().get(FIRST_VALUE + i)));
    }
    return values;
  }

  private static Object plain(Object value) {
    return value instanceof byte[] bytes ? bytes.length + " bytes" : value;
  }
}
