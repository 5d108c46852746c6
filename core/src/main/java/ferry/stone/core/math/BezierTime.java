package ferry.stone.core.math;

/** Bézier curves of time and value, whose times rise from 0 to 1. */
public final class BezierTime {
  private BezierTime() {}

  /**
   * Where along the curve its time is {@code part}: time rises along it, so halving finds it.
   *
   * @param x1 time of the second point
   * @param x2 time of the third point
   */
  public static double solve(double part, double x1, double x2) {
    double low = 0;
    double high = 1;
    for (int i = 0; i < 60; i++) {
      double u = (low + high) / 2;
      if (value(u, 0, x1, x2, 1) < part) {
        low = u;
      } else {
        high = u;
      }
    }
    return (low + high) / 2;
  }

  /** The value at a place along the curve, by its four points. */
  public static double value(double u, double a, double b, double c, double d) {
    double v = 1 - u;
    return v * v * v * a + 3 * v * v * u * b + 3 * v * u * u * c + u * u * u * d;
  }
}
