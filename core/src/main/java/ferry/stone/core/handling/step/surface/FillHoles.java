package ferry.stone.core.handling.step.surface;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.mesh.Holes;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Closes holes with one face each; the larger outlines of open sheets stay. */
public final class FillHoles extends BasicStep<FillHoles.Params> {
  private static final double LARGEST = 100_000;

  /**
   * @param largest diagonal of the box round the largest hole that is closed, in millimetres
   */
  public record Params(double largest) {
    public Params {
      Field.within("largest", largest, 0, LARGEST);
    }
  }

  public FillHoles() {
    super(
        Group.SURFACE,
        "fill",
        "Close holes",
        "Closes holes up to a size with one face each. Seams whose two sides stand at the same"
            + " place are no holes.",
        Params.class,
        true,
        Field.number(
            "largest",
            "Up to",
            "mm",
            0,
            LARGEST,
            100,
            "Corner to corner of the box round the hole."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    int[] closed = new int[1];
    Scene result =
        ChosenMeshes.of(scene, selection)
            .eachSized(
                progress,
                (mesh, metres) -> {
                  Holes.Result now = Holes.of(mesh).closed(params.largest() / 1000 / metres);
                  closed[0] += now.closed();
                  return now.mesh();
                });
    return StepResult.of(result, Figures.count(closed[0], "hole") + " closed");
  }
}
