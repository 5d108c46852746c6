package ferry.stone.core.format.usd.out;

import ferry.stone.core.format.usd.layer.CrateTypes;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.util.Map;
import java.util.Set;

/**
 * What the fields of prims, properties and layers hold, where their values alone do not tell it.
 */
final class FieldTypes {
  /** Texts that are strings; others are tokens. */
  private static final Set<String> STRINGS =
      Set.of(
          "documentation", "comment", "displayName", "displayGroup", "owner", "prefix", "suffix");

  private static final Set<String> TRUTHS = Set.of("active", "instanceable", "hidden", "custom");

  private static final Map<String, Integer> LISTS =
      Map.of(
          "apiSchemas", CrateTypes.TOKEN_LIST,
          "variantSetNames", CrateTypes.STRING_LIST,
          "clipSets", CrateTypes.STRING_LIST,
          "inheritPaths", CrateTypes.PATH_LIST,
          "specializes", CrateTypes.PATH_LIST,
          "references", CrateTypes.REFERENCE_LIST,
          "payload", CrateTypes.PAYLOAD_LIST,
          "inactiveIds", CrateTypes.INT64_LIST);

  /** Words of the text for fields that crates call otherwise. */
  private static final Map<String, String> WORDS =
      Map.of(
          "inheritPaths", "inherits",
          "variantSetNames", "variantSets",
          "variantSelection", "variants",
          "documentation", "doc",
          "layerRelocates", "relocates");

  private FieldTypes() {}

  /** The type of list of a field; that of tokens where it is not known. */
  static int list(String field) {
    return LISTS.getOrDefault(field, CrateTypes.TOKEN_LIST);
  }

  /** A field's name in text layers. */
  static String word(String field) {
    return WORDS.getOrDefault(field, field);
  }

  /** The value of a field with the type that it has there. */
  static UsdValue typed(String field, UsdValue value) {
    if (value.type().kind() == UsdType.Kind.TOKEN && STRINGS.contains(field)) {
      return new UsdValue(UsdType.known("string"), value.array(), value.data());
    }
    if (value.type().kind() == UsdType.Kind.STRING && !STRINGS.contains(field)) {
      return new UsdValue(UsdType.known("token"), value.array(), value.data());
    }
    if (TRUTHS.contains(field) && value.type().kind() != UsdType.Kind.BOOL) {
      return new UsdValue(UsdType.known("bool"), false, new boolean[] {value.number(0) != 0});
    }
    return value;
  }
}
