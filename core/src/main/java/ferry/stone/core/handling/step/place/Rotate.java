package ferry.stone.core.handling.step.place;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepKind;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.List;
import org.joml.Matrix4d;

/**
 * Turns the whole scene or chosen parts about an axis of the far side, through the origin,
 * counter-clockwise seen from the axis' tip.
 */
public final class Rotate implements StepKind<Rotate.Params> {
  private static final double MOST = 360;

  /** Axis {@code x}, {@code y} or {@code z} of the far side, and degrees from −360 to 360. */
  public record Params(String axis, double degrees) {
    public Params {
      if (SignedAxis.parse(axis).filter(a -> a.sign() > 0).isEmpty()) {
        throw new IllegalArgumentException("axis must be x, y or z, not \"" + axis + "\"");
      }
      if (!(Math.abs(degrees) <= MOST)) {
        throw new IllegalArgumentException("degrees must be −360 to 360, not " + degrees);
      }
    }
  }

  @Override
  public String kind() {
    return "rotate";
  }

  @Override
  public String label() {
    return "Rotate";
  }

  @Override
  public String help() {
    return "Turns everything, or the chosen parts, about an axis of the far side.";
  }

  @Override
  public Group group() {
    return Group.PLACE;
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
    return List.of(
        Field.choice(
            "axis",
            "Axis",
            List.of(
                new Field.Option("x", "X, to the left hand"),
                new Field.Option("y", "Y, up"),
                new Field.Option("z", "Z, to the front")),
            "y",
            "The axis to turn about."),
        Field.number("degrees", "Angle", "°", -MOST, MOST, 90, "Above 0 is counter-clockwise."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    SignedAxis axis = SignedAxis.parse(params.axis()).orElseThrow();
    Matrix4d turn = new Matrix4d().rotation(Math.toRadians(params.degrees()), axis.vector());
    clean(turn);
    return StepResult.of(
        Placement.moved(scene, selection, Placement.fromView(scene, turn)),
        Figures.plain(params.degrees()) + "° about " + axis.label());
  }

  /** Quarter turns to the last digit: sine and cosine leave 6e-17 where 0 is meant. */
  private static void clean(Matrix4d m) {
    for (int column = 0; column < 3; column++) {
      for (int row = 0; row < 3; row++) {
        double v = m.get(column, row);
        if (Math.abs(v - Math.rint(v)) < 1e-15) {
          m.set(column, row, Math.rint(v) + 0.0);
        }
      }
    }
  }
}
