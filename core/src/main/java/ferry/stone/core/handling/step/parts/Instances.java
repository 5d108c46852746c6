package ferry.stone.core.handling.step.parts;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.mesh.EqualMeshes;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Makes copies of meshes that several parts share, or lets parts share meshes that are the same.
 */
public final class Instances extends BasicStep<Instances.Params> {
  private static final Field TO_CHOICE =
      Field.choice(
          "to",
          "To",
          "Shared meshes are changed together, copies one by one.",
          "share",
          "share equal meshes",
          "copies",
          "a copy for each part");

  /**
   * @param to {@code share}: equal meshes become one; {@code copies}: every part gets its own
   */
  public record Params(String to) {
    public Params {
      TO_CHOICE.checked(to);
    }
  }

  public Instances() {
    super(
        Group.PARTS,
        "instances",
        "Share or copy meshes",
        "Lets parts with the same mesh share it, which makes files small; or gives each its own.",
        Params.class,
        true,
        TO_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    return params.to().equals("share")
        ? share(scene, selection, progress)
        : copies(scene, selection);
  }

  private static StepResult share(Scene scene, Selection selection, Progress progress) {
    Set<Integer> bound = new HashSet<>();
    scene.skins().forEach(s -> bound.add(s.meshId()));
    scene.caches().forEach(c -> bound.add(c.meshId()));
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    EqualMeshes equal = new EqualMeshes();
    boolean[] chosen = selection.withBelow(scene);
    List<Node> nodes = new ArrayList<>();
    Set<Integer> gone = new HashSet<>();
    for (int i = 0; i < chosen.length; i++) {
      progress.checkCancelled();
      Node node = scene.nodes().get(i);
      if (chosen[i]
          && node.content() instanceof Node.Content.MeshContent content
          && !bound.contains(content.meshId())) {
        PolygonMesh mesh = meshes.get(content.meshId());
        PolygonMesh first = equal.firstLike(mesh);
        if (first != mesh) {
          gone.add(mesh.id());
          // Only the materials may differ: the part keeps its own.
          int[] slots =
              content.slotMaterials() != null ? content.slotMaterials() : mesh.materialIds();
          boolean same = java.util.Arrays.equals(slots, first.materialIds());
          node =
              node.withContent(
                  new Node.Content.MeshContent(
                      first.id(), -1, same ? null : slots, content.morphWeights()));
        }
      }
      nodes.add(node);
    }
    return StepResult.of(
        Orphans.without(scene.toBuilder().nodes(nodes).build()),
        Figures.count(gone.size(), "mesh") + " saved");
  }

  private static StepResult copies(Scene scene, Selection selection) {
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    boolean[] chosen = selection.withBelow(scene);
    SceneBuilder builder = scene.toBuilder();
    Map<Integer, Integer> seen = new HashMap<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content && content.skinId() < 0) {
        seen.merge(content.meshId(), 1, Integer::sum);
      }
    }
    List<Node> nodes = new ArrayList<>();
    int copies = 0;
    for (int i = 0; i < chosen.length; i++) {
      Node node = scene.nodes().get(i);
      if (chosen[i]
          && node.content() instanceof Node.Content.MeshContent content
          && content.skinId() < 0
          && seen.get(content.meshId()) > 1) {
        // The last one left keeps the mesh itself.
        seen.merge(content.meshId(), -1, Integer::sum);
        int id = builder.newId();
        builder.add(meshes.get(content.meshId()).toBuilder().id(id).name(node.name()).build());
        node =
            node.withContent(
                new Node.Content.MeshContent(
                    id, -1, content.slotMaterials(), content.morphWeights()));
        copies++;
      }
      nodes.add(node);
    }
    return StepResult.of(
        Orphans.without(builder.nodes(nodes).build()), copies == 1 ? "1 copy" : copies + " copies");
  }
}
