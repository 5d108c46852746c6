package ferry.stone.core.survey;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Turns and scales that were left on the roots on the way from another frame. */
final class LeftTransforms {
  private static final double SAME = 1e-4;

  private LeftTransforms() {}

  /** The uniform scale that all roots have, 1 when they have none or differ. */
  static double commonScale(Scene scene) {
    double common = 0;
    for (Node node : scene.nodes()) {
      if (node.parent() >= 0) {
        continue;
      }
      Matrix4d m = node.transform().toMatrix();
      Vector3d s = m.getScale(new Vector3d());
      boolean even = Math.abs(s.x - s.y) <= SAME * s.x && Math.abs(s.y - s.z) <= SAME * s.x;
      if (!even || !(s.x > 0) || common > 0 && Math.abs(common - s.x) > SAME * s.x) {
        return 1;
      }
      common = s.x;
    }
    return common == 0 || Math.abs(common - 1) < SAME ? 1 : common;
  }

  /** Whether every root carries the turn of −90° about X. */
  static boolean turnedUp(Scene scene) {
    boolean any = false;
    for (Node node : scene.nodes()) {
      if (node.parent() < 0) {
        if (quarterAboutX(node) != -1) {
          return false;
        }
        any = true;
      }
    }
    return any;
  }

  /** −1 for −90° about X, 1 for +90°, 0 for anything else. */
  static int quarterAboutX(Node node) {
    Matrix4d m = node.transform().toMatrix().normalize3x3();
    boolean about =
        Math.abs(Math.abs(m.m00()) - 1) < SAME
            && Math.abs(m.m11()) < SAME
            && Math.abs(m.m22()) < SAME;
    return !about ? 0 : m.m12() > 0 ? 1 : -1;
  }
}
