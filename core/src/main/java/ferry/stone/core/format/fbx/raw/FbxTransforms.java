package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.ScaleInheritance;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** Transforms of a model: {@code T·Roff·Rp·Rpre·R·Rpost⁻¹·Rp⁻¹·Soff·Sp·S·Sp⁻¹}. */
public final class FbxTransforms {
  private static final EulerOrder[] ORDERS = {
    EulerOrder.XYZ, EulerOrder.XZY, EulerOrder.YZX, EulerOrder.YXZ, EulerOrder.ZXY, EulerOrder.ZYX
  };

  private FbxTransforms() {}

  /** The transform at rest. Pre- and post-rotation and the order count when the file says so. */
  public static PivotTransform rest(FbxProperties p) {
    boolean active = p.flag("RotationActive", false);
    int order = active ? (int) p.number("RotationOrder", 0) : 0;
    ScaleInheritance inheritance =
        switch ((int) p.number("InheritType", 0)) {
          case 1 -> ScaleInheritance.NORMAL;
          case 2 -> ScaleInheritance.NONE;
          default -> ScaleInheritance.AFTER_ROTATION;
        };
    Vector3d nothing = new Vector3d();
    return new PivotTransform(
        finite(p.vector("Lcl Translation", 0), 0),
        finite(p.vector("RotationOffset", 0), 0),
        finite(p.vector("RotationPivot", 0), 0),
        active ? finite(p.vector("PreRotation", 0), 0) : nothing,
        finite(p.vector("Lcl Rotation", 0), 0),
        active ? finite(p.vector("PostRotation", 0), 0) : nothing,
        finite(p.vector("ScalingOffset", 0), 0),
        finite(p.vector("ScalingPivot", 0), 0),
        finite(p.vector("Lcl Scaling", 1), 1),
        order >= 0 && order < ORDERS.length ? ORDERS[order] : EulerOrder.XYZ,
        inheritance);
  }

  /** The format's number of an order of turning. */
  public static int orderNumber(EulerOrder order) {
    return java.util.Arrays.asList(ORDERS).indexOf(order);
  }

  /** The format's number of a way of inheriting scale. */
  public static int inheritNumber(ScaleInheritance inheritance) {
    return switch (inheritance) {
      case AFTER_ROTATION -> 0;
      case NORMAL -> 1;
      case NONE -> 2;
    };
  }

  private static Vector3d finite(Vector3d v, double otherwise) {
    return v.isFinite() ? v : new Vector3d(otherwise);
  }

  /** What a model applies to what it shows alone. */
  public static LocalTransform geometric(FbxProperties p) {
    Vector3d t = finite(p.vector("GeometricTranslation", 0), 0);
    Vector3d r = finite(p.vector("GeometricRotation", 0), 0);
    Vector3d s = finite(p.vector("GeometricScaling", 1), 1);
    if (t.lengthSquared() == 0 && r.lengthSquared() == 0 && s.equals(1, 1, 1)) {
      return LocalTransform.IDENTITY;
    }
    return Trs.of(t, EulerOrder.XYZ.quaternion(r), s);
  }

  /** The rotation of a model alone, with its pre- and post-rotation. */
  private static Quaterniond turn(PivotTransform p) {
    return EulerOrder.XYZ
        .quaternion(p.preRotation())
        .mul(p.order().quaternion(p.rotation()))
        .mul(EulerOrder.XYZ.quaternion(p.postRotation()).invert());
  }

  /**
   * World rotation, what is left of the world matrix without it, and the place of each model under
   * a parent: scale comes down as the model's inheritance says.
   *
   * @param rotation of the world matrix
   * @param scale what the world matrix has besides, its upper 3 × 3 part
   * @param ownScale the model's own scaling
   */
  public record World(Matrix4d matrix, Quaterniond rotation, Matrix4d scale, Vector3d ownScale) {}

  public static World world(World parent, PivotTransform own) {
    Matrix4d local = own.toMatrix();
    Matrix4d above = parent == null ? new Matrix4d() : parent.matrix();
    Quaterniond aboveTurn = parent == null ? new Quaterniond() : parent.rotation();
    Matrix4d aboveScale = parent == null ? new Matrix4d() : parent.scale();
    Quaterniond turn = turn(own);
    Matrix4d scaling = new Matrix4d().scaling(own.scaling());
    Matrix4d linear = new Matrix4d().rotation(aboveTurn);
    switch (own.inheritance()) {
      case NORMAL -> linear.mul(aboveScale).rotate(turn).mul(scaling);
      case AFTER_ROTATION -> linear.rotate(turn).mul(aboveScale).mul(scaling);
      default -> {
        // The parent's own scale is not passed on.
        Vector3d up = parent == null ? new Vector3d(1) : parent.ownScale();
        Matrix4d without =
            new Matrix4d(aboveScale).scale(inverse(up.x), inverse(up.y), inverse(up.z));
        linear.rotate(turn).mul(without).mul(scaling);
      }
    }
    Vector3d place = above.transformPosition(local.getTranslation(new Vector3d()));
    Matrix4d matrix = new Matrix4d(linear).setTranslation(place);
    Quaterniond worldTurn = new Quaterniond(aboveTurn).mul(turn);
    Matrix4d rest = new Matrix4d().rotation(worldTurn).invert().mul(linear);
    return new World(matrix, worldTurn, rest, new Vector3d(own.scaling()));
  }

  private static double inverse(double v) {
    return v == 0 ? 1 : 1 / v;
  }
}
