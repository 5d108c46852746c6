package ferry.stone.core.format.usd;

/** Names that prims can have, made of any others. */
public final class ValidNames {
  private ValidNames() {}

  /** Whether a prim can be called so: letters, digits and underscores, no digit first. */
  public static boolean isValid(String name) {
    if (name.isEmpty() || !isStart(name.codePointAt(0))) {
      return false;
    }
    return name.codePoints().allMatch(ValidNames::isPart);
  }

  /** Whether a property can be called so: such names with colons between them. */
  public static boolean isProperty(String name) {
    for (String part : name.split(":", -1)) {
      if (!isValid(part)) {
        return false;
      }
    }
    return true;
  }

  /** Whether a text is the path of a prim, or of a property of one. */
  public static boolean isPath(String path) {
    int dot = path.indexOf('.');
    String prim = dot < 0 ? path : path.substring(0, dot);
    if (!prim.startsWith("/") || dot >= 0 && !isProperty(path.substring(dot + 1))) {
      return false;
    }
    for (String name : prim.substring(1).split("/", -1)) {
      if (!isValid(name)) {
        return false;
      }
    }
    return true;
  }

  private static boolean isStart(int letter) {
    return letter == '_' || Character.isUnicodeIdentifierStart(letter);
  }

  private static boolean isPart(int letter) {
    return letter == '_'
        || Character.isUnicodeIdentifierPart(letter) && !Character.isIdentifierIgnorable(letter);
  }

  /** The nearest name that a prim can have. */
  public static String of(String name) {
    StringBuilder out = new StringBuilder();
    name.codePoints().forEach(letter -> out.appendCodePoint(isPart(letter) ? letter : '_'));
    if (out.length() == 0 || !isStart(out.codePointAt(0))) {
      out.insert(0, '_');
    }
    return out.toString();
  }

  /** Whether a valid name may have been made of another one, also with a number behind. */
  public static boolean isMadeOf(String valid, String name) {
    String made = of(name);
    return valid.equals(made)
        || valid.startsWith(made + "_") && valid.substring(made.length() + 1).matches("\\d+");
  }
}
