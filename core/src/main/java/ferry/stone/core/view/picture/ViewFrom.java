package ferry.stone.core.view.picture;

/** Where a picture is taken from, in a scene with Y up that looks along Z. */
public enum ViewFrom {
  CORNER(35, 20),
  FRONT(0, 0),
  RIGHT(90, 0),
  BACK(180, 0),
  LEFT(270, 0),
  TOP(0, 89);

  private final double turnDegrees;
  private final double riseDegrees;

  ViewFrom(double turnDegrees, double riseDegrees) {
    this.turnDegrees = turnDegrees;
    this.riseDegrees = riseDegrees;
  }

  /** About the up axis, from the front to the right. */
  double turn() {
    return StrictMath.toRadians(turnDegrees);
  }

  /** Above the horizon. */
  double rise() {
    return StrictMath.toRadians(riseDegrees);
  }
}
