package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.finding.Offer;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.IntStream;

/** Joins findings that say the same of many parts into one, so that sixty parts are one row. */
final class SameFindings {
  private static final String NAMED = "named";
  private static final String LARGEST = "largest";

  private SameFindings() {}

  static List<Finding> join(List<Finding> findings) {
    Map<Object, List<Finding>> groups = new LinkedHashMap<>();
    for (Finding f : findings) {
      // Only what is about one part can be joined; all else stays as it is.
      Object key =
          f.nodeIds().size() == 1 ? List.of(f.code(), f.message(), offered(f)) : new Object();
      groups.computeIfAbsent(key, k -> new ArrayList<>()).add(f);
    }
    return groups.values().stream().map(g -> g.size() == 1 ? g.get(0) : joined(g)).toList();
  }

  /** What the offers do, but for parameters that can be joined. */
  private static List<Object> offered(Finding finding) {
    List<Object> offered = new ArrayList<>();
    for (Offer offer : finding.offers()) {
      Map<String, Object> params = new TreeMap<>(offer.params());
      params.remove(NAMED);
      params.remove(LARGEST);
      offered.add(List.of(offer.label(), offer.kind(), params));
    }
    return offered;
  }

  /** One offer for all parts: every name that one of them speaks of, the largest of sizes. */
  private static Offer joined(List<Finding> group, int place, List<Integer> nodes) {
    Offer first = group.get(0).offers().get(place);
    Set<String> names = new LinkedHashSet<>();
    double largest = 0;
    for (Finding finding : group) {
      Map<String, Object> params = finding.offers().get(place).params();
      names.add(String.valueOf(params.get(NAMED)));
      largest =
          params.get(LARGEST) instanceof Number size
              ? Math.max(largest, size.doubleValue())
              : largest;
    }
    Map<String, Object> params = new TreeMap<>(first.params());
    params.computeIfPresent(NAMED, (k, v) -> String.join(",", names));
    if (params.containsKey(LARGEST)) {
      params.put(LARGEST, largest);
    }
    Offer whole = first.with(params);
    return whole.nodeIds().isEmpty() ? whole : whole.on(nodes);
  }

  private static Finding joined(List<Finding> group) {
    Finding first = group.get(0);
    List<Integer> nodes = new ArrayList<>();
    List<Marks> marks = new ArrayList<>();
    int elements = 0;
    for (Finding f : group) {
      f.nodeIds().stream().filter(id -> !nodes.contains(id)).forEach(nodes::add);
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
        IntStream.range(0, first.offers().size()).mapToObj(i -> joined(group, i, nodes)).toList());
  }
}
