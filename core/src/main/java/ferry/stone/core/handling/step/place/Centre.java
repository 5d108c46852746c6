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
  private static final Field WHAT_CHOICE =
      Field.choice(
          "what",
          "Move",
          "Whether the height changes too.",
          "ground",
          "over the origin, height kept",
          "all",
          "onto the origin");

  /**
   * @param what {@code ground}: over the origin, height kept; {@code all}: onto the origin
   * @param parts {@code together}: the box of all of them; {@code each}: each by its own
   * @param keep {@code moved}: parts stand at the new place; {@code transform}: their numbers are
   *     centred, and a part above them or each part's own transform keeps the old place
   */
  public record Params(String what, String parts, String keep) {
    public Params {
      parts = Ground.PARTS_CHOICE.chosen(parts);
      WHAT_CHOICE.checked(what);
      keep = Ground.KEEP_CHOICE.chosen(keep);
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
        WHAT_CHOICE,
        Ground.PARTS_CHOICE,
        Ground.KEEP_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    if (params.parts().equals("each")) {
      return EachPart.moved(
          scene, selection, params.keep(), axes(scene, params), box -> box.centre());
    }
    Bounds bounds = Placement.bounds(scene, selection);
    if (bounds.isEmpty()) {
      return StepResult.of(scene, "nothing to move");
    }
    Vector3d move = bounds.centre().negate();
    boolean[] axes = axes(scene, params);
    for (int k = 0; k < 3; k++) {
      move.setComponent(k, axes[k] ? move.get(k) : 0);
    }
    return StepResult.of(
        Ground.place(scene, selection, move, params.keep()),
        "moved " + Figures.length(move.length() * scene.frame().metresPerUnit()));
  }

  private static boolean[] axes(Scene scene, Params params) {
    boolean[] axes = {true, true, true};
    axes[scene.frame().up().index()] = params.what().equals("all");
    return axes;
  }
}
