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
  static final Field KEEP_CHOICE =
      Field.choice(
          "keep",
          "Old place",
          "Kept, the picture stays and the numbers start at the origin: those of everything in a"
              + " part above, those of each part by itself in its own transform.",
          "moved",
          "is left",
          "transform",
          "is kept");

  static final Field PARTS_CHOICE =
      Field.choice(
          "parts",
          "Parts",
          "Whether the chosen parts move as one, or each by its own box. Choosing none means every"
              + " mesh.",
          "together",
          "together",
          "each",
          "each by itself");

  /**
   * @param parts {@code together} or {@code each}
   * @param keep {@code moved} or {@code transform}, see {@link Centre.Params}
   */
  public record Params(String parts, String keep) {
    public Params {
      parts = PARTS_CHOICE.chosen(parts);
      keep = KEEP_CHOICE.chosen(keep);
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
        PARTS_CHOICE,
        KEEP_CHOICE);
  }

  static Scene place(Scene scene, Selection selection, Vector3d move, String keep) {
    Matrix4d matrix = new Matrix4d().translation(move);
    if (keep.equals("moved")) {
      return Placement.moved(scene, selection, matrix);
    }
    if (!selection.isAll()) {
      throw new IllegalArgumentException(
          "The old place of parts together is kept for the whole scene only: choose no parts, or"
              + " take each by itself");
    }
    return Placement.keptAsTransform(scene, matrix);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    SignedAxis up = scene.frame().up();
    if (params.parts().equals("each")) {
      boolean[] axes = new boolean[3];
      axes[up.index()] = true;
      return EachPart.moved(
          scene, selection, params.keep(), axes, box -> up.vector().mul(lowest(box, up)));
    }
    Bounds bounds = Placement.bounds(scene, selection);
    if (bounds.isEmpty()) {
      return StepResult.of(scene, "nothing to move");
    }
    double lowest = lowest(bounds, up);
    double metres = -lowest * scene.frame().metresPerUnit();
    return StepResult.of(
        place(scene, selection, up.vector().mul(-lowest), params.keep()),
        metres == 0
            ? "stands already"
            : (metres > 0 ? "up " : "down ") + Figures.length(Math.abs(metres)));
  }

  private static double lowest(Bounds box, SignedAxis up) {
    return up.sign() > 0 ? box.min(up.index()) : -box.max(up.index());
  }
}
