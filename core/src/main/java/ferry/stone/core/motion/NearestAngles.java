package ferry.stone.core.motion;

import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import org.joml.Quaterniondc;
import org.joml.Vector3d;

/** Angles that go on from those before, so that curves of them do not jump. */
public final class NearestAngles {
  private NearestAngles() {}

  /** Of all angles that make a rotation, those nearest to the ones before. */
  public static Vector3d of(EulerOrder order, Quaterniondc q, Vector3d last) {
    Vector3d best = near(order.degrees(q), last);
    int first = order.name().charAt(0) - 'X';
    int middle = order.name().charAt(1) - 'X';
    int third = order.name().charAt(2) - 'X';
    Vector3d other = new Vector3d(best);
    other.setComponent(first, best.get(first) + 180);
    other.setComponent(middle, 180 - best.get(middle));
    other.setComponent(third, best.get(third) + 180);
    other = near(other, last);
    best = other.distanceSquared(last) < best.distanceSquared(last) ? other : best;
    double bend = Math.abs(Math.abs(best.get(middle)) % 180 - 90);
    return bend < 1e-4 ? locked(order, q, best, last, first, third) : best;
  }

  /** At ±90° the outer angles turn about one axis: the first stays, the third does the rest. */
  private static Vector3d locked(
      EulerOrder order, Quaterniondc q, Vector3d best, Vector3d last, int first, int third) {
    double change = last.get(first) - best.get(first);
    for (int sign = -1; sign <= 1; sign += 2) {
      Vector3d other = new Vector3d(best);
      other.setComponent(first, last.get(first));
      other.setComponent(third, best.get(third) + sign * change);
      if (Math.abs(order.quaternion(other).dot(q)) > 1 - 1e-12) {
        return near(other, last);
      }
    }
    return best;
  }

  private static Vector3d near(Vector3d angles, Vector3d last) {
    Vector3d result = new Vector3d(angles);
    for (int c = 0; c < 3; c++) {
      double turns = Math.rint((last.get(c) - result.get(c)) / 360);
      result.setComponent(c, result.get(c) + 360 * turns);
    }
    return result;
  }
}
