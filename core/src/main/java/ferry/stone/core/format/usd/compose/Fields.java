package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.usd.layer.ListOp;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What several layers say of one field: dictionaries are put together, edits of lists are done. */
final class Fields {
  private Fields() {}

  /**
   * @param said the strongest first
   */
  @SuppressWarnings("unchecked")
  static Object together(List<Object> said) {
    if (said.isEmpty()) {
      return null;
    }
    if (said.get(0) instanceof Map<?, ?>) {
      Map<String, Object> all = new LinkedHashMap<>();
      for (int i = said.size() - 1; i >= 0; i--) {
        if (said.get(i) instanceof Map<?, ?> map) {
          merge(all, (Map<String, Object>) map);
        }
      }
      return all;
    }
    if (said.get(0) instanceof ListOp<?>) {
      List<Object> list = new ArrayList<>();
      for (int i = said.size() - 1; i >= 0; i--) {
        if (said.get(i) instanceof ListOp<?> edit) {
          list = new ArrayList<>(((ListOp<Object>) edit).over(list));
        }
      }
      return list;
    }
    return said.get(0);
  }

  @SuppressWarnings("unchecked")
  private static void merge(Map<String, Object> into, Map<String, Object> stronger) {
    stronger.forEach(
        (key, value) -> {
          if (value instanceof Map<?, ?> map && into.get(key) instanceof Map<?, ?> old) {
            Map<String, Object> both = new LinkedHashMap<>((Map<String, Object>) old);
            merge(both, (Map<String, Object>) map);
            into.put(key, both);
          } else {
            into.put(key, value);
          }
        });
  }
}
