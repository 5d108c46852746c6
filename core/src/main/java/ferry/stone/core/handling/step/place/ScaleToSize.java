package ferry.stone.core.handling.step.place;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Scales so that one side of the box has a given length. */
public final class ScaleToSize extends BasicStep<ScaleToSize.Params> {
  private static final Field SIDE_CHOICE =
      Field.choice(
          "side",
          "Side",
          "Which side of the box gets that length.",
          "height",
          "height",
          "width",
          "width",
          "depth",
          "depth",
          "largest",
          "the largest");

  private static final double LOWEST = 1e-4;
  private static final double HIGHEST = 1e5;

  /**
   * @param size wanted length in metres, 0.0001 to 100 000
   * @param side {@code height}, {@code width}, {@code depth} or {@code largest}
   * @param about what stays, see {@link Scale.Params}
   */
  public record Params(double size, String side, String about) {
    public Params {
      if (!(size >= LOWEST && size <= HIGHEST)) {
        throw new IllegalArgumentException("size must be 0.0001 m to 100000 m, not " + size);
      }
      side = side == null ? "height" : side;
      SIDE_CHOICE.checked(side);
      about = Scale.ABOUT_CHOICE.chosen(about);
    }
  }

  public ScaleToSize() {
    super(
        Group.PLACE,
        "scaleTo",
        "Scale to a size",
        "Makes everything, or the chosen parts, so large that one side has the length you give.",
        Params.class,
        true,
        Field.number("size", "Length", "m", LOWEST, HIGHEST, 1.75, "Wanted length of the side."),
        SIDE_CHOICE,
        Scale.ABOUT_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Bounds bounds = Placement.bounds(scene, selection);
    double now = bounds.isEmpty() ? 0 : side(scene, bounds, params.side());
    double metres = now * scene.frame().metresPerUnit();
    if (!(metres > 0)) {
      throw new IllegalArgumentException(
          "The " + params.side() + " is 0, so no scale gives it a length. Choose another side");
    }
    double factor = params.size() / metres;
    return StepResult.of(
        Scale.scaled(scene, selection, factor, Scale.fixed(scene, bounds, params.about())),
        Figures.length(metres)
            + " → "
            + Figures.length(params.size())
            + " · × "
            + Figures.plain(factor));
  }

  private static double side(Scene scene, Bounds bounds, String side) {
    int up = scene.frame().up().index();
    int front = scene.frame().front().index();
    return switch (side) {
      case "height" -> bounds.size(up);
      case "depth" -> bounds.size(front);
      case "width" -> bounds.size(3 - up - front);
      default -> Math.max(bounds.size(0), Math.max(bounds.size(1), bounds.size(2)));
    };
  }
}
