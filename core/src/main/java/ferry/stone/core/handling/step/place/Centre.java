package ferry.stone.core.handling.step.place;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import org.joml.Vector3d;

/** Moves the middle of a box onto the origin, or over it. */
public final class Centre extends BasicStep<Centre.Params> {

  /**
   * @param what {@code ground}: over the origin, height kept; {@code all}: onto the origin
   * @param keep {@code moved}: parts stand at the new place; {@code transform}: their numbers are
   *     centred and a part above them keeps the old place
   */
  public record Params(String what, String keep) {
    public Params {
      Field.oneOf("what", what, "ground", "all");
      keep = Field.oneOf("keep", keep == null ? "moved" : keep, "moved", "transform");
    }
  }

  public Centre() {
    super(
        Group.PLACE,
        "centre",
        "Centre",
        "Moves the middle of everything, or of the chosen parts, to the origin.",
        Params.class,
        true,
        Field.choice(
            "what",
            "Move",
            "Whether the height changes too.",
            "ground",
            "over the origin, height kept",
            "all",
            "onto the origin"),
        Ground.keepField());
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Bounds bounds = Placement.bounds(scene, selection);
    if (bounds.isEmpty()) {
      return StepResult.of(scene, "nothing to move");
    }
    Vector3d move = bounds.centre().negate();
    if (params.what().equals("ground")) {
      move.setComponent(scene.frame().up().index(), 0);
    }
    return StepResult.of(
        Ground.place(scene, selection, move, params.keep()),
        "moved " + Figures.length(move.length() * scene.frame().metresPerUnit()));
  }
}
