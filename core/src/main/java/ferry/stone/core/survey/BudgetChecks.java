package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.shore.Budgets;
import ferry.stone.core.shore.Shore;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.function.ToLongFunction;
import java.util.stream.IntStream;

/** The scene against the limits of the shore. */
final class BudgetChecks {
  private static final String WHOLE = "whole scene";

  private final Scene scene;
  private final Shore shore;
  private final Findings findings;

  BudgetChecks(Scene scene, Shore shore, Findings findings) {
    this.scene = scene;
    this.shore = shore;
    this.findings = findings;
  }

  void run() {
    Budgets b = shore.budgets();
    long triangles = 0;
    long vertices = 0;
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content && isFinest(node)) {
        PolygonMesh mesh = meshes.get(content.meshId());
        triangles += mesh.faces().triangleCount();
        vertices += mesh.points().count();
      }
    }
    long tooManyTriangles = triangles - b.triangles();
    long tooManyVertices = vertices - b.vertices();
    over(
        "over-triangles",
        WHOLE,
        "triangle",
        triangles,
        b.triangles(),
        List.of(),
        () -> fewer(tooManyTriangles, m -> m.faces().triangleCount()));
    over(
        "over-vertices",
        WHOLE,
        "vertex",
        vertices,
        b.vertices(),
        List.of(),
        () -> fewer(tooManyVertices, m -> m.points().count()));
    skins(b);
    meshes(b);
  }

  private void skins(Budgets b) {
    Map<Integer, List<Integer>> bySkin = nodesBy(Node.Content.MeshContent::skinId);
    for (Skin skin : scene.skins()) {
      List<Integer> nodes = bySkin.getOrDefault(skin.id(), List.of());
      over(
          "over-joints",
          skin.name(),
          "joint",
          skin.jointNodeIds().length,
          b.joints(),
          nodes,
          () -> only(fewerJoints(b.joints())));
      overInfluences(skin, b.influences(), nodes);
    }
  }

  private void meshes(Budgets b) {
    Map<Integer, List<Integer>> byMesh = nodesBy(Node.Content.MeshContent::meshId);
    for (PolygonMesh mesh : scene.meshes()) {
      List<Integer> nodes = byMesh.getOrDefault(mesh.id(), List.of());
      over(
          "over-morphs",
          mesh.name(),
          "target",
          mesh.morphs().size(),
          b.morphs(),
          nodes,
          () -> only(leastMorphs(mesh, b.morphs())));
      over(
          "over-materials",
          mesh.name(),
          "material",
          IntStream.of(mesh.looks()).filter(l -> l >= 0).distinct().count(),
          b.materialsPerMesh(),
          nodes,
          () ->
              new Offer[] {
                Offer.step("Split by material", "split", Map.of("by", "material")),
                Offer.step("One material of many", "atlas", Map.of()).asking()
              });
    }
  }

  private static Offer[] only(Offer offer) {
    return new Offer[] {offer};
  }

  private static Offer fewerJoints(int limit) {
    return Offer.step(
            "Keep the " + limit + " that move most",
            "joints",
            Map.of("keep", "most", "most", limit))
        .asking();
  }

  private Map<Integer, List<Integer>> nodesBy(Function<Node.Content.MeshContent, Integer> key) {
    Map<Integer, List<Integer>> ids = new HashMap<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content) {
        ids.computeIfAbsent(key.apply(content), k -> new ArrayList<>()).add(node.id());
      }
    }
    return ids;
  }

  /**
   * What brings a scene under a limit: the finest of detail levels where there are some, else the
   * fewest parts. Nothing when one part alone is too heavy.
   */
  private Offer[] fewer(long tooMany, ToLongFunction<PolygonMesh> weight) {
    List<Integer> finest = new ArrayList<>();
    List<Node> shown = new ArrayList<>();
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    for (Node node : scene.nodes()) {
      boolean level =
          node.parent() >= 0
              && scene.nodes().get(node.parent()).content() instanceof Node.Content.DetailGroup;
      if (level && isFinest(node)) {
        finest.add(node.id());
      }
      if (node.content() instanceof Node.Content.MeshContent && isFinest(node)) {
        shown.add(node);
      }
    }
    List<Offer> offers = new ArrayList<>();
    if (!finest.isEmpty()) {
      offers.add(remove("Remove the finest detail level", finest));
    }
    ToLongFunction<Node> of =
        n -> weight.applyAsLong(meshes.get(((Node.Content.MeshContent) n.content()).meshId()));
    shown.sort(Comparator.comparingLong(of).reversed());
    List<Integer> heaviest = new ArrayList<>();
    long left = tooMany;
    for (int i = 0; i < shown.size() && left > 0; i++) {
      left -= of.applyAsLong(shown.get(i));
      heaviest.add(shown.get(i).id());
    }
    if (left <= 0 && heaviest.size() < shown.size()) {
      offers.add(remove("Remove the heaviest " + Figures.count(heaviest.size(), "part"), heaviest));
    }
    return offers.toArray(Offer[]::new);
  }

  private static Offer remove(String label, List<Integer> ids) {
    return Offer.step(label, "remove", Map.of("what", "parts")).on(ids).asking();
  }

  /** The targets that move least, so many that the rest is within the limit. */
  private static Offer leastMorphs(PolygonMesh mesh, int limit) {
    List<MorphTarget> order = new ArrayList<>(mesh.morphs());
    order.sort(Comparator.comparingDouble(BudgetChecks::largest));
    int gone = order.size() - limit;
    String names =
        String.join(
            ",", order.subList(0, gone).stream().map(m -> NamePatterns.exactly(m.name())).toList());
    return Offer.step(
            "Remove the " + gone + " that move least",
            "remove",
            Map.of("what", "morphs", "named", names))
        .asking();
  }

  private static double largest(MorphTarget morph) {
    double most = 0;
    float[] d = morph.full().deltas();
    for (int i = 0; i + 2 < d.length; i += 3) {
      most = Math.max(most, d[i] * d[i] + d[i + 1] * d[i + 1] + d[i + 2] * d[i + 2]);
    }
    return most;
  }

  private void overInfluences(Skin skin, int limit, List<Integer> ids) {
    if (limit == 0 || skin.mostInfluences() <= limit) {
      return;
    }
    findings.add(
        Finding.of(
                "over-influences",
                Severity.FIX,
                skin.name(),
                "More joints move a vertex than the shore takes.")
            .measured(Figures.count(skin.mostInfluences(), "joint") + " of " + limit)
            .evidence(shore.reasons().getOrDefault("influences", ""))
            .nodes(ids)
            .offer(
                Offer.step("Keep the " + limit + " strongest", "influences", Map.of("most", limit))
                    .on(ids)));
  }

  /** Of detail levels only the first is shown near by. */
  private boolean isFinest(Node node) {
    for (Node at = node; at.parent() >= 0; at = scene.nodes().get(at.parent())) {
      Node above = scene.nodes().get(at.parent());
      if (above.content() instanceof Node.Content.DetailGroup) {
        int parent = at.parent();
        int first = parent + 1;
        while (scene.nodes().get(first).parent() != parent) {
          first++;
        }
        if (scene.nodes().get(first).id() != at.id()) {
          return false;
        }
      }
    }
    return true;
  }

  /** Tells a count above its limit; offers work on the given nodes where there are any. */
  private void over(
      String code,
      String where,
      String noun,
      long found,
      long limit,
      List<Integer> nodes,
      Supplier<Offer[]> offers) {
    if (limit > 0 && found > limit) {
      findings.add(
          Finding.of(code, Severity.FIX, where, "More than the shore takes: " + message(code))
              .measured(Figures.count(found, noun) + " of " + Figures.count(limit))
              .evidence(shore.reasons().getOrDefault(reasonKey(code), ""))
              .nodes(nodes)
              .offer(
                  Arrays.stream(offers.get())
                      .map(o -> nodes.isEmpty() ? o : o.on(nodes))
                      .toArray(Offer[]::new)));
    }
  }

  private static String reasonKey(String code) {
    return code.substring("over-".length());
  }

  private static String message(String code) {
    return switch (code) {
      case "over-joints" -> "joints in one skin; split the mesh or remove joints.";
      case "over-materials" -> "materials on one mesh; split it by material, or make one of them.";
      case "over-morphs" -> "morph targets on one mesh; remove some.";
      default -> "remove parts or use a lower detail level.";
    };
  }
}
