package ferry.stone.core.format.usd.layer.spline;

import java.util.List;

/**
 * A curve over time codes as a layer has it.
 *
 * @param hermite whether its curved segments have slopes alone; else they are Bézier curves whose
 *     tangents have widths too
 * @param before how it goes on before its first knot
 * @param after how it goes on after its last one
 * @param loop which of its knots are repeated, {@code null} for none
 * @param knots by rising time
 */
public record UsdSpline(boolean hermite, Beyond before, Beyond after, Loop loop, List<Knot> knots) {

  public UsdSpline {
    knots = List.copyOf(knots);
  }

  /** What is between a knot and the next. Their order is that of crates. */
  public enum Segment {
    NONE,
    HELD,
    LINEAR,
    CURVE
  }

  /** How a curve goes on where it has no knots. Their order is that of crates. */
  public enum Way {
    NONE,
    HELD,
    LINEAR,
    SLOPED,
    REPEAT,
    RESET,
    OSCILLATE;

    public boolean loops() {
      return this == REPEAT || this == RESET || this == OSCILLATE;
    }
  }

  /**
   * @param slope of {@link Way#SLOPED}, else 0
   */
  public record Beyond(Way way, double slope) {
    public static final Beyond HELD = new Beyond(Way.HELD, 0);
  }

  /**
   * The knots from {@code start} up to {@code end} are said again.
   *
   * @param before how many times before them
   * @param after how many times after them
   * @param offset added with each time
   */
  public record Loop(double start, double end, int before, int after, double offset) {}

  /**
   * @param before the value that it comes from, the same as {@code value} where it does not jump
   * @param jumps whether it has two values
   * @param beforeWidth in time codes
   * @param beforeSlope a value for a time code
   * @param beforeEase how its tangent is found, 0 for nothing said, as crates have it
   */
  public record Knot(
      double time,
      double value,
      double before,
      boolean jumps,
      Segment next,
      double beforeWidth,
      double beforeSlope,
      int beforeEase,
      double afterWidth,
      double afterSlope,
      int afterEase) {
    /** How tangents can be found. Their order is that of crates. */
    public static final List<String> EASES = List.of("", "custom", "autoEase");

    Knot moved(double times, double values) {
      return new Knot(
          time + times,
          value + values,
          before + values,
          jumps,
          next,
          beforeWidth,
          beforeSlope,
          beforeEase,
          afterWidth,
          afterSlope,
          afterEase);
    }
  }
}
