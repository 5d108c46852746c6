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

/** Makes the whole scene or chosen parts larger or smaller. */
public final class Scale extends BasicStep<Scale.Params> {
  static final Field ABOUT_CHOICE =
      Field.choice(
          "about",
          "About",
          "What stays where it is.",
          "origin",
          "the origin",
          "centre",
          "the middle",
          "base",
          "the middle of the base");

  private static final double LOWEST = 1e-6;
  private static final double HIGHEST = 1e6;

  /**
   * @param factor how many times larger; 0.000001 to 1 000 000
   * @param about {@code origin}, {@code centre} or {@code base} of the box: what stays
   */
  public record Params(double factor, String about) {
    public Params {
      if (!(factor >= LOWEST && factor <= HIGHEST)) {
        throw new IllegalArgumentException("factor must be 0.000001 to 1000000, not " + factor);
      }
      about = ABOUT_CHOICE.chosen(about);
    }
  }

  public Scale() {
    super(
        Group.PLACE,
        "scale",
        "Scale",
        "Makes everything, or the chosen parts, larger or smaller.",
        Params.class,
        true,
        Field.number(
            "factor", "Factor", "×", LOWEST, HIGHEST, 1, "2 is twice as large, 0.01 a hundredth."),
        ABOUT_CHOICE);
  }

  /** The point that stays. */
  static Vector3d fixed(Scene scene, Bounds bounds, String about) {
    if (about.equals("origin") || bounds.isEmpty()) {
      return new Vector3d();
    }
    Vector3d point = bounds.centre();
    if (about.equals("base")) {
      SignedAxis up = scene.frame().up();
      point.setComponent(
          up.index(), up.sign() > 0 ? bounds.min(up.index()) : bounds.max(up.index()));
    }
    return point;
  }

  static Scene scaled(Scene scene, Selection selection, double factor, Vector3d fixed) {
    Matrix4d move =
        new Matrix4d().translation(fixed).scale(factor).translate(new Vector3d(fixed).negate());
    return Placement.moved(scene, selection, move);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Vector3d fixed =
        fixed(
            scene,
            params.about().equals("origin") ? Bounds.EMPTY : Placement.bounds(scene, selection),
            params.about());
    return StepResult.of(
        scaled(scene, selection, params.factor(), fixed), "× " + Figures.plain(params.factor()));
  }
}
