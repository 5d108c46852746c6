package ferry.stone.core.format.files;

import ferry.stone.core.math.Spelling;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Finds the file that a written reference means: by its path, then whatever its case, then by the
 * longest common end of the path, then among the images that many cargos share. Absolute paths of
 * another machine are cut to their end.
 */
public final class ReferenceFinder {

  /** How sure a match is. */
  public enum How {
    /** The user said so. */
    CHOSEN,
    /** The path as written. */
    PATH,
    /** The path but for upper and lower case. */
    CASE,
    /** The file name in another folder. */
    NAME,
    /** The file name among the images that many cargos share. */
    SHARED
  }

  /** A found file. */
  public record Match(String resource, How how) {}

  private static final int MOST_PROPOSALS = 3;
  private static final double LEAST_LIKENESS = 0.55;
  private static final int LONGEST = 200;

  private final Resources resources;
  private final Map<String, String> bindings;
  private final Map<String, List<String>> byLowerName = new HashMap<>();

  public ReferenceFinder(Resources resources, Map<String, String> bindings) {
    this.resources = resources;
    this.bindings = bindings;
    for (String path : resources.paths()) {
      byLowerName.computeIfAbsent(lower(CargoPath.name(path)), k -> new ArrayList<>()).add(path);
    }
  }

  /**
   * @param written the reference as it stands in the file
   * @param fromFile path of the file it stands in
   */
  public Optional<Match> find(String written, String fromFile) {
    String bound = bindings.get(written);
    if (bound != null && resources.contains(bound)) {
      return Optional.of(new Match(bound, How.CHOSEN));
    }
    String clean = CargoPath.relative(written);
    if (clean.isEmpty()) {
      return Optional.empty();
    }
    String beside = CargoPath.resolve(CargoPath.folder(fromFile), clean);
    for (String path : new String[] {beside, clean}) {
      if (resources.contains(path)) {
        return Optional.of(new Match(path, How.PATH));
      }
    }
    List<String> sameName = byLowerName.getOrDefault(lower(CargoPath.name(clean)), List.of());
    for (String path : sameName) {
      if (path.equalsIgnoreCase(beside) || path.equalsIgnoreCase(clean)) {
        return Optional.of(new Match(path, How.CASE));
      }
    }
    Optional<String> named = nearest(sameName, clean);
    return named.isPresent()
        ? named.map(path -> new Match(path, How.NAME))
        : nearest(resources.shared(CargoPath.name(clean)), clean)
            .map(path -> new Match(path, How.SHARED));
  }

  /** The path with the longest common end. */
  private static Optional<String> nearest(List<String> paths, String clean) {
    return paths.stream()
        .max(
            Comparator.comparingInt((String path) -> commonEnd(path, clean))
                .thenComparing(Comparator.naturalOrder()));
  }

  /** Files of the same kind whose names are alike, best first, for a reference not found. */
  public List<String> propose(String written) {
    String name = CargoPath.name(CargoPath.relative(written));
    boolean image = CargoPath.isImage(name);
    record Candidate(String path, double likeness) {}
    return resources.paths().stream()
        .filter(path -> CargoPath.isImage(path) == image)
        .filter(path -> image || CargoPath.extension(path).equals(CargoPath.extension(name)))
        .map(path -> new Candidate(path, likeness(CargoPath.stem(name), CargoPath.stem(path))))
        .filter(c -> c.likeness >= LEAST_LIKENESS)
        .sorted(
            Comparator.comparingDouble(Candidate::likeness)
                .reversed()
                .thenComparing(Candidate::path))
        .limit(MOST_PROPOSALS)
        .map(Candidate::path)
        .toList();
  }

  private static String lower(String text) {
    return text.toLowerCase(Locale.ROOT);
  }

  /** How many path parts are the same, from the end. */
  private static int commonEnd(String a, String b) {
    String[] left = lower(a).split("/");
    String[] right = lower(b).split("/");
    int same = 0;
    while (same < left.length
        && same < right.length
        && left[left.length - 1 - same].equals(right[right.length - 1 - same])) {
      same++;
    }
    return same;
  }

  /**
   * 1 for equal names but for case and separators, falling as {@link Spelling} says; 0 for long
   * ones.
   */
  static double likeness(String a, String b) {
    String left = lower(a).replaceAll("[^a-z0-9]", "");
    String right = lower(b).replaceAll("[^a-z0-9]", "");
    return Math.max(left.length(), right.length()) > LONGEST ? 0 : Spelling.likeness(left, right);
  }
}
