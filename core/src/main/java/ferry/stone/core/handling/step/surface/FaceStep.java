package ferry.stone.core.handling.step.surface;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.KnownMeshes;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepKind;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.List;

/** A step that changes the faces of chosen parts, mesh by mesh, with nothing to choose besides. */
abstract class FaceStep implements StepKind<FaceStep.Params> {
  /** Nothing to choose. */
  public record Params() {}

  /** What becomes of one mesh. */
  abstract PolygonMesh changed(PolygonMesh mesh);

  /** The figure of the step from the number of faces before and after. */
  abstract String figure(long before, long after);

  @Override
  public Group group() {
    return Group.SURFACE;
  }

  @Override
  public Class<Params> paramType() {
    return Params.class;
  }

  @Override
  public boolean takesSelection() {
    return true;
  }

  @Override
  public List<Field> fields() {
    return List.of();
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    return apply(scene, selection, params, KnownMeshes.NONE, progress);
  }

  @Override
  public StepResult apply(
      Scene scene, Selection selection, Params params, KnownMeshes known, Progress progress) {
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    Scene result = chosen.each(known, progress, this::changed);
    return StepResult.of(result, figure(chosen.faces(), chosen.facesIn(result)));
  }
}
