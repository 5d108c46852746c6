package ferry.stone.core.handling.step.place;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Moves the scene or chosen parts up or down so that the lowest point is at height 0. */
public final class Ground extends BasicStep<Ground.Params> {

  /**
   * @param keep {@code moved} or {@code transform}, see {@link Centre.Params}
   */
  public record Params(String keep) {
    public Params {
      keep = Field.oneOf("keep", keep == null ? "moved" : keep, "moved", "transform");
    }
  }

  public Ground() {
    super(
        Group.PLACE,
        "ground",
        "Drop on the ground",
        "Moves everything, or the chosen parts, up or down until the lowest point is at 0.",
        Params.class,
        true,
        keepField());
  }

  static Field keepField() {
    return Field.choice(
        "keep",
        "Old place",
        "Kept in a part above, the picture stays and the parts' own numbers start at the origin.",
        "moved",
        "is left",
        "transform",
        "stays in a part above");
  }

  static Scene place(Scene scene, Selection selection, Vector3d move, String keep) {
    Matrix4d matrix = new Matrix4d().translation(move);
    if (keep.equals("moved")) {
      return Placement.moved(scene, selection, matrix);
    }
    if (!selection.isAll()) {
      throw new IllegalArgumentException(
          "The old place is kept for the whole scene only: choose no parts, or set their pivots");
    }
    return Placement.keptAsTransform(scene, matrix);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Bounds bounds = Placement.bounds(scene, selection);
    if (bounds.isEmpty()) {
      return StepResult.of(scene, "nothing to move");
    }
    SignedAxis up = scene.frame().up();
    double lowest = up.sign() > 0 ? bounds.min(up.index()) : -bounds.max(up.index());
    double metres = -lowest * scene.frame().metresPerUnit();
    return StepResult.of(
        place(scene, selection, up.vector().mul(-lowest), params.keep()),
        metres == 0
            ? "stands already"
            : (metres > 0 ? "up " : "down ") + Figures.length(Math.abs(metres)));
  }
}
