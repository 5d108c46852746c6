package ferry.stone.core.format.obj.write;

import ferry.stone.core.format.files.FreeNames;
import java.util.Locale;
import java.util.Set;

/**
 * Names as a line of text can hold them, each once. OBJ has one list of names for parts, one for
 * groups and one for materials; readers find materials by name.
 */
final class ObjNames {
  /** Words after a keyword that mean that there is no name. */
  private static final Set<String> MEANINGS = Set.of("(null)", "off", "default");

  private final String otherwise;
  private final boolean oneWord;
  private final FreeNames names = new FreeNames();
  private int changed;
  private String firstChanged = "";

  /**
   * @param otherwise name for what has none
   * @param oneWord whether white space ends a name
   */
  ObjNames(String otherwise, boolean oneWord) {
    this.otherwise = otherwise;
    this.oneWord = oneWord;
  }

  /** The name to write for one more thing. */
  String next(String name) {
    String free = names.take(plain(name));
    if (!free.equals(name)) {
      firstChanged = changed++ == 0 ? name + " → " + free : firstChanged;
    }
    return free;
  }

  private String plain(String name) {
    String line = name.replaceAll("\\p{Cntrl}", "_").strip();
    if (oneWord) {
      line = line.replaceAll("\\s+", "_");
    }
    // A backslash at the end joins the next line; a hash at the start makes a remark.
    if (line.endsWith("\\")) {
      line = line.substring(0, line.length() - 1) + "_";
    }
    if (line.startsWith("#")) {
      line = "_" + line.substring(1);
    }
    if (MEANINGS.contains(line.toLowerCase(Locale.ROOT))) {
      line = line + "_";
    }
    return line.isEmpty() ? otherwise : line;
  }

  /** Counts what was changed in another list as well. */
  void also(ObjNames other) {
    firstChanged = changed == 0 ? other.firstChanged : firstChanged;
    changed += other.changed;
  }

  /** How many names are written otherwise. */
  int changed() {
    return changed;
  }

  /** The first of them, before and after. */
  String firstChanged() {
    return firstChanged;
  }
}
