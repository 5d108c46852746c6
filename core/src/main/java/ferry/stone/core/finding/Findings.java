package ferry.stone.core.finding;

import java.util.ArrayList;
import java.util.List;

/**
 * Collects findings. Of one code and place only the first {@value #MOST} are kept, then counted.
 */
public final class Findings {
  private static final int MOST = 200;
  private final List<Finding> list = new ArrayList<>();
  private final java.util.Map<String, Integer> counts = new java.util.HashMap<>();

  public void add(Finding finding) {
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
