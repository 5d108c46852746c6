package ferry.stone.core.handling.step.place;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Puts the pivots of parts elsewhere: what a part shows and what hangs on it step back, so that
 * nothing moves in the picture, at rest or in any clip.
 */
final class PivotMove {
  private final Matrix4d[] world;
  private final MotionCarry motion;
  private final List<Node> nodes;
  private final List<List<Integer>> children = new ArrayList<>();
  private final SceneBuilder builder;
  private final BakedMeshes baked;

  PivotMove(Scene scene) {
    world = scene.worldMatrices();
    motion = new MotionCarry(scene);
    nodes = new ArrayList<>(scene.nodes());
    builder = scene.toBuilder();
    baked = new BakedMeshes(scene, builder);
    for (int i = 0; i < nodes.size(); i++) {
      children.add(new ArrayList<>(0));
      if (nodes.get(i).parent() >= 0) {
        children.get(nodes.get(i).parent()).add(i);
      }
    }
  }

  /**
   * Whether a node has a pivot of its own: joints and skinned meshes stand where skins put them.
   */
  static boolean hasPivot(Node node) {
    boolean skinned =
        node.content() instanceof Node.Content.MeshContent content && content.skinId() >= 0;
    return !skinned && !(node.content() instanceof Node.Content.Joint);
  }

  /**
   * @param wanted in the scene's frame
   * @param follow whether clips turn the part about the new pivot; they look as before otherwise
   * @return how far the pivot moved, in scene units
   */
  double to(int place, Vector3d wanted, boolean follow) {
    Vector3d by = world[place].invert(new Matrix4d()).transformPosition(new Vector3d(wanted));
    if (!by.isFinite()) {
      throw new IllegalArgumentException(
          "\"" + nodes.get(place).name() + "\" is scaled to nothing, so it has no pivot");
    }
    Vector3d back = new Vector3d(by).negate();
    Node node =
        follow ? motion.aboutNewPivot(nodes.get(place), by) : motion.after(nodes.get(place), by);
    if (node.content() instanceof Node.Content.MeshContent) {
      node = shown(node, back);
    } else if (node.geometric() != LocalTransform.IDENTITY || node.content().isPlacedInside()) {
      node =
          node.withGeometric(
              MotionCarry.plain(new Matrix4d().translation(back).mul(node.geometric().toMatrix())));
    }
    nodes.set(place, node);
    for (int child : children.get(place)) {
      nodes.set(child, motion.before(nodes.get(child), new Matrix4d().translation(back)));
    }
    return world[place].getTranslation(new Vector3d()).distance(wanted);
  }

  Scene build() {
    builder.nodes(nodes).clips(motion.clips());
    return baked.build();
  }

  /** The mesh steps back in its own numbers. */
  private Node shown(Node node, Vector3d back) {
    Matrix4d geometric = node.geometric().toMatrix();
    return baked.bake(
        node,
        new Matrix4d(geometric).invert().mul(new Matrix4d().translation(back)).mul(geometric));
  }
}
