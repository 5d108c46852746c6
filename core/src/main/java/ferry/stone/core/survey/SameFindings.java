package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Marks;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Joins findings that say the same of many parts into one, so that sixty parts are one row. */
final class SameFindings {
  private SameFindings() {}

  static List<Finding> join(List<Finding> findings) {
    Map<Object, List<Finding>> groups = new LinkedHashMap<>();
    for (Finding f : findings) {
      // Only what is about one part can be joined; all else stays as it is.
      Object key = f.nodeIds().size() == 1 ? List.of(f.code(), f.message()) : new Object();
      groups.computeIfAbsent(key, k -> new ArrayList<>()).add(f);
    }
    return groups.values().stream().map(g -> g.size() == 1 ? g.get(0) : joined(g)).toList();
  }

  private static Finding joined(List<Finding> group) {
    Finding first = group.get(0);
    List<Integer> nodes = new ArrayList<>();
    List<Marks> marks = new ArrayList<>();
    int elements = 0;
    for (Finding f : group) {
      nodes.addAll(f.nodeIds());
      for (Marks m : f.marks()) {
        elements += m.indices().length;
        if (elements <= 2 * Marks.MAX) {
          marks.add(m);
        }
      }
    }
    boolean alike = group.stream().allMatch(f -> f.measured().equals(first.measured()));
    String parts = group.size() + " parts";
    String measured =
        first.measured().isEmpty()
            ? parts
            : alike
                ? parts + ", " + first.measured() + " each"
                : parts + ", " + first.measured() + " …";
    return new Finding(
        first.code(),
        first.severity(),
        first.where() + " and " + (group.size() - 1) + " more",
        first.message(),
        measured,
        first.evidence(),
        nodes,
        marks,
        first.offers().stream().map(o -> o.nodeIds().isEmpty() ? o : o.on(nodes)).toList());
  }
}
