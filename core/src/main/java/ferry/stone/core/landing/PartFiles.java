package ferry.stone.core.landing;

import com.fasterxml.jackson.annotation.JsonIgnore;
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
 * One file of everything, or one for each part or each clip. A part is what shows a mesh, or a
 * group of detail levels, with everything that hangs on it.
 *
 * @param each whether each part gets a file of its own
 * @param pattern name of each file without ending; {@code {asset}}, {@code {part}} and {@code
 *     {number}} stand for the landing's name, the part's name and its place in the list, counted
 *     from 1; {@code {clip}} for that of a clip. Usual: {@code {asset}_{part}} or {@code
 *     {asset}_{clip}}.
 * @param origin what of each part is put on the origin
 * @param clips whether each clip gets a file of its own, with everything else
 * @param rest where the rest pose stands beside the clips
 */
public record PartFiles(boolean each, String pattern, Origin origin, boolean clips, Rest rest) {
  private static final String USUAL = "{asset}_{part}";
  private static final String USUAL_CLIPS = "{asset}_{clip}";

  /** Everything in one file. */
  public static final PartFiles ONE = new PartFiles(false, USUAL, Origin.PIVOT);

  /** Where the rest pose stands beside clips in files of their own. */
  public enum Rest {
    /** Nowhere. */
    NONE,
    /** In a file of its own, before the others. */
    FILE,
    /** In the first frame of each clip, which is a frame longer. */
    FRAME
  }

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

  /** By parts, or everything in one. */
  public PartFiles(boolean each, String pattern, Origin origin) {
    this(each, pattern, origin, false, Rest.NONE);
  }

  /** By clips. */
  public static PartFiles ofClips(Rest rest) {
    return new PartFiles(false, "", null, true, rest);
  }

  public PartFiles {
    if (each && clips) {
      throw new IllegalArgumentException(
          "each part or each clip gets a file of its own, not both: choose one");
    }
    rest = rest == null ? Rest.NONE : rest;
    origin = origin == null ? Origin.PIVOT : origin;
    pattern =
        pattern == null || pattern.isBlank() || clips && pattern.strip().equals(USUAL)
            ? clips ? USUAL_CLIPS : USUAL
            : pattern.strip();
    if (pattern.length() > LONGEST) {
      throw new IllegalArgumentException("the pattern of file names has at most 120 characters");
    }
    String plain =
        pattern
            .replace("{asset}", "")
            .replace(clips ? "{clip}" : "{part}", "")
            .replace("{number}", "");
    if (plain.contains("{") || plain.contains("}")) {
      throw new IllegalArgumentException(
          "the pattern of file names knows {asset}, "
              + (clips ? "{clip}" : "{part}")
              + " and {number}, not \""
              + pattern
              + "\"");
    }
  }

  /** Whether there are several files, by parts or by clips. */
  @JsonIgnore
  public boolean isSeveral() {
    return each || clips;
  }

  /**
   * Names of the files of clips, the one at rest first where it is asked for.
   *
   * @param asset name of the landing
   * @throws FormatException when there are none, or too many
   */
  List<String> ofClips(Scene scene, String asset) throws FormatException {
    if (scene.clips().isEmpty()) {
      throw new FormatException(
          FormatException.Kind.MISSING,
          asset,
          "",
          "there is no clip to land: nothing moves. Land one file, or look at what lands.");
    }
    List<String> names = new ArrayList<>();
    if (rest == Rest.FILE) {
      names.add("rest");
    }
    scene.clips().forEach(clip -> names.add(clip.name().isEmpty() ? "clip" : clip.name()));
    check(names.size(), asset);
    return stems(names, "{clip}", asset);
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
    check(parts.size(), asset);
    List<String> names = parts.stream().map(p -> scene.nodes().get(p).name()).toList();
    List<String> stems = stems(names, "{part}", asset);
    List<Named> named = new ArrayList<>();
    for (int i = 0; i < parts.size(); i++) {
      named.add(new Named(parts.get(i), stems.get(i)));
    }
    return named;
  }

  private static void check(int files, String asset) throws FormatException {
    if (files > MOST_FILES) {
      throw new FormatException(
          FormatException.Kind.TOO_LARGE,
          asset,
          "",
          "that would write "
              + Figures.count(files)
              + " files; at most "
              + Figures.count(MOST_FILES)
              + " are written. Merge parts first, or land one file.");
    }
  }

  /** Names of files by the pattern, each once. */
  private List<String> stems(List<String> names, String word, String asset) {
    int digits = String.valueOf(names.size()).length();
    Set<String> taken = new HashSet<>();
    List<String> stems = new ArrayList<>();
    for (int i = 0; i < names.size(); i++) {
      String number = String.format(Locale.ROOT, "%0" + digits + "d", i + 1);
      String stem =
          Landing.stem(
              pattern
                  .replace("{asset}", asset)
                  .replace(word, names.get(i))
                  .replace("{number}", number));
      String own = stem;
      // Some file systems take names that differ in case only for one.
      for (int n = 2; !taken.add(own.toLowerCase(Locale.ROOT)); n++) {
        own = stem + "_" + n;
      }
      stems.add(own);
    }
    return stems;
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
