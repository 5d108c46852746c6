package ferry.stone.core.handling;

import ferry.stone.core.geometry.Triangulate;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.List;

/** Cuts faces into triangles, along the same diagonals as a landing does. */
public final class TriangulateFaces implements StepKind<TriangulateFaces.Params> {
  /** Nothing to choose. */
  public record Params() {}

  @Override
  public String kind() {
    return "triangulate";
  }

  @Override
  public String label() {
    return "Cut into triangles";
  }

  @Override
  public String help() {
    return "Cuts all faces into triangles; vertices, layers and materials stay.";
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
    long before = chosen.faces();
    Scene result = chosen.each(known, progress, Triangulate::of);
    long after = chosen.facesIn(result);
    return StepResult.of(
        result, Figures.count(before, "face") + " to " + Figures.count(after, "triangle"));
  }
}
