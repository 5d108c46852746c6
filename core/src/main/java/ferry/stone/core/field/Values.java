package ferry.stone.core.field;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A value for each of some fields: of its type, within its range, the standard where none is given.
 */
public final class Values {
  private final Map<String, Object> values;

  private Values(Map<String, Object> values) {
    this.values = values;
  }

  /**
   * @param given values by the fields' names; numbers may be any, flags and texts as such
   * @throws IllegalArgumentException in a sentence that names the field and what it takes
   */
  public static Values of(List<Field> fields, Map<String, ?> given) {
    Map<String, Object> values = new LinkedHashMap<>();
    for (Field field : fields) {
      Object value = given.get(field.name());
      values.put(field.name(), value == null ? field.standard() : checked(field, value));
    }
    for (String name : given.keySet()) {
      if (!values.containsKey(name)) {
        throw new IllegalArgumentException(
            "There is no option \""
                + name
                + "\" here; there are "
                + (values.isEmpty() ? "none" : String.join(", ", values.keySet())));
      }
    }
    return new Values(values);
  }

  private static Object checked(Field field, Object value) {
    return switch (field.type()) {
      case "flag" -> {
        if (!(value instanceof Boolean)) {
          throw new IllegalArgumentException(
              field.name() + " must be true or false, not \"" + value + "\"");
        }
        yield value;
      }
      case "number" -> {
        if (!(value instanceof Number number)) {
          throw new IllegalArgumentException(
              field.name() + " must be a number, not \"" + value + "\"");
        }
        yield Field.within(field.name(), number.doubleValue(), field.min(), field.max());
      }
      case "choice" -> {
        yield field.checked(String.valueOf(value));
      }
      default -> String.valueOf(value);
    };
  }

  public boolean flag(String name) {
    return (Boolean) values.get(name);
  }

  public double number(String name) {
    return ((Number) values.get(name)).doubleValue();
  }

  /** A number without its part after the point. */
  public int whole(String name) {
    return ((Number) values.get(name)).intValue();
  }

  public String text(String name) {
    return (String) values.get(name);
  }

  /** All values, also those that were not given. */
  public Map<String, Object> toMap() {
    return java.util.Collections.unmodifiableMap(values);
  }
}
