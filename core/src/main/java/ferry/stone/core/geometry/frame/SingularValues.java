package ferry.stone.core.geometry.frame;

import org.joml.Matrix3d;
import org.joml.Vector3d;

/**
 * A 3×3 matrix A as U · Σ · Vᵀ, with rotations U and V and a scale Σ along the axes; the scale
 * along one axis is negative when A mirrors. One-sided Jacobi turns after Hestenes 1958, "Inversion
 * of matrices by biorthogonalization and related results" (from memory).
 *
 * @param u turns last
 * @param scale along x, y and z, in between
 * @param v its transpose turns first
 */
public record SingularValues(Matrix3d u, Vector3d scale, Matrix3d v) {
  private static final int MOST_SWEEPS = 60;
  private static final double RIGHT_ANGLE = 1e-15;

  /** Singular values under this part of the largest count as 0. */
  private static final double FLAT = 1e-14;

  public static SingularValues of(Matrix3d a) {
    Vector3d[] b = columns(a);
    Vector3d[] v = columns(new Matrix3d());
    boolean turned = true;
    for (int sweep = 0; turned && sweep < MOST_SWEEPS; sweep++) {
      turned = false;
      for (int p = 0; p < 2; p++) {
        for (int q = p + 1; q < 3; q++) {
          turned |= turn(b, v, p, q);
        }
      }
    }
    double largest = Math.max(b[0].length(), Math.max(b[1].length(), b[2].length()));
    Vector3d scale = new Vector3d();
    Vector3d[] u = new Vector3d[3];
    for (int i = 0; i < 3; i++) {
      double length = b[i].length();
      if (length > FLAT * largest) {
        scale.setComponent(i, length);
        u[i] = b[i].div(length, new Vector3d());
      }
    }
    complete(u);
    Matrix3d left = new Matrix3d(u[0], u[1], u[2]);
    Matrix3d right = new Matrix3d(v[0], v[1], v[2]);
    // Jacobi turns never mirror, so V is a rotation; a mirror is in U.
    if (left.determinant() < 0) {
      left.setColumn(2, u[2].negate());
      scale.z = -scale.z;
    }
    return new SingularValues(left, scale, right);
  }

  private static Vector3d[] columns(Matrix3d m) {
    return new Vector3d[] {
      m.getColumn(0, new Vector3d()), m.getColumn(1, new Vector3d()), m.getColumn(2, new Vector3d())
    };
  }

  /** Makes two columns stand at a right angle; whether they did not yet. */
  private static boolean turn(Vector3d[] b, Vector3d[] v, int p, int q) {
    double dot = b[p].dot(b[q]);
    double pp = b[p].lengthSquared();
    double qq = b[q].lengthSquared();
    if (dot == 0 || Math.abs(dot) <= RIGHT_ANGLE * Math.sqrt(pp * qq)) {
      return false;
    }
    double zeta = (qq - pp) / (2 * dot);
    double t = (zeta < 0 ? -1 : 1) / (Math.abs(zeta) + Math.sqrt(1 + zeta * zeta));
    double c = 1 / Math.sqrt(1 + t * t);
    rotate(b[p], b[q], c, c * t);
    rotate(v[p], v[q], c, c * t);
    return true;
  }

  private static void rotate(Vector3d p, Vector3d q, double c, double s) {
    Vector3d old = new Vector3d(p);
    p.mul(c).fma(-s, q);
    q.mul(c).fma(s, old);
  }

  /** Columns of a flat matrix have no direction: any that stand at right angles to the rest. */
  private static void complete(Vector3d[] u) {
    for (int i = 0; i < 3; i++) {
      if (u[i] != null) {
        continue;
      }
      Vector3d best = null;
      for (int axis = 0; axis < 3; axis++) {
        Vector3d d = new Vector3d();
        d.setComponent(axis, 1);
        for (Vector3d other : u) {
          if (other != null) {
            d.fma(-d.dot(other), other);
          }
        }
        best = best == null || d.lengthSquared() > best.lengthSquared() ? d : best;
      }
      u[i] = best.normalize();
    }
  }
}
