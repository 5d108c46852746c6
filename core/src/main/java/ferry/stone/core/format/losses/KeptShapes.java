package ferry.stone.core.format.losses;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;

/** Shapes that only the format that they come from has a place for. */
final class KeptShapes {
  private KeptShapes() {}

  /** With groups in their places. */
  static Scene none(Scene scene) {
    boolean any =
        scene.nodes().stream().anyMatch(n -> n.content() instanceof Node.Content.KeptShape);
    return any
        ? scene.toBuilder().nodes(scene.nodes().stream().map(KeptShapes::group).toList()).build()
        : scene;
  }

  private static Node group(Node node) {
    return node.content() instanceof Node.Content.KeptShape
        ? node.withContent(Node.Content.GROUP).withGeometric(LocalTransform.IDENTITY)
        : node;
  }
}
