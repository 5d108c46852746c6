package ferry.stone.core;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/** Holds JSON against a schema of {@code docs/schema}; knows the words of schemas used there. */
public final class SchemaCheck {
  private SchemaCheck() {}

  /** What of a value is not as a schema says, in words. */
  public static List<String> wrong(JsonNode value, String schema) throws Exception {
    JsonNode whole = new ObjectMapper().readTree(Path.of("..", "docs", "schema", schema).toFile());
    List<String> wrong = new ArrayList<>();
    check(value, whole, whole, "it", wrong);
    return wrong;
  }

  public static Set<String> names(JsonNode object) {
    Set<String> names = new TreeSet<>();
    object.fieldNames().forEachRemaining(names::add);
    return names;
  }

  /** What of an object is not as its schema says; the words of schemas that are used here. */
  public static void check(
      JsonNode value, JsonNode wanted, JsonNode whole, String where, List<String> wrong) {
    if (wanted.has("$ref")) {
      String name = wanted.path("$ref").asText().substring("#/$defs/".length());
      check(value, whole.path("$defs").path(name), whole, where, wrong);
      return;
    }
    if (wanted.has("anyOf")) {
      boolean any = false;
      for (JsonNode each : wanted.path("anyOf")) {
        List<String> own = new ArrayList<>();
        check(value, each, whole, where, own);
        any |= own.isEmpty();
      }
      if (!any) {
        wrong.add(where + " is none of what it may be: " + value);
      }
      return;
    }
    if (wanted.has("const") && !wanted.path("const").equals(value)) {
      wrong.add(where + " is " + value);
    }
    if (wanted.has("enum")) {
      boolean one = false;
      for (JsonNode each : wanted.path("enum")) {
        one |= each.equals(value);
      }
      if (!one) {
        wrong.add(where + " is " + value);
      }
    }
    if (wanted.has("type") && !isType(value, wanted.path("type"))) {
      wrong.add(where + " is no " + wanted.path("type") + ": " + value);
    }
    if (wanted.has("minimum") && value.asDouble() < wanted.path("minimum").asDouble()) {
      wrong.add(where + " is less than it may be: " + value);
    }
    wanted
        .path("required")
        .forEach(
            name -> {
              if (!value.has(name.asText())) {
                wrong.add(where + " has no " + name.asText());
              }
            });
    for (String name : names(wanted.path("properties"))) {
      if (value.has(name)) {
        check(value.path(name), wanted.path("properties").path(name), whole, name, wrong);
      }
    }
    if (wanted.path("additionalProperties").isBoolean() && value.isObject()) {
      for (String name : names(value)) {
        if (!wanted.path("properties").has(name)) {
          wrong.add(where + " has \"" + name + "\"");
        }
      }
    }
    for (int i = 0; wanted.has("items") && i < value.size(); i++) {
      check(value.path(i), wanted.path("items"), whole, where + " " + i, wrong);
    }
  }

  private static boolean isType(JsonNode value, JsonNode type) {
    if (type.isArray()) {
      boolean any = false;
      for (JsonNode each : type) {
        any |= isType(value, each);
      }
      return any;
    }
    return switch (type.asText()) {
      case "object" -> value.isObject();
      case "array" -> value.isArray();
      case "string" -> value.isTextual();
      case "integer" -> value.isIntegralNumber();
      case "number" -> value.isNumber();
      case "null" -> value.isNull();
      case "boolean" -> value.isBoolean();
      default -> false;
    };
  }
}
