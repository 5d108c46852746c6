package ferry.stone.core.cargo;

import ferry.stone.core.format.files.CargoPath;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * What is taken of a scene file where several make an asset. Written as {@code
 * walk*.fbx=motion;set.glb=cameras}: patterns of paths or names, of which the first that fits
 * counts; all is taken of other files.
 */
enum FileUse {
  ALL,
  /** Without clips, cameras and lights. */
  SHAPES,
  /** All of it; its parts are the first of the levels that they and those of others make. */
  HIGH,
  /** All of it; its parts are levels after those of the finer file. */
  LOW,
  /** Its materials, for those of the same name in other files. */
  MATERIALS,
  /** The same, and its others beside them, for parts to be given. */
  LOOKS,
  /** Its clips, put onto the parts of the same name in other files. */
  MOTION,
  CAMERAS,
  LIGHTS,
  NOTHING;

  /** Name of the choice about the reading. */
  static final String FIELD = "taken";

  /** Whether something of it stands in the scene by itself. */
  boolean stands() {
    return this != MATERIALS && this != LOOKS && this != MOTION && this != NOTHING;
  }

  private record Rule(Pattern path, FileUse use) {}

  /** What a text says of a file. */
  static FileUse of(String text, String path) {
    for (Rule rule : rules(text)) {
      if (rule.path.matcher(path).matches() || rule.path.matcher(CargoPath.name(path)).matches()) {
        return rule.use;
      }
    }
    return ALL;
  }

  /**
   * Refuses what cannot be understood.
   *
   * @throws IllegalArgumentException in a sentence
   */
  static void check(String text) {
    rules(text);
  }

  private static List<Rule> rules(String text) {
    List<Rule> rules = new ArrayList<>();
    for (String part : text.split(";")) {
      if (part.isBlank()) {
        continue;
      }
      int at = part.lastIndexOf('=');
      String word = part.substring(at + 1).strip();
      FileUse use =
          Arrays.stream(values())
              .filter(u -> u.word().equals(word.toLowerCase(Locale.ROOT)))
              .findFirst()
              .orElse(null);
      if (at < 1 || use == null) {
        throw new IllegalArgumentException(
            FIELD
                + " says FILE="
                + Arrays.stream(values()).map(FileUse::word).collect(Collectors.joining("|"))
                + ", several apart by semicolons, not \""
                + part.strip()
                + "\"");
      }
      rules.add(new Rule(pattern(part.substring(0, at).strip()), use));
    }
    return rules;
  }

  String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** {@code *} for any run, {@code ?} for any one character. */
  private static Pattern pattern(String written) {
    StringBuilder regex = new StringBuilder();
    for (char c : written.toCharArray()) {
      regex.append(c == '*' ? ".*" : c == '?' ? "." : Pattern.quote(String.valueOf(c)));
    }
    return Pattern.compile(regex.toString(), Pattern.CASE_INSENSITIVE | Pattern.DOTALL);
  }
}
