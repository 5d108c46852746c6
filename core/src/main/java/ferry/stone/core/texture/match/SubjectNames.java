package ferry.stone.core.texture.match;

import ferry.stone.core.math.Spelling;
import ferry.stone.core.scene.look.Material;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** How well words of a file name go with a material, by its own name and those of its parts. */
final class SubjectNames {
  private static final double MATERIAL = 1;
  private static final double PART = 0.95;
  private static final double FOLDER = 0.9;
  private static final double FOLDER_ONLY = 0.5;
  private static final double INSIDE = 0.55;
  private static final double INSIDE_MORE = 0.35;
  private static final double COMMON = 0.55;
  private static final double LIKE = 0.75;
  private static final double LETTERS = 0.8;

  private final Material material;
  private final List<String> own;
  private final List<List<String>> parts = new ArrayList<>();

  /** 0 to 1, and on what it rests. */
  record Likeness(double value, String why) {
    Likeness or(double other, String otherWhy) {
      return other > value ? new Likeness(other, otherWhy) : this;
    }
  }

  SubjectNames(Material material, Set<String> partNames) {
    this.material = material;
    own = words(material.name());
    for (String name : partNames) {
      List<String> words = words(name);
      if (!words.isEmpty()) {
        parts.add(words);
      }
    }
  }

  Material material() {
    return material;
  }

  private static List<String> words(String name) {
    List<String> words = NameTokens.of(name);
    List<String> telling = NameTokens.telling(words);
    return telling.isEmpty() ? words : telling;
  }

  /**
   * @param subject words of the file name that do not say its channel
   * @param folder path of its folder
   */
  Likeness likeness(List<String> subject, String folder) {
    Likeness best = new Likeness(0, "");
    best = best.or(MATERIAL * likeness(subject, own), "named like the material");
    for (List<String> part : parts) {
      best = best.or(PART * likeness(subject, part), "named like a part that has the material");
    }
    // A file that names something goes by that; its folder may be that of the whole asset.
    double folders = subject.isEmpty() ? FOLDER : FOLDER_ONLY;
    for (String name : folder.split("/")) {
      List<String> words = words(name);
      if (words.equals(own) && !own.isEmpty()) {
        best = best.or(folders, "in a folder named like the material");
      } else if (parts.contains(words)) {
        best = best.or(folders * PART, "in a folder named like a part that has the material");
      }
    }
    return best;
  }

  private static double likeness(List<String> a, List<String> b) {
    if (a.isEmpty() || b.isEmpty()) {
      return 0;
    }
    String left = String.join("", a);
    String right = String.join("", b);
    if (left.equals(right)) {
      return 1;
    }
    Set<String> common = new HashSet<>(a);
    common.retainAll(new HashSet<>(b));
    double share = (double) common.size() / Math.max(a.size(), b.size());
    boolean inside = a.containsAll(b) || b.containsAll(a);
    double words = inside ? INSIDE + INSIDE_MORE * share : COMMON * share;
    double letters = Spelling.likeness(left, right);
    return Math.max(words, letters > LIKE ? LETTERS * letters : 0);
  }
}
