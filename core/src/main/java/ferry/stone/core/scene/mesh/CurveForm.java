package ferry.stone.core.scene.mesh;

import java.util.Arrays;

/**
 * What the polylines of a mesh are, when they are the control points of curves.
 *
 * @param basis how a curve follows its control points
 * @param degree 1 to 9; 3 for B-splines and Catmull-Rom splines without knots
 * @param knots of all curves one after another, a curve of n points has n + degree + 1; {@code
 *     null} unless the basis is {@link Basis#NURBS}
 * @param weights of the control points, as {@link LooseElements#lineVertices()}; {@code null} where
 *     all are 1
 */
public record CurveForm(Basis basis, int degree, double[] knots, double[] weights) {
  public static final int MOST_DEGREE = 9;

  /** How a curve follows its control points. */
  public enum Basis {
    /** Bézier pieces that share their end points. */
    BEZIER,
    /** A uniform B-spline; it does not reach its first and last control points. */
    BSPLINE,
    /** Through all control points but the first and last. */
    CATMULL_ROM,
    /** With knots. */
    NURBS
  }

  public CurveForm {
    boolean cubic = basis == Basis.BSPLINE || basis == Basis.CATMULL_ROM;
    if (degree < 1 || degree > MOST_DEGREE || cubic && degree != 3) {
      throw new IllegalArgumentException(basis + " of degree " + degree);
    }
    if ((basis == Basis.NURBS) != (knots != null)) {
      throw new IllegalArgumentException(basis + (knots == null ? " without" : " with") + " knots");
    }
  }

  /** Whether two say the same apart from knots and weights. */
  public boolean isLike(CurveForm other) {
    return other != null && basis == other.basis && degree == other.degree;
  }

  /** The knots of a curve. */
  public double[] knots(LooseElements loose, int line) {
    int from = loose.lineOffsets()[line] + line * (degree + 1);
    int to = loose.lineOffsets()[line + 1] + (line + 1) * (degree + 1);
    return Arrays.copyOfRange(knots, from, to);
  }
}
