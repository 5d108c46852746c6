package ferry.stone.core.finding;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Collects findings. Of one code and place only the first {@value #MOST} are kept, then counted.
 */
public final class Findings {
  private static final int MOST = 200;
  private final List<Finding> list = new ArrayList<>();
  private final Map<String, Integer> counts = new TreeMap<>();
  private final Set<List<Object>> seen = new HashSet<>();

  public void add(Finding finding) {
    // Files that share a library would report its faults once each.
    if (!seen.add(List.of(finding.code(), finding.where(), finding.message(), finding.nodeIds()))) {
      return;
    }
    if (counts.merge(finding.code(), 1, Integer::sum) <= MOST) {
      list.add(finding);
    }
  }

  public void addAll(List<Finding> findings) {
    findings.forEach(this::add);
  }

  /** What was collected, in order, with one closing finding for each code that was cut. */
  public List<Finding> list() {
    List<Finding> result = new ArrayList<>(list);
    counts.forEach(
        (code, count) -> {
          if (count > MOST) {
            result.add(
                Finding.of(
                    code,
                    Severity.LOOK,
                    "",
                    (count - MOST) + " more findings of this kind are not listed."));
          }
        });
    return List.copyOf(result);
  }
}
