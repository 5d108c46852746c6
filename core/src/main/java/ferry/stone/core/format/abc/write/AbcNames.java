package ferry.stone.core.format.abc.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Names that the format takes: without a slash, unlike those beside them. */
final class AbcNames {
  private final Map<Integer, FreeNames> taken = new HashMap<>();
  private int renamed;
  private String first = "";

  static String plain(String name) {
    return name.replaceAll("[/\\p{Cntrl}]", "_");
  }

  List<Node> of(List<Node> nodes) {
    List<Node> named = new ArrayList<>();
    for (Node node : nodes) {
      String plain = node.name().isEmpty() ? "part" : plain(node.name());
      String free = taken.computeIfAbsent(node.parent(), k -> new FreeNames()).take(plain);
      if (!free.equals(node.name())) {
        first = renamed++ == 0 ? node.name() : first;
      }
      named.add(free.equals(node.name()) ? node : node.withName(free));
    }
    return named;
  }

  List<Finding> said() {
    return renamed == 0
        ? List.of()
        : List.of(
            Finding.of(
                    "part-names-changed",
                    Severity.LOOK,
                    first,
                    "Names have no slash there and are unlike those beside them: these were"
                        + " changed.")
                .measured(Figures.count(renamed, "part")));
  }
}
