package ferry.stone.core.format.collada;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The tree with what is found by id, and the words for what is not. */
final class DaeDocument {
  final DaeElement root;
  final String resource;
  final Findings findings;
  private final Map<String, DaeElement> byId = new HashMap<>();
  private final Set<String> told = new HashSet<>();

  DaeDocument(DaeElement root, String resource, Findings findings) {
    this.root = root;
    this.resource = resource;
    this.findings = findings;
    Deque<DaeElement> open = new ArrayDeque<>(List.of(root));
    while (!open.isEmpty()) {
      DaeElement element = open.pop();
      String id = element.attribute("id");
      if (!id.isEmpty()) {
        byId.putIfAbsent(id, element);
      }
      for (int i = element.children.size() - 1; i >= 0; i--) {
        open.push(element.children.get(i));
      }
    }
  }

  /** All elements of a kind in all libraries of a name. */
  List<DaeElement> library(String library, String kind) {
    List<DaeElement> all = new ArrayList<>();
    for (DaeElement found : root.all(library)) {
      all.addAll(found.all(kind));
    }
    return all;
  }

  /** The element that a reference names, or {@code null}, which is told. */
  DaeElement named(DaeElement from, String attribute, String kind) {
    return byReference(from, from.attribute(attribute), kind);
  }

  /** The same for a reference that was taken apart already. */
  DaeElement byReference(DaeElement from, String written, String kind) {
    String url = written.strip();
    DaeElement found = url.startsWith("#") ? byId.get(url.substring(1)) : null;
    if (found != null && (kind.isEmpty() || found.name.equals(kind))) {
      return found;
    }
    boolean outside = !url.startsWith("#") && url.contains("#");
    say(
        outside ? "reference-outside" : "reference-broken",
        from,
        outside
            ? "\"" + url + "\" lies in another file, which is not looked into: bring that file too."
            : "\"" + url + "\" names nothing in the file" + of(kind) + ": it is left out.");
    return null;
  }

  private static String of(String kind) {
    return kind.isEmpty() ? "" : " of the kind " + kind;
  }

  /** An element by its id alone, or {@code null}. */
  DaeElement byId(String id) {
    return byId.get(id);
  }

  /** Says once for each place that something was left out. */
  void say(String code, DaeElement where, String message) {
    if (told.add(code + where.line + message)) {
      findings.add(Finding.of(code, Severity.FIX, resource + ", " + where.place(), message));
    }
  }

  FormatException broken(DaeElement where, String problem) {
    return new FormatException(Kind.CORRUPT, resource, where.place(), problem);
  }
}
