package ferry.stone.core.geometry.look;

import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/**
 * How alike two names are: by their words, whatever joins them, and without words that say nothing.
 */
final class NameLikeness {
  /** What programs and people add to names of parts, sets and materials: common practice. */
  private static final Set<String> EMPTY =
      Set.of("mat", "material", "mtl", "shape", "mesh", "geo", "set", "sg", "shd", "grp", "group");

  private NameLikeness() {}

  /** 1 for the same words, the part that both have for some of them, 0 for none. */
  static double of(String a, String b) {
    Set<String> own = words(a);
    Set<String> there = words(b);
    if (own.isEmpty() || there.isEmpty()) {
      return 0;
    }
    Set<String> both = new HashSet<>(own);
    both.retainAll(there);
    Set<String> all = new HashSet<>(own);
    all.addAll(there);
    return (double) both.size() / all.size();
  }

  private static Set<String> words(String name) {
    String last = name.substring(Math.max(name.lastIndexOf('/'), name.lastIndexOf(':')) + 1);
    String apart = last.replaceAll("(\\p{Ll})(\\p{Lu})", "$1 $2");
    Set<String> words = new HashSet<>();
    for (String word : apart.toLowerCase(Locale.ROOT).split("[^\\p{L}\\p{Nd}]+")) {
      if (!word.isEmpty() && !EMPTY.contains(word)) {
        words.add(word);
      }
    }
    return words;
  }
}
