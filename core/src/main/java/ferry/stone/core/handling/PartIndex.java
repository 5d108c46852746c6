package ferry.stone.core.handling;

import ferry.stone.core.scene.Scene;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** The parts of a scene by their paths. */
public final class PartIndex {
  private static final int MOST_LETTERS = 64;

  private final Scene scene;
  private final List<String> paths;
  private final Map<String, List<Integer>> byPath = new HashMap<>();
  private final Map<Integer, Integer> places;
  private final int[] ordinal;

  public PartIndex(Scene scene) {
    this.scene = scene;
    paths = scene.paths();
    places = scene.nodePlaces();
    ordinal = new int[paths.size()];
    for (int i = 0; i < ordinal.length; i++) {
      List<Integer> same = byPath.computeIfAbsent(paths.get(i), k -> new ArrayList<>(1));
      same.add(i);
      ordinal[i] = same.size();
    }
  }

  /**
   * @param made whether this is the scene of a step and not the near side
   * @return empty when no part has the id
   */
  public Optional<PartRef> ref(int nodeId, boolean made) {
    Integer place = places.get(nodeId);
    if (place == null) {
      return Optional.empty();
    }
    String path = paths.get(place);
    return Optional.of(new PartRef(path, ordinal[place], byPath.get(path).size(), made));
  }

  /** The id of a named part; empty when it is not there, or is one of more or fewer than it was. */
  public Optional<Integer> id(PartRef ref) {
    List<Integer> same = byPath.getOrDefault(ref.path(), List.of());
    return same.size() == ref.count()
        ? Optional.of(scene.nodes().get(same.get(ref.ordinal() - 1)).id())
        : Optional.empty();
  }

  /** Why a named part is not found, in one sentence. */
  String problem(PartRef ref) {
    List<Integer> same = byPath.getOrDefault(ref.path(), List.of());
    return same.isEmpty()
        ? "The part \"" + ref.label() + "\" is not there any more"
        : "There "
            + (ref.count() == 1 ? "was one part" : "were " + ref.count() + " parts")
            + " \""
            + ref.path()
            + "\" and there "
            + (same.size() == 1 ? "is one" : "are " + same.size())
            + " now, so it is not clear which is meant";
  }

  /** The part that a missing one most likely became; empty when none is like it. */
  Optional<PartRef> likely(PartRef ref) {
    List<Integer> same = byPath.getOrDefault(ref.path(), List.of());
    if (!same.isEmpty()) {
      int at = same.get(Math.min(ref.ordinal(), same.size()) - 1);
      return ref(scene.nodes().get(at).id(), ref.made());
    }
    String wanted = name(ref.path());
    int best = -1;
    double least = 0.5;
    for (int i = 0; i < paths.size(); i++) {
      double far = distance(wanted, name(paths.get(i)));
      // Of parts whose names are as near, the one under the like parents.
      far += 0.01 * distance(ref.path(), paths.get(i));
      if (far < least) {
        least = far;
        best = i;
      }
    }
    return best < 0 ? Optional.empty() : ref(scene.nodes().get(best).id(), ref.made());
  }

  private static String name(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  /** How unlike two names are, 0 to 1: edits of single letters (Levenshtein 1966) by the length. */
  private static double distance(String one, String two) {
    String a = end(one);
    String b = end(two);
    if (a.equals(b)) {
      return 0;
    }
    int[] row = new int[b.length() + 1];
    for (int j = 0; j < row.length; j++) {
      row[j] = j;
    }
    for (int i = 1; i <= a.length(); i++) {
      int diagonal = row[0];
      row[0] = i;
      for (int j = 1; j < row.length; j++) {
        int change = diagonal + (a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1);
        diagonal = row[j];
        row[j] = Math.min(change, Math.min(row[j], row[j - 1]) + 1);
      }
    }
    return (double) row[b.length()] / Math.max(1, Math.max(a.length(), b.length()));
  }

  private static String end(String text) {
    String lower = text.toLowerCase(Locale.ROOT);
    return lower.length() > MOST_LETTERS ? lower.substring(lower.length() - MOST_LETTERS) : lower;
  }
}
