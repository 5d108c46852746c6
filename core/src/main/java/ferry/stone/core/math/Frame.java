package ferry.stone.core.math;

import java.util.Objects;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * The coordinate frame that a scene's numbers are written in.
 *
 * @param metresPerUnit how long one unit is, in metres; finite and above zero
 * @param up the direction away from the ground
 * @param front the direction the asset looks to; not along {@code up}
 * @param handedness whether X × Y is +Z
 */
public record Frame(double metresPerUnit, SignedAxis up, SignedAxis front, Handedness handedness) {

  /** Y up, front +Z, metre, right-handed: the frame of glTF 2.0, section 3.4. */
  public static final Frame Y_UP_METRE =
      new Frame(1.0, SignedAxis.PLUS_Y, SignedAxis.PLUS_Z, Handedness.RIGHT);

  public Frame {
    Objects.requireNonNull(up, "up");
    Objects.requireNonNull(front, "front");
    Objects.requireNonNull(handedness, "handedness");
    if (!(metresPerUnit > 0) || Double.isInfinite(metresPerUnit)) {
      throw new IllegalArgumentException("metres per unit must be above zero: " + metresPerUnit);
    }
    if (up.index() == front.index()) {
      throw new IllegalArgumentException("front and up lie on one axis: " + up + ", " + front);
    }
  }

  public Frame withMetresPerUnit(double metres) {
    return new Frame(metres, up, front, handedness);
  }

  /**
   * The same frame with another up axis. The front is chosen as the custom for that axis: +Z under
   * ±Y, −Y under ±Z, +Z under ±X, so that turning Z up into Y up is −90° about X.
   */
  public Frame withUp(SignedAxis newUp) {
    SignedAxis newFront = newUp.index() == 2 ? SignedAxis.MINUS_Y : SignedAxis.PLUS_Z;
    if (newUp == SignedAxis.MINUS_Z) {
      newFront = SignedAxis.PLUS_Y;
    }
    return new Frame(metresPerUnit, newUp, newFront, handedness);
  }

  /** The direction to the asset's own left hand: up × front in a right-handed frame. */
  public Vector3d side() {
    Vector3d side = up.vector().cross(front.vector());
    return handedness == Handedness.RIGHT ? side : side.negate();
  }

  /** Rotation or mirror that carries directions of this frame to the target frame. */
  public Matrix3d basisTo(Frame target) {
    Matrix3d from = new Matrix3d(side(), up.vector(), front.vector());
    Matrix3d to = new Matrix3d(target.side(), target.up.vector(), target.front.vector());
    Matrix3d result = to.mul(from.transpose(new Matrix3d()), new Matrix3d());
    // Axes only: every entry is −1, 0 or 1. The sum with zero turns −0 into 0.
    for (int column = 0; column < 3; column++) {
      for (int row = 0; row < 3; row++) {
        result.set(column, row, Math.rint(result.get(column, row)) + 0.0);
      }
    }
    return result;
  }

  /** Scale that carries lengths of this frame to the target frame. */
  public double scaleTo(Frame target) {
    return metresPerUnit / target.metresPerUnit;
  }

  /** Basis and scale in one matrix: points of this frame to points of the target frame. */
  public Matrix4d matrixTo(Frame target) {
    return new Matrix4d().set(basisTo(target).scale(scaleTo(target)));
  }

  /** Words for people: {@code Y up · metre · right-handed}. */
  public String label() {
    String unit =
        LengthUnit.ofMetres(metresPerUnit)
            .map(LengthUnit::word)
            .orElseGet(() -> Figures.plain(metresPerUnit) + " m");
    return up.label() + " up · " + unit + " · " + handedness.name().toLowerCase() + "-handed";
  }
}
