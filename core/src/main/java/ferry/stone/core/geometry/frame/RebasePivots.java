package ferry.stone.core.geometry.frame;

import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.joml.Vector3dc;

/**
 * Carries transforms with pivots, and keys of their angles, through a change of frame that takes
 * axes to axes. Angles go to the axis that theirs becomes, turned round with it and by a mirror;
 * the order of turning follows. Pre- and post-rotations, whose order is fixed, are worked out anew.
 */
final class RebasePivots {
  private final Matrix4d linear;
  private final Matrix3d directions;
  private final double hand;

  /**
   * @param linear the change without its translation
   * @param directions its rotation or mirror alone
   */
  RebasePivots(Matrix4d linear, Matrix3d directions) {
    this.linear = linear;
    this.directions = directions;
    hand = Math.signum(directions.determinant());
  }

  /** Which axis an axis becomes. */
  int axis(int from) {
    for (int to = 0; to < 3; to++) {
      if (Math.abs(directions.get(from, to)) > 0.5) {
        return to;
      }
    }
    return from;
  }

  /** Whether an axis becomes one (1) or the opposite of one (−1). */
  double sign(int from) {
    return Math.signum(directions.get(from, axis(from)));
  }

  /** What an angle about an axis is multiplied by. */
  double angleSign(int from) {
    return hand * sign(from);
  }

  PivotTransform apply(PivotTransform p) {
    return new PivotTransform(
        moved(p.translation()),
        moved(p.rotationOffset()),
        moved(p.rotationPivot()),
        turned(p.preRotation()),
        angles(p.rotation()),
        turned(p.postRotation()),
        moved(p.scalingOffset()),
        moved(p.scalingPivot()),
        swapped(p.scaling()),
        order(p.order()),
        p.inheritance());
  }

  private Vector3d moved(Vector3dc v) {
    return linear.transformDirection(new Vector3d(v));
  }

  private Vector3d angles(Vector3dc degrees) {
    Vector3d result = new Vector3d();
    for (int from = 0; from < 3; from++) {
      result.setComponent(axis(from), angleSign(from) * degrees.get(from) + 0.0);
    }
    return result;
  }

  private Vector3d swapped(Vector3dc scale) {
    Vector3d result = new Vector3d();
    for (int from = 0; from < 3; from++) {
      result.setComponent(axis(from), scale.get(from));
    }
    return result;
  }

  private EulerOrder order(EulerOrder order) {
    StringBuilder name = new StringBuilder();
    for (int i = 0; i < 3; i++) {
      name.append((char) ('X' + axis(order.name().charAt(i) - 'X')));
    }
    return EulerOrder.valueOf(name.toString());
  }

  /** The same turn about the new axes, as angles about x, y and z in turn. */
  private Vector3d turned(Vector3dc degrees) {
    if (degrees.lengthSquared() == 0) {
      return new Vector3d();
    }
    if (order(EulerOrder.XYZ) == EulerOrder.XYZ) {
      return angles(degrees);
    }
    Quaterniond q = EulerOrder.XYZ.quaternion(degrees);
    Vector3d axis = directions.transform(new Vector3d(q.x, q.y, q.z)).mul(hand);
    return EulerOrder.XYZ.degrees(new Quaterniond(axis.x, axis.y, axis.z, q.w));
  }
}
