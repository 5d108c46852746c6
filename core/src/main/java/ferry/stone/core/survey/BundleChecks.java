package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.mesh.EqualMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** How parts belong together: versions of one part, equal meshes, groups of nothing. */
final class BundleChecks {
  private static final Pattern VERSION =
      Pattern.compile(
          "(.+?)[_ .-]?(lod[_-]?\\d+|high|hi|mid|medium|low|lo|l\\d)$", Pattern.CASE_INSENSITIVE);

  private final Scene scene;
  private final Findings findings;
  private final Map<Integer, PolygonMesh> meshes;

  BundleChecks(Scene scene, Findings findings) {
    this.scene = scene;
    this.findings = findings;
    meshes = scene.meshesById();
  }

  void run() {
    versions();
    equal();
    emptyGroups();
  }

  /** Meshes whose names differ in a word for their detail only, not bundled yet. */
  private void versions() {
    Map<String, List<Node>> byStem = new LinkedHashMap<>();
    for (Node node : scene.nodes()) {
      Matcher matcher = VERSION.matcher(node.name());
      boolean bundled =
          node.parent() >= 0
              && scene.nodes().get(node.parent()).content() instanceof Node.Content.DetailGroup;
      if (node.content() instanceof Node.Content.MeshContent && !bundled && matcher.matches()) {
        byStem.computeIfAbsent(matcher.group(1), k -> new ArrayList<>()).add(node);
      }
    }
    byStem.forEach(
        (stem, nodes) -> {
          List<Node> order = new ArrayList<>(nodes);
          order.sort(Comparator.comparingLong(this::triangles).reversed());
          Set<Long> counts = new HashSet<>();
          order.forEach(n -> counts.add(triangles(n)));
          if (order.size() < 2 || counts.size() < order.size()) {
            return;
          }
          List<Integer> ids = order.stream().map(Node::id).toList();
          String figures =
              String.join(" · ", order.stream().map(n -> Figures.count(triangles(n))).toList());
          findings.add(
              Finding.of(
                      "versions-apart",
                      Severity.LOOK,
                      String.join(", ", order.stream().map(Node::name).toList()),
                      "Versions of one part lie side by side: all of them would be drawn.")
                  .measured(figures + " triangles")
                  .evidence("their names differ in a word for detail only")
                  .nodes(ids)
                  .offer(
                      Offer.step("Bundle as detail levels", "levels", Map.of("name", stem))
                          .on(ids)));
        });
  }

  private long triangles(Node node) {
    int id = ((Node.Content.MeshContent) node.content()).meshId();
    return meshes.get(id).faces().triangleCount();
  }

  private void equal() {
    Set<Integer> bound = new HashSet<>();
    scene.skins().forEach(s -> bound.add(s.meshId()));
    EqualMeshes equal = new EqualMeshes();
    Map<Integer, Integer> firstOf = new HashMap<>();
    Map<Integer, Integer> copies = new LinkedHashMap<>();
    for (PolygonMesh mesh : scene.meshes()) {
      if (bound.contains(mesh.id()) || mesh.faces().faceCount() == 0) {
        continue;
      }
      PolygonMesh first = equal.firstLike(mesh);
      firstOf.put(mesh.id(), first.id());
      if (first != mesh) {
        copies.merge(first.id(), 1, Integer::sum);
      }
    }
    int saved = copies.values().stream().mapToInt(Integer::intValue).sum();
    if (saved == 0) {
      return;
    }
    List<Integer> ids = new ArrayList<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content
          && copies.containsKey(firstOf.getOrDefault(content.meshId(), -1))) {
        ids.add(node.id());
      }
    }
    PolygonMesh first = meshes.get(copies.keySet().iterator().next());
    findings.add(
        Finding.of(
                "equal-meshes",
                Severity.NOTE,
                first.name() + (copies.size() > 1 ? " and others" : ""),
                "Several parts have the very same mesh, each a copy of its own.")
            .measured(Figures.count(saved, "mesh") + " too many")
            .nodes(ids)
            .offer(Offer.step("Share the mesh", "instances", Map.of("to", "share")).on(ids)));
  }

  private void emptyGroups() {
    boolean[] holds = new boolean[scene.nodes().size()];
    List<Integer> empty = new ArrayList<>();
    for (int i = holds.length - 1; i >= 0; i--) {
      Node node = scene.nodes().get(i);
      holds[i] |= !(node.content() instanceof Node.Content.Group);
      if (holds[i] && node.parent() >= 0) {
        holds[node.parent()] = true;
      }
    }
    Set<Integer> joints = new HashSet<>();
    scene.skins().forEach(s -> java.util.Arrays.stream(s.jointNodeIds()).forEach(joints::add));
    List<String> paths = scene.paths();
    String first = "";
    for (int i = 0; i < holds.length; i++) {
      if (!holds[i] && !joints.contains(scene.nodes().get(i).id())) {
        first = empty.isEmpty() ? paths.get(i) : first;
        empty.add(scene.nodes().get(i).id());
      }
    }
    if (!empty.isEmpty()) {
      findings.add(
          Finding.of(
                  "empty-groups",
                  Severity.NOTE,
                  first + (empty.size() > 1 ? " and " + (empty.size() - 1) + " more" : ""),
                  "Groups that hold nothing.")
              .measured(Figures.count(empty.size(), "part"))
              .nodes(empty)
              .offer(
                  Offer.step("Remove empty groups", "remove", Map.of("what", "emptyGroups"))
                      .on(empty)));
    }
  }
}
