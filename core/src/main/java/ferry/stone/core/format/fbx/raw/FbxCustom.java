package ferry.stone.core.format.fbx.raw;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/** Values that users added, as properties with the flag U; lists and maps as JSON text. */
public final class FbxCustom {
  /** Second type name of a text that holds JSON. */
  static final String JSON_LABEL = "json";

  private static final ObjectMapper JSON = new ObjectMapper();

  private FbxCustom() {}

  /**
   * @param taken properties that are there already: their names are not used again
   */
  public static List<FbxRecord> records(Map<String, Object> properties, List<FbxRecord> taken) {
    Set<String> names = new HashSet<>();
    taken.forEach(p -> names.add(p.text(0)));
    List<FbxRecord> result = new ArrayList<>();
    new TreeMap<>(properties)
        .forEach(
            (key, value) -> {
              String name = key;
              while (!names.add(name)) {
                name += "_custom";
              }
              result.add(record(name, value));
            });
    return result;
  }

  private static FbxRecord record(String name, Object value) {
    if (value instanceof Boolean b) {
      return FbxBuild.p(name, "bool", "", "U", b ? 1 : 0);
    }
    if (value instanceof Integer i) {
      return FbxBuild.p(name, "int", "Integer", "U", i);
    }
    if (value instanceof Long l) {
      return l == l.intValue()
          ? FbxBuild.p(name, "int", "Integer", "U", l.intValue())
          : FbxBuild.p(name, "LongLong", "", "U", l);
    }
    if (value instanceof Number n) {
      return FbxBuild.p(name, "double", "Number", "U", n.doubleValue());
    }
    if (value instanceof List<?> list && isVector(list)) {
      return FbxBuild.p(
          name,
          "Vector3D",
          "Vector",
          "U",
          ((Number) list.get(0)).doubleValue(),
          ((Number) list.get(1)).doubleValue(),
          ((Number) list.get(2)).doubleValue());
    }
    if (value instanceof String s) {
      return FbxBuild.p(name, "KString", "", "U", s);
    }
    try {
      return FbxBuild.p(name, "KString", JSON_LABEL, "U", JSON.writeValueAsString(value));
    } catch (JsonProcessingException e) {
      return FbxBuild.p(name, "KString", "", "U", String.valueOf(value));
    }
  }

  private static boolean isVector(List<?> list) {
    return list.size() == 3 && list.stream().allMatch(v -> v instanceof Double);
  }

  /** The value of a JSON text; the text itself when it is none. */
  static Object parse(String text) {
    try {
      return JSON.readValue(text, Object.class);
    } catch (JsonProcessingException e) {
      return text;
    }
  }
}
