package ferry.stone.core.scene;

import java.util.List;
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
      Quaterniond result = new Quaterniond();
      // Later axes multiply from the left: the first letter is applied to the point first.
      for (int i = 0; i < 3; i++) {
        int axis = name().charAt(i) - 'X';
        Vector3d direction = new Vector3d().setComponent(axis, 1);
        result.premul(
            new Quaterniond().fromAxisAngleRad(direction, Math.toRadians(degrees.get(axis))));
      }
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

  /** A list of operations, the first outermost; their names are kept. */
  record OpList(List<Op> ops, boolean resetsStack) implements LocalTransform {
    public OpList {
      ops = List.copyOf(ops);
    }

    @Override
    public Matrix4d toMatrix() {
      Matrix4d result = new Matrix4d();
      ops.forEach(op -> result.mul(op.matrix()));
      return result;
    }

    /** One operation under its written name. */
    public record Op(String name, Matrix4dc matrix) {}
  }
}
