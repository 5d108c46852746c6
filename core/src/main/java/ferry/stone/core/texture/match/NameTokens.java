package ferry.stone.core.texture.match;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** Takes names apart: at all signs that are no letters or digits, at capitals, and at digits. */
final class NameTokens {
  /** Words that say what kind of thing has the name, and not which. */
  private static final Set<String> IDLE =
      Set.of(
          "tex",
          "texture",
          "textures",
          "map",
          "maps",
          "img",
          "image",
          "mat",
          "mtl",
          "material",
          "shader",
          "mesh",
          "geo",
          "srgb",
          "raw",
          "linear",
          "lin",
          "final",
          "copy",
          "baked",
          "export",
          "textur",
          "bild");

  /** Letters that stand before names by habit. */
  private static final Set<String> BEFORE = Set.of("t", "m", "sm", "sk", "mi");

  private NameTokens() {}

  /** The words of a name in small letters, in order. */
  static List<String> of(String name) {
    String parts =
        name.replaceAll("([\\p{Ll}0-9])(\\p{Lu})", "$1 $2")
            .replaceAll("(\\p{Lu})(\\p{Lu}\\p{Ll})", "$1 $2")
            .replaceAll("(\\p{L})(\\d)", "$1 $2")
            .replaceAll("(\\d)(\\p{L})", "$1 $2")
            .replaceAll("[^\\p{L}\\p{N}]+", " ");
    List<String> words = new ArrayList<>();
    for (String word : parts.strip().split(" +")) {
      if (!word.isEmpty()) {
        words.add(word.toLowerCase(Locale.ROOT));
      }
    }
    return words;
  }

  /** Without words that every name may have, and without sizes such as 2k and 1024. */
  static List<String> telling(List<String> words) {
    List<String> left = new ArrayList<>();
    for (int i = 0; i < words.size(); i++) {
      String word = words.get(i);
      boolean thousands = word.matches("[1248]|16") && i + 1 < words.size();
      if (thousands && words.get(i + 1).equals("k")) {
        i++;
      } else if (i == 0 && words.size() > 1 && BEFORE.contains(word)) {
        continue;
      } else if (!IDLE.contains(word) && !word.matches("256|512|1024|2048|4096|8192")) {
        left.add(word);
      }
    }
    return left;
  }
}
