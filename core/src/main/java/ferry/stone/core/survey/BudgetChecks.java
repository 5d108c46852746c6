package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.Skin;
import ferry.stone.core.shore.Budgets;
import ferry.stone.core.shore.Shore;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** The scene against the limits of the shore. */
final class BudgetChecks {
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
    over("over-triangles", "whole scene", "triangle", triangles, b.triangles());
    over("over-vertices", "whole scene", "vertex", vertices, b.vertices());
    for (Skin skin : scene.skins()) {
      over("over-joints", skin.name(), "joint", skin.jointNodeIds().length, b.joints());
      overInfluences(skin, b.influences());
    }
    for (PolygonMesh mesh : scene.meshes()) {
      over("over-morphs", mesh.name(), "target", mesh.morphs().size(), b.morphs());
      long slots =
          java.util.stream.IntStream.of(mesh.looks()).filter(l -> l >= 0).distinct().count();
      over("over-materials", mesh.name(), "material", slots, b.materialsPerMesh());
    }
  }

  private void overInfluences(Skin skin, int limit) {
    if (limit == 0 || skin.mostInfluences() <= limit) {
      return;
    }
    List<Integer> ids = new ArrayList<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent c && c.skinId() == skin.id()) {
        ids.add(node.id());
      }
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

  private void over(String code, String where, String noun, long found, long limit) {
    if (limit > 0 && found > limit) {
      String reason = shore.reasons().getOrDefault(reasonKey(code), "");
      findings.add(
          Finding.of(code, Severity.FIX, where, "More than the shore takes: " + message(code))
              .measured(Figures.count(found, noun) + " of " + Figures.count(limit))
              .evidence(reason));
    }
  }

  private static String reasonKey(String code) {
    return code.substring("over-".length());
  }

  private static String message(String code) {
    return switch (code) {
      case "over-joints" -> "joints in one skin; split the mesh or remove joints.";
      case "over-materials" -> "materials on one mesh; split it by material.";
      case "over-morphs" -> "morph targets on one mesh; remove some.";
      default -> "remove parts or use a lower detail level.";
    };
  }
}
