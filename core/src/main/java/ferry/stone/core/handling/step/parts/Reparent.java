package ferry.stone.core.handling.step.parts;

import ferry.stone.core.handling.step.place.MotionCarry;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;

/** Hangs nodes on other parents and keeps where they stand, at rest and in clips. */
final class Reparent {
  private final Scene scene;
  private final NodeTree tree;
  private final MotionCarry motion;
  private final Matrix4d[] world;

  Reparent(Scene scene, NodeTree tree) {
    this.scene = scene;
    this.tree = tree;
    motion = new MotionCarry(scene);
    world = scene.worldMatrices();
  }

  List<Clip> clips() {
    return motion.clips();
  }

  /**
   * @param parentWorld where the new parent stands at rest
   * @param movesWith place of the node whose motion the new parent shares, −1 for none
   */
  void hang(int place, int parentId, Matrix4dc parentWorld, int movesWith) {
    Node node = scene.nodes().get(place);
    Matrix4dc old = node.parent() < 0 ? scene.placement() : world[node.parent()];
    Matrix4d change = new Matrix4d(parentWorld).invert().mul(old);
    if (!change.isFinite()) {
      throw new IllegalArgumentException(
          "The new parent of \"" + node.name() + "\" is scaled to nothing");
    }
    if (motion.moves(node.id()) && node.parent() != movesWith) {
      refuseMoving(node, node.parent());
      refuseMoving(node, movesWith);
    }
    tree.put(motion.before(node, change));
    tree.setParent(node.id(), parentId);
  }

  private void refuseMoving(Node node, int from) {
    for (int at = from; at >= 0; at = scene.nodes().get(at).parent()) {
      Node above = scene.nodes().get(at);
      if (motion.moves(above.id())) {
        throw new IllegalArgumentException(
            "\""
                + node.name()
                + "\" moves in a clip, and so does \""
                + above.name()
                + "\" above it: its place cannot be kept. Hang it there without keeping its place");
      }
    }
  }
}
