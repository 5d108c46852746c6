package ferry.stone.core.math;

import org.joml.Matrix4dc;
import org.joml.Vector3d;

/**
 * An axis-aligned box. An empty box has {@code min > max} and no size.
 *
 * @param minX lowest x; the others alike, in units of the scene it was measured in
 */
public record Bounds(double minX, double minY, double minZ, double maxX, double maxY, double maxZ) {

  public static final Bounds EMPTY =
      new Bounds(
          Double.POSITIVE_INFINITY,
          Double.POSITIVE_INFINITY,
          Double.POSITIVE_INFINITY,
          Double.NEGATIVE_INFINITY,
          Double.NEGATIVE_INFINITY,
          Double.NEGATIVE_INFINITY);

  /** Around {@code double[3*n]}. */
  public static Bounds of(double[] points) {
    double[] box = {
      Double.POSITIVE_INFINITY,
      Double.POSITIVE_INFINITY,
      Double.POSITIVE_INFINITY,
      Double.NEGATIVE_INFINITY,
      Double.NEGATIVE_INFINITY,
      Double.NEGATIVE_INFINITY
    };
    for (int i = 0; i < points.length; i++) {
      int axis = i % 3;
      box[axis] = Math.min(box[axis], points[i]);
      box[3 + axis] = Math.max(box[3 + axis], points[i]);
    }
    return new Bounds(box[0], box[1], box[2], box[3], box[4], box[5]);
  }

  public boolean isEmpty() {
    return !(minX <= maxX && minY <= maxY && minZ <= maxZ);
  }

  public double min(int axis) {
    return axis == 0 ? minX : axis == 1 ? minY : minZ;
  }

  public double max(int axis) {
    return axis == 0 ? maxX : axis == 1 ? maxY : maxZ;
  }

  public double size(int axis) {
    return isEmpty() ? 0 : max(axis) - min(axis);
  }

  /** Length of the diagonal; 0 when empty. Tolerances are stated as parts of it. */
  public double diagonal() {
    double x = size(0);
    double y = size(1);
    double z = size(2);
    return Math.sqrt(x * x + y * y + z * z);
  }

  /** The largest coordinate, whatever its sign: 32-bit numbers round by a part of it. */
  public double farthest() {
    double low = Math.min(minX, Math.min(minY, minZ));
    double high = Math.max(maxX, Math.max(maxY, maxZ));
    return isEmpty() ? 0 : Math.max(-low, high);
  }

  public Vector3d centre() {
    return new Vector3d((minX + maxX) / 2, (minY + maxY) / 2, (minZ + maxZ) / 2);
  }

  /** How far a point lies outside; 0 inside. */
  public double distance(Vector3d p) {
    double sum = 0;
    for (int axis = 0; axis < 3; axis++) {
      double off = Math.max(0, Math.max(min(axis) - p.get(axis), p.get(axis) - max(axis)));
      sum += off * off;
    }
    return Math.sqrt(sum);
  }

  public Bounds union(Bounds o) {
    return new Bounds(
        Math.min(minX, o.minX),
        Math.min(minY, o.minY),
        Math.min(minZ, o.minZ),
        Math.max(maxX, o.maxX),
        Math.max(maxY, o.maxY),
        Math.max(maxZ, o.maxZ));
  }

  /** The box around the eight transformed corners: exact when the matrix only permutes axes. */
  public Bounds transform(Matrix4dc matrix) {
    if (isEmpty()) {
      return this;
    }
    Bounds result = EMPTY;
    Vector3d p = new Vector3d();
    for (int corner = 0; corner < 8; corner++) {
      p.set(
          (corner & 1) == 0 ? minX : maxX,
          (corner & 2) == 0 ? minY : maxY,
          (corner & 4) == 0 ? minZ : maxZ);
      matrix.transformPosition(p);
      result = result.union(new Bounds(p.x, p.y, p.z, p.x, p.y, p.z));
    }
    return result;
  }

  public double[] minArray() {
    return new double[] {minX, minY, minZ};
  }

  public double[] maxArray() {
    return new double[] {maxX, maxY, maxZ};
  }
}
