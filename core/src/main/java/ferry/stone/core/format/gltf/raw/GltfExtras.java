package ferry.stone.core.format.gltf.raw;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Extras and unknown extensions of a JSON element as custom properties, and back.
 *
 * <p>Members of an {@code extras} object become properties of the same names; extras that are no
 * object stand under {@link #WHOLE}; extensions that are not understood stand under {@link
 * #EXTENSIONS} as they were.
 */
public final class GltfExtras {
  static final String WHOLE = "extras";
  static final String EXTENSIONS = "gltf:extensions";
  private static final ObjectMapper JSON = new ObjectMapper();

  private GltfExtras() {}

  /**
   * @param understood extensions that are read by name and not kept as they are
   * @param taken members of extras that are read by name
   */
  public static Map<String, Object> properties(
      JsonNode element, Set<String> understood, Set<String> taken) {
    Map<String, Object> properties = new HashMap<>();
    JsonNode extras = element.path("extras");
    if (extras.isObject()) {
      extras
          .fields()
          .forEachRemaining(
              e -> {
                if (!e.getValue().isNull() && !taken.contains(e.getKey())) {
                  properties.put(e.getKey(), value(e.getValue()));
                }
              });
    } else if (!extras.isMissingNode() && !extras.isNull()) {
      properties.put(WHOLE, value(extras));
    }
    Map<String, Object> unknown = new TreeMap<>();
    element
        .path("extensions")
        .fields()
        .forEachRemaining(
            e -> {
              if (!understood.contains(e.getKey())) {
                unknown.put(e.getKey(), value(e.getValue()));
              }
            });
    if (!unknown.isEmpty()) {
      properties.put(EXTENSIONS, unknown);
    }
    return properties;
  }

  private static Object value(JsonNode json) {
    return JSON.convertValue(json, Object.class);
  }

  /** Writes properties back, in the order of their names; tells which extensions were carried. */
  public static void write(
      ObjectNode element, Map<String, Object> properties, Set<String> extensions) {
    for (Map.Entry<String, Object> property : new TreeMap<>(properties).entrySet()) {
      JsonNode value = JSON.valueToTree(property.getValue());
      if (property.getKey().equals(EXTENSIONS)) {
        value
            .fields()
            .forEachRemaining(
                e -> {
                  element.withObject("/extensions").set(e.getKey(), e.getValue());
                  extensions.add(e.getKey());
                });
      } else if (property.getKey().equals(WHOLE) && properties.size() == 1) {
        element.set("extras", value);
      } else {
        element.withObject("/extras").set(property.getKey(), value);
      }
    }
  }
}
