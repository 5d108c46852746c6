package ferry.stone.core;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.HashMap;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Vector3d;

/** Compares two scenes by where their vertices, joints, cameras and lights are at sampled times. */
public final class PoseDifference {
  private PoseDifference() {}

  /**
   * The largest distance, as a part of the size of what is shown, over the rest pose and nine
   * moments of each clip. Nodes are matched by name.
   *
   * @param carry wanted world points to found world points
   */
  public static double of(Scene wanted, Scene found, Matrix4dc carry, String what) {
    assertEquals(wanted.clips().size(), found.clips().size(), what);
    double most = between(wanted, found, null, null, 0, carry, what);
    for (int c = 0; c < wanted.clips().size(); c++) {
      Clip a = wanted.clips().get(c);
      Clip b = found.clips().get(c);
      assertEquals(a.name(), b.name(), what);
      for (int i = 0; i <= 8; i++) {
        double t = -0.1 + 2.6 * i / 8;
        most = Math.max(most, between(wanted, found, a, b, t, carry, what));
      }
    }
    return most;
  }

  private static double between(
      Scene wanted, Scene found, Clip a, Clip b, double t, Matrix4dc carry, String what) {
    Pose poseA = Pose.at(wanted, a, t);
    Pose poseB = Pose.at(found, b, t);
    Map<String, Integer> places = new HashMap<>();
    for (int i = 0; i < found.nodes().size(); i++) {
      places.put(found.nodes().get(i).name(), i);
    }
    double size = 1e-9;
    double most = 0;
    double scale = Math.cbrt(Math.abs(carry.determinant3x3()));
    for (int i = 0; i < wanted.nodes().size(); i++) {
      Node node = wanted.nodes().get(i);
      Integer j = places.get(node.name());
      assertTrue(j != null, what + ": " + node.name() + " is gone");
      if (node.content() instanceof Node.Content.MeshContent) {
        double[] p = Deform.world(wanted, poseA, i);
        double[] q = Deform.world(found, poseB, shown(found, j));
        Vector3d v = new Vector3d();
        java.util.Set<Integer> matched = new java.util.HashSet<>();
        assertTrue(q.length >= 3, what);
        for (int k = 0; k < p.length; k += 3) {
          carry.transformPosition(v.set(p[k], p[k + 1], p[k + 2]));
          size = Math.max(size, v.length());
          // glTF repeats vertices at seams: the first ones stand in source order.
          if (p.length == q.length) {
            most = Math.max(most, v.distance(q[k], q[k + 1], q[k + 2]));
          } else {
            most = Math.max(most, nearest(q, v));
          }
        }
      } else if (!(node.content() instanceof Node.Content.Joint)) {
        most = Math.max(most, looks(wanted, poseA, i, found, poseB, lens(found, j), carry) / scale);
      }
    }
    return most / size;
  }

  /** The node itself, or the child made for what it showed. */
  private static int shown(Scene scene, int place) {
    if (scene.nodes().get(place).content() instanceof Node.Content.MeshContent) {
      return place;
    }
    String name = scene.nodes().get(place).name() + "_shape";
    for (int i = 0; i < scene.nodes().size(); i++) {
      if (scene.nodes().get(i).name().equals(name)) {
        return i;
      }
    }
    throw new AssertionError(name + " is gone");
  }

  /** A node that shows a camera or light, or the child made for it; else the node itself. */
  private static int lens(Scene scene, int place) {
    boolean group = scene.nodes().get(place).content() instanceof Node.Content.Group;
    String name = scene.nodes().get(place).name() + "_shape";
    for (int i = 0; group && i < scene.nodes().size(); i++) {
      if (scene.nodes().get(i).name().equals(name)) {
        return i;
      }
    }
    return place;
  }

  private static double nearest(double[] q, Vector3d v) {
    double best = Double.POSITIVE_INFINITY;
    for (int k = 0; k < q.length; k += 3) {
      best = Math.min(best, v.distance(q[k], q[k + 1], q[k + 2]));
    }
    return best;
  }

  /** For cameras and lights: where a point one unit ahead of them is. */
  private static double looks(
      Scene wanted, Pose a, int i, Scene found, Pose b, int j, Matrix4dc carry) {
    Node node = wanted.nodes().get(i);
    boolean looks =
        node.content() instanceof Node.Content.CameraContent
            || node.content() instanceof Node.Content.LightContent;
    if (!looks) {
      return 0;
    }
    Vector3d p = carry.transformPosition(ahead(node, a.world()[i]));
    Vector3d q = ahead(found.nodes().get(j), b.world()[j]);
    Vector3d from = carry.transformPosition(a.world()[i].getTranslation(new Vector3d()));
    Vector3d to = b.world()[j].getTranslation(new Vector3d());
    return Math.max(from.distance(to), p.sub(from).normalize().distance(q.sub(to).normalize()));
  }

  private static Vector3d ahead(Node node, Matrix4d world) {
    return new Matrix4d(world)
        .mul(node.geometric().toMatrix())
        .transformPosition(new Vector3d(0, 0, -1));
  }
}
