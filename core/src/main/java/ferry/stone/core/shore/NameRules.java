package ferry.stone.core.shore;

import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;

/**
 * What names may look like at a destination.
 *
 * @param allowed characters that may stand in a name, as the inside of a character class: {@code
 *     A-Za-z0-9_}; empty for any
 * @param longest most characters, 0 for any
 * @param unique whether two parts may not have one name
 */
public record NameRules(String allowed, int longest, boolean unique) {
  /** Letters without accents, digits and the underscore. */
  public static final String PLAIN = "A-Za-z0-9_";

  public static final NameRules ANY = new NameRules("", 0, false);

  public NameRules {
    allowed = allowed == null ? "" : allowed;
    if (longest < 0) {
      throw new IllegalArgumentException("longest must be 0 or more, not " + longest);
    }
    if (!allowed.isEmpty()) {
      try {
        Pattern.compile("[" + allowed + "]");
      } catch (PatternSyntaxException e) {
        throw new IllegalArgumentException(
            "allowed must read like A-Za-z0-9_, not \"" + allowed + "\"", e);
      }
    }
  }

  public boolean fits(String name) {
    return !name.isEmpty()
        && (longest == 0 || name.length() <= longest)
        && (allowed.isEmpty() || name.matches("[" + allowed + "]*"));
  }

  /** The nearest name that fits: other characters become underscores, the end is cut. */
  public String fit(String name) {
    String plain = name;
    if (!allowed.isEmpty()) {
      String bare =
          java.text.Normalizer.normalize(name, java.text.Normalizer.Form.NFD)
              .replaceAll("\\p{M}+", "");
      String filler = "_".matches("[" + allowed + "]") ? "_" : "";
      plain = bare.replaceAll("[^" + allowed + "]+", filler);
    }
    if (longest > 0 && plain.length() > longest) {
      plain = plain.substring(0, longest);
    }
    return plain;
  }
}
