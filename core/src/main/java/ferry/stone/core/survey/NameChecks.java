package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.shore.NameRules;
import ferry.stone.core.shore.Shore;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Names of parts and materials, against each other and against the shore's rules. */
final class NameChecks {
  private final Scene scene;
  private final Shore shore;
  private final Findings findings;

  NameChecks(Scene scene, Shore shore, Findings findings) {
    this.scene = scene;
    this.shore = shore;
    this.findings = findings;
  }

  void run() {
    duplicates();
    nameless();
    rules();
    materials();
  }

  /** Parts of one path always; parts of one name where the shore wants each once. */
  private void duplicates() {
    List<String> paths = scene.paths();
    boolean strict = shore.names().unique();
    Map<String, List<Integer>> same = new LinkedHashMap<>();
    for (int i = 0; i < paths.size(); i++) {
      Node node = scene.nodes().get(i);
      String key = strict ? node.name() : paths.get(i);
      same.computeIfAbsent(key, k -> new ArrayList<>()).add(node.id());
    }
    List<Integer> shared = new ArrayList<>();
    List<String> names = new ArrayList<>();
    same.forEach(
        (name, ids) -> {
          if (ids.size() > 1 && !name.isBlank()) {
            shared.addAll(ids);
            names.add("“" + name + "” " + ids.size() + " times");
          }
        });
    if (shared.isEmpty()) {
      return;
    }
    String first = names.get(0).substring(1, names.get(0).indexOf('”'));
    findings.add(
        Finding.of(
                "duplicate-names",
                strict ? Severity.FIX : Severity.LOOK,
                names.size() == 1 ? first : first + " and " + (names.size() - 1) + " more",
                strict
                    ? "Several parts have one name; this shore renames or drops all but one."
                    : "Several parts have one name; some destinations rename or drop all but one.")
            .measured(Figures.count(shared.size(), "part"))
            .evidence(String.join(", ", names.subList(0, Math.min(6, names.size()))))
            .nodes(shared)
            .offer(Offer.step("Make names unique", "rename", Map.of("how", "unique")).on(shared)));
  }

  private void nameless() {
    List<Integer> ids =
        scene.nodes().stream().filter(n -> n.name().isBlank()).map(Node::id).toList();
    if (!ids.isEmpty()) {
      findings.add(
          Finding.of("no-name", Severity.LOOK, "", "Parts without a name.")
              .measured(Figures.count(ids.size(), "part"))
              .nodes(ids)
              .offer(Offer.step("Name them", "rename", Map.of("how", "unique")).on(ids)));
    }
  }

  private void rules() {
    NameRules rules = shore.names();
    List<Node> wrong =
        scene.nodes().stream().filter(n -> !n.name().isBlank() && !rules.fits(n.name())).toList();
    if (wrong.isEmpty()) {
      return;
    }
    Node first = wrong.get(0);
    List<Integer> ids = wrong.stream().map(Node::id).toList();
    Map<String, Object> params =
        Map.of(
            "how",
            "rules",
            "allowed",
            rules.allowed().isEmpty() ? "\\s\\S" : rules.allowed(),
            "longest",
            rules.longest());
    findings.add(
        Finding.of(
                "names-against-rules",
                Severity.FIX,
                wrong.size() == 1
                    ? first.name()
                    : first.name() + " and " + (wrong.size() - 1) + " more",
                "Names that this shore does not take.")
            .measured(Figures.count(wrong.size(), "part"))
            .evidence(
                "“"
                    + first.name()
                    + "” would become “"
                    + rules.fit(first.name())
                    + "”; allowed: "
                    + (rules.allowed().isEmpty() ? "any characters" : rules.allowed())
                    + (rules.longest() > 0 ? ", at most " + rules.longest() : ""))
            .nodes(ids)
            .offer(Offer.step("Rename by the rules", "rename", params).on(ids)));
  }

  private void materials() {
    Map<String, Integer> byName = new LinkedHashMap<>();
    for (Material material : scene.materials()) {
      byName.merge(material.name(), 1, Integer::sum);
    }
    Collection<String> same =
        byName.entrySet().stream().filter(e -> e.getValue() > 1).map(Map.Entry::getKey).toList();
    for (String name : same) {
      findings.add(
          Finding.of(
                  "duplicate-material-names",
                  Severity.LOOK,
                  name,
                  "Different materials share this name.")
              .measured(Figures.count(byName.get(name), "material"))
              .offer(
                  Offer.step(
                      "Make names unique",
                      "rename",
                      Map.of("what", "materials", "how", "unique"))));
    }
  }
}
