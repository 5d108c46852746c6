package ferry.stone.core.landing;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * One file of everything, or one for each part. A part is what shows a mesh, or a group of detail
 * levels, with everything that hangs on it.
 *
 * @param each whether each part gets a file of its own
 * @param pattern name of each file without ending; {@code {asset}}, {@code {part}} and {@code
 *     {number}} stand for the landing's name, the part's name and its place in the list, counted
 *     from 1. Usual: {@code {asset}_{part}}.
 * @param origin what of each part is put on the origin
 */
public record PartFiles(boolean each, String pattern, Origin origin) {
  private static final String USUAL = "{asset}_{part}";

  /** Everything in one file. */
  public static final PartFiles ONE = new PartFiles(false, USUAL, Origin.PIVOT);

  /** What of a part is put on the origin. */
  public enum Origin {
    /** Its pivot. */
    PIVOT,
    /** The middle of its box's base, at rest. */
    BASE,
    /** Nothing: it stays in its place. */
    PLACE
  }

  private static final int LONGEST = 120;
  private static final int MOST_FILES = 2000;

  public PartFiles {
    origin = origin == null ? Origin.PIVOT : origin;
    pattern = pattern == null || pattern.isBlank() ? USUAL : pattern.strip();
    if (pattern.length() > LONGEST) {
      throw new IllegalArgumentException("the pattern of file names has at most 120 characters");
    }
    String plain = pattern.replace("{asset}", "").replace("{part}", "").replace("{number}", "");
    if (plain.contains("{") || plain.contains("}")) {
      throw new IllegalArgumentException(
          "the pattern of file names knows {asset}, {part} and {number}, not \"" + pattern + "\"");
    }
  }

  /**
   * A part and the name of its file.
   *
   * @param node its place in the scene
   * @param stem of its file, without folder or ending
   */
  record Named(int node, String stem) {}

  /**
   * @param asset name of the landing
   * @throws FormatException when there are none, or too many
   */
  List<Named> of(Scene scene, String asset) throws FormatException {
    List<Integer> parts = parts(scene);
    if (parts.isEmpty()) {
      throw new FormatException(
          FormatException.Kind.MISSING,
          asset,
          "",
          "there is no part to land: nothing shows a mesh. Look at the survey.");
    }
    if (parts.size() > MOST_FILES) {
      throw new FormatException(
          FormatException.Kind.TOO_LARGE,
          asset,
          "",
          "that would write "
              + Figures.count(parts.size())
              + " files; at most "
              + Figures.count(MOST_FILES)
              + " are written. Merge parts first, or land one file.");
    }
    int digits = String.valueOf(parts.size()).length();
    Set<String> taken = new HashSet<>();
    List<Named> named = new ArrayList<>();
    for (int i = 0; i < parts.size(); i++) {
      String number = String.format(Locale.ROOT, "%0" + digits + "d", i + 1);
      String stem =
          Landing.stem(
              pattern
                  .replace("{asset}", asset)
                  .replace("{part}", scene.nodes().get(parts.get(i)).name())
                  .replace("{number}", number));
      String own = stem;
      // Some file systems take names that differ in case only for one.
      for (int n = 2; !taken.add(own.toLowerCase(Locale.ROOT)); n++) {
        own = stem + "_" + n;
      }
      named.add(new Named(parts.get(i), own));
    }
    return named;
  }

  private static List<Integer> parts(Scene scene) {
    List<Integer> parts = new ArrayList<>();
    boolean[] inside = new boolean[scene.nodes().size()];
    boolean[] shows = new boolean[inside.length];
    for (int i = inside.length - 1; i >= 0; i--) {
      Node node = scene.nodes().get(i);
      shows[i] |= node.content() instanceof Node.Content.MeshContent;
      if (shows[i] && node.parent() >= 0) {
        shows[node.parent()] = true;
      }
    }
    for (int i = 0; i < inside.length; i++) {
      Node node = scene.nodes().get(i);
      boolean below = node.parent() >= 0 && inside[node.parent()];
      boolean part =
          node.content() instanceof Node.Content.MeshContent
              || node.content() instanceof Node.Content.DetailGroup && shows[i];
      if (part && !below) {
        parts.add(i);
      }
      inside[i] = part || below;
    }
    return parts;
  }
}
