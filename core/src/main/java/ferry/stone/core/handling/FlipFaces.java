package ferry.stone.core.handling;

import ferry.stone.core.geometry.Winding;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.List;

/** Turns parts inside out, for those that arrive with their backs outside. */
public final class FlipFaces implements StepKind<FlipFaces.Params> {
  /** Nothing to choose. */
  public record Params() {}

  @Override
  public String kind() {
    return "flip";
  }

  @Override
  public String label() {
    return "Turn faces round";
  }

  @Override
  public String help() {
    return "Turns parts inside out: faces run and normals look the other way.";
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
    Scene result = chosen.each(known, progress, Winding::flipped);
    long after = chosen.facesIn(result);
    return StepResult.of(result, Figures.count(after, "face"));
  }
}
