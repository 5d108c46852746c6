package ferry.stone.core.handling.step.place;

import ferry.stone.core.handling.Selection;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;

/** Moves a whole scene by changing its placement, or chosen parts by changing their transforms. */
public final class Placement {
  private Placement() {}

  /** The scene with a further move, given in the scene's own frame. */
  static Scene then(Scene scene, Matrix4dc move) {
    return scene.toBuilder().placement(new Matrix4d(move).mul(scene.placement())).build();
  }

  /** A move of all, or of the chosen parts with all that hangs on them; no mesh is touched. */
  static Scene moved(Scene scene, Selection selection, Matrix4dc move) {
    if (selection.isAll()) {
      return then(scene, move);
    }
    Matrix4d[] world = scene.worldMatrices();
    List<Node> nodes = new ArrayList<>(scene.nodes());
    MotionCarry motion = new MotionCarry(scene);
    for (int i : selection.tops(scene)) {
      Node node = nodes.get(i);
      Matrix4dc above = node.parent() < 0 ? scene.placement() : world[node.parent()];
      Matrix4d inFront = new Matrix4d(above).invert().mul(move).mul(above);
      nodes.set(i, motion.before(node, inFront));
    }
    return scene.toBuilder().nodes(nodes).clips(motion.clips()).build();
  }

  /**
   * As {@link #moved} with the old place kept: a part that holds the opposite move takes everything
   * that moved, so that its own numbers start at the origin and the picture stays.
   */
  static Scene keptAsTransform(Scene scene, Matrix4dc move) {
    if (move.equals(new Matrix4d(), 0)) {
      return scene;
    }
    SceneBuilder builder = scene.toBuilder();
    List<Node> nodes = new ArrayList<>();
    Matrix4d inside = new Matrix4d(scene.placement()).invert().mul(move).mul(scene.placement());
    Matrix4d place = new Matrix4d(inside).invert();
    nodes.add(
        Node.of(builder.newId(), scene.name(), -1, Node.Content.GROUP)
            .withTransform(MotionCarry.plain(place)));
    MotionCarry motion = new MotionCarry(scene);
    for (Node node : scene.nodes()) {
      Node moved = node.parent() < 0 ? motion.before(node, inside) : node;
      nodes.add(moved.withParent(node.parent() + 1));
    }
    return builder.nodes(nodes).clips(motion.clips()).build();
  }

  /** The box around all, or around the chosen parts and what hangs on them. */
  public static Bounds bounds(Scene scene, Selection selection) {
    if (selection.isAll()) {
      return scene.bounds();
    }
    boolean[] chosen = selection.withBelow(scene);
    Bounds bounds = Bounds.EMPTY;
    var places = scene.nodePlaces();
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      if (chosen[places.get(shown.node().id())]) {
        bounds = bounds.union(shown.mesh().points().bounds(shown.world()));
      }
    }
    return bounds;
  }

  /** The box of every node with all that hangs on it, by its place. */
  static Bounds[] boxesBelow(Scene scene) {
    Bounds[] boxes = new Bounds[scene.nodes().size()];
    Arrays.fill(boxes, Bounds.EMPTY);
    var places = scene.nodePlaces();
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      boxes[places.get(shown.node().id())] = shown.mesh().points().bounds(shown.world());
    }
    for (int i = boxes.length - 1; i >= 0; i--) {
      int parent = scene.nodes().get(i).parent();
      if (parent >= 0) {
        boxes[parent] = boxes[parent].union(boxes[i]);
      }
    }
    return boxes;
  }

  /** A rotation given in the Y-up frame of the view, in the scene's own frame. */
  static Matrix4d fromView(Scene scene, Matrix4dc inView) {
    Matrix4d basis = new Matrix4d().set(scene.frame().basisTo(Frame.Y_UP_METRE));
    return new Matrix4d(basis).transpose().mul(inView).mul(basis);
  }

  /** Whether a transform changes nothing. */
  static boolean isNone(LocalTransform transform) {
    return transform == LocalTransform.IDENTITY || transform.toMatrix().equals(new Matrix4d(), 0);
  }
}
