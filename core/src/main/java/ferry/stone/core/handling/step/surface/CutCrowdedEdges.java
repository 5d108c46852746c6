package ferry.stone.core.handling.step.surface;

import ferry.stone.core.geometry.mesh.CutApart;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;

/** Cuts surfaces apart along edges that more than two faces share. */
public final class CutCrowdedEdges extends BasicStep<CutCrowdedEdges.Params> {
  /** Nothing to choose. */
  public record Params() {}

  public CutCrowdedEdges() {
    super(
        Group.SURFACE,
        "cutApart",
        "Cut where more than two faces meet",
        "Cuts surfaces apart along edges that more than two faces share: the two that bend least"
            + " stay together. Nothing moves.",
        Params.class,
        true);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    VertexChanges changes = new VertexChanges();
    int edges = 0;
    for (PolygonMesh mesh : scene.meshes()) {
      progress.checkCancelled();
      if (chosen.has(mesh)) {
        CutApart.Result result = CutApart.of(mesh);
        changes.put(result.mesh(), result.sourceVertex());
        edges += result.edges();
      }
    }
    return StepResult.of(changes.apply(scene), Figures.count(edges, "edge") + " cut");
  }
}
