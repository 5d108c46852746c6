package ferry.stone.core.scene.node;

import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Quaterniond;
import org.joml.Quaterniondc;
import org.joml.Vector3d;
import org.joml.Vector3dc;

/** Where a node stands in its parent, in the form the source wrote it. */
public sealed interface LocalTransform {

  /** The transform that changes nothing. */
  LocalTransform IDENTITY = Trs.of(new Vector3d(), new Quaterniond(), new Vector3d(1));

  /** Column-vector matrix: points of the node to points of its parent. */
  Matrix4d toMatrix();

  /** A matrix that may shear. */
  record MatrixTransform(Matrix4dc matrix) implements LocalTransform {
    @Override
    public Matrix4d toMatrix() {
      return new Matrix4d(matrix);
    }
  }

  /** Translation · rotation · scale. */
  record Trs(Vector3dc translation, Quaterniondc rotation, Vector3dc scale)
      implements LocalTransform {
    public static Trs of(Vector3d translation, Quaterniond rotation, Vector3d scale) {
      return new Trs(translation, rotation, scale);
    }

    /** What comes nearest to a matrix; a mirror turns all three scales. */
    public static Trs nearest(Matrix4dc m) {
      Vector3d scale = m.getScale(new Vector3d());
      if (m.determinant3x3() < 0) {
        scale.negate();
      }
      Matrix4d turn = new Matrix4d(m).scale(part(scale.x), part(scale.y), part(scale.z));
      return Trs.of(
          m.getTranslation(new Vector3d()),
          turn.getNormalizedRotation(new Quaterniond()).normalize(),
          scale);
    }

    private static double part(double scale) {
      return scale == 0 ? 1 : 1 / scale;
    }

    @Override
    public Matrix4d toMatrix() {
      return new Matrix4d().translationRotateScale(translation, rotation, scale);
    }
  }

  /** In which order Euler angles turn: XYZ turns about X first. */
  enum EulerOrder {
    XYZ,
    XZY,
    YXZ,
    YZX,
    ZXY,
    ZYX;

    /** The rotation of angles in degrees about x, y and z. */
    public Quaterniond quaternion(Vector3dc degrees) {
      return quaternion(degrees, new Quaterniond());
    }

    /** The same into a quaternion that is there. */
    public Quaterniond quaternion(Vector3dc degrees, Quaterniond result) {
      double x = Math.toRadians(degrees.x());
      double y = Math.toRadians(degrees.y());
      double z = Math.toRadians(degrees.z());
      result.identity();
      // The first letter is applied to a point first, so it stands last in the product.
      return switch (this) {
        case XYZ -> x(y(z(result, z), y), x);
        case XZY -> x(z(y(result, y), z), x);
        case YXZ -> y(x(z(result, z), x), y);
        case YZX -> y(z(x(result, x), z), y);
        case ZXY -> z(x(y(result, y), x), z);
        case ZYX -> z(y(x(result, x), y), z);
      };
    }

    // Most joints turn about one axis or two: what does not turn costs nothing.

    private static Quaterniond x(Quaterniond q, double angle) {
      return angle == 0 ? q : q.rotateX(angle);
    }

    private static Quaterniond y(Quaterniond q, double angle) {
      return angle == 0 ? q : q.rotateY(angle);
    }

    private static Quaterniond z(Quaterniond q, double angle) {
      return angle == 0 ? q : q.rotateZ(angle);
    }

    /**
     * Angles in degrees about x, y and z that make a rotation. The middle one lies within ±90°;
     * where it is at its end the last one is 0. After Shoemake, "Euler angle conversion", Graphics
     * Gems IV (1994).
     */
    public Vector3d degrees(Quaterniondc rotation) {
      int i = name().charAt(0) - 'X';
      int j = name().charAt(1) - 'X';
      int k = name().charAt(2) - 'X';
      double parity = (j - i + 3) % 3 == 1 ? 1 : -1;
      Matrix3d m = new Matrix3d().set(rotation);
      // JOML's get(column, row).
      double cosine = Math.hypot(m.get(i, i), m.get(i, j));
      double a;
      double c;
      if (cosine > 1e-9) {
        a = Math.atan2(parity * m.get(j, k), m.get(k, k));
        c = Math.atan2(parity * m.get(i, j), m.get(i, i));
      } else {
        a = Math.atan2(-parity * m.get(k, j), m.get(j, j));
        c = 0;
      }
      double b = Math.atan2(-parity * m.get(i, k), cosine);
      Vector3d result = new Vector3d();
      result.setComponent(i, Math.toDegrees(a));
      result.setComponent(j, Math.toDegrees(b));
      result.setComponent(k, Math.toDegrees(c));
      return result;
    }
  }

  /** How the parent's scale comes down to a child. */
  enum ScaleInheritance {
    /** Parent rotation, parent scale, child rotation, child scale: plain matrices. */
    NORMAL,
    /** Rotations first, then both scales. */
    AFTER_ROTATION,
    /** The parent's own scale is not passed on. */
    NONE
  }

  /**
   * {@code T · Roff · Rp · Rpre · R · Rpost⁻¹ · Rp⁻¹ · Soff · Sp · S · Sp⁻¹}; angles in degrees.
   *
   * @param order order of {@code rotation}; pre and post rotations are always XYZ
   */
  record PivotTransform(
      Vector3dc translation,
      Vector3dc rotationOffset,
      Vector3dc rotationPivot,
      Vector3dc preRotation,
      Vector3dc rotation,
      Vector3dc postRotation,
      Vector3dc scalingOffset,
      Vector3dc scalingPivot,
      Vector3dc scaling,
      EulerOrder order,
      ScaleInheritance inheritance)
      implements LocalTransform {

    /** Translation, rotation in an order and scale, with pivots at the origin. */
    public static PivotTransform clean(
        Vector3dc translation, Vector3dc degrees, EulerOrder order, Vector3dc scale) {
      Vector3d none = new Vector3d();
      return new PivotTransform(
          translation,
          none,
          none,
          none,
          degrees,
          none,
          none,
          none,
          scale,
          order,
          ScaleInheritance.NORMAL);
    }

    public PivotTransform withTranslation(Vector3dc newTranslation) {
      return with(newTranslation, rotation, scaling);
    }

    /** The same pivots with other translation, rotation in degrees, and scaling. */
    public PivotTransform with(Vector3dc t, Vector3dc degrees, Vector3dc s) {
      return new PivotTransform(
          t,
          rotationOffset,
          rotationPivot,
          preRotation,
          degrees,
          postRotation,
          scalingOffset,
          scalingPivot,
          s,
          order,
          inheritance);
    }

    @Override
    public Matrix4d toMatrix() {
      return new Matrix4d()
          .translate(translation)
          .translate(rotationOffset)
          .translate(rotationPivot)
          .rotate(EulerOrder.XYZ.quaternion(preRotation))
          .rotate(order.quaternion(rotation))
          .rotate(EulerOrder.XYZ.quaternion(postRotation).invert())
          .translate(new Vector3d(rotationPivot).negate())
          .translate(scalingOffset)
          .translate(scalingPivot)
          .scale(scaling)
          .translate(new Vector3d(scalingPivot).negate());
    }
  }

  /**
   * A transform whose place in the parent is not its own product, since scale comes down to it by a
   * rule of its own.
   *
   * @param own as the source wrote it
   * @param matrix where it stands in the parent under that rule
   */
  record InheritedTransform(PivotTransform own, Matrix4dc matrix) implements LocalTransform {
    @Override
    public Matrix4d toMatrix() {
      return new Matrix4d(matrix);
    }
  }
}
