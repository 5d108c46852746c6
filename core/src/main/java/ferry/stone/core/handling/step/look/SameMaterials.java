package ferry.stone.core.handling.step.look;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.texture.MaterialDifferences;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Makes one of materials that are the same, or that have the same name but for a number. */
public final class SameMaterials extends BasicStep<SameMaterials.Params> {
  private static final Field WHICH =
      Field.choice(
          "which",
          "Which",
          "Which materials become one.",
          "alike",
          "that look the same",
          "named",
          "that have the same name, such as oak and oak.001");

  /**
   * @param which {@code alike} or {@code named}
   */
  public record Params(String which) {
    public Params {
      which = WHICH.chosen(which);
    }
  }

  public SameMaterials() {
    super(
        Group.LOOK,
        "sameMaterials",
        "Join same materials",
        "Makes one of materials that look the same, or have the same name; the first one stays.",
        Params.class,
        false,
        WHICH);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    boolean named = params.which().equals("named");
    Map<Integer, Integer> become = new HashMap<>();
    List<Material> kept = new ArrayList<>();
    List<Finding> findings = new ArrayList<>();
    for (Material material : scene.materials()) {
      progress.checkCancelled();
      Material same = null;
      for (Material other : kept) {
        boolean fits =
            named
                ? MaterialDifferences.plainName(other)
                    .equals(MaterialDifferences.plainName(material))
                : MaterialDifferences.of(scene, other, material).isEmpty();
        if (same == null && fits) {
          same = other;
        }
      }
      if (same == null) {
        kept.add(material);
        continue;
      }
      become.put(material.id(), same.id());
      List<String> apart = MaterialDifferences.of(scene, same, material);
      findings.add(
          Finding.of(
              "material-joined",
              apart.isEmpty() ? Severity.NOTE : Severity.LOOK,
              material.name(),
              "The material is now "
                  + same.name()
                  + (apart.isEmpty()
                      ? "."
                      : ", from which it differed: " + String.join(", ", apart))
                  + (apart.isEmpty() ? "" : ".")));
    }
    if (become.isEmpty()) {
      return StepResult.of(scene, "none are the same");
    }
    List<PolygonMesh> meshes = scene.meshes().stream().map(mesh -> joined(mesh, become)).toList();
    List<Node> nodes = scene.nodes().stream().map(node -> joined(node, become)).toList();
    Scene result = scene.toBuilder().materials(kept).meshes(meshes).nodes(nodes).build();
    String figure = Figures.count(scene.materials().size(), "material") + " → " + kept.size();
    return new StepResult(result, findings, figure);
  }

  private static PolygonMesh joined(PolygonMesh mesh, Map<Integer, Integer> become) {
    int[] ids = joined(mesh.materialIds(), become);
    int[][] variants = new int[mesh.variantMaterials().length][];
    boolean same = Arrays.equals(ids, mesh.materialIds());
    for (int i = 0; i < variants.length; i++) {
      variants[i] = joined(mesh.variantMaterials()[i], become);
      same &= Arrays.equals(variants[i], mesh.variantMaterials()[i]);
    }
    if (same) {
      return mesh;
    }
    int[] slots = new int[mesh.faces().faceCount()];
    for (int f = 0; f < slots.length; f++) {
      slots[f] = mesh.slot(f);
    }
    return mesh.toBuilder().materials(ids, slots).variantMaterials(variants).build();
  }

  private static Node joined(Node node, Map<Integer, Integer> become) {
    if (!(node.content() instanceof Node.Content.MeshContent content)
        || content.slotMaterials() == null) {
      return node;
    }
    return node.withContent(
        new Node.Content.MeshContent(
            content.meshId(),
            content.skinId(),
            joined(content.slotMaterials(), become),
            content.morphWeights()));
  }

  private static int[] joined(int[] ids, Map<Integer, Integer> become) {
    return Arrays.stream(ids).map(id -> become.getOrDefault(id, id)).toArray();
  }
}
