package ferry.stone.core.format.abc.raw;

import java.util.LinkedHashMap;
import java.util.Map;

/** Names with values, written as {@code name=value;name=value}. */
final class MetaData {
  private MetaData() {}

  static Map<String, String> of(String text) {
    Map<String, String> values = new LinkedHashMap<>();
    for (String pair : text.split(";")) {
      int equals = pair.indexOf('=');
      if (equals > 0) {
        values.put(pair.substring(0, equals), pair.substring(equals + 1));
      }
    }
    return Map.copyOf(values);
  }
}
