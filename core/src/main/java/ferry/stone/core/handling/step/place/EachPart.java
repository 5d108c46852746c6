package ferry.stone.core.handling.step.place;

import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Cancel;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Moves each chosen part by its own box, with all that hangs on it. */
final class EachPart {
  private EachPart() {}

  /**
   * @param anchor the point of a part's box, in the scene's frame, that goes to the origin
   * @param axes which of its components count; the others stay
   * @param keep {@code transform}: the picture stays, the part's pivot goes to the anchor instead
   * @throws IllegalArgumentException when none of the parts can be moved
   */
  static StepResult moved(
      Scene scene,
      Selection selection,
      String keep,
      boolean[] axes,
      Function<Bounds, Vector3d> anchor) {
    int[] tops = selection.isAll() ? topMeshes(scene) : selection.tops(scene);
    Bounds[] boxes = Placement.boxesBelow(scene);
    boolean inPlace = keep.equals("transform");
    PivotMove pivots = new PivotMove(scene);
    Matrix4d[] world = scene.worldMatrices();
    List<Node> nodes = new ArrayList<>(scene.nodes());
    MotionCarry motion = new MotionCarry(scene);
    int done = 0;
    double farthest = 0;
    for (int place : tops) {
      Cancel.point();
      Node node = scene.nodes().get(place);
      if (boxes[place].isEmpty() || !PivotMove.hasPivot(node)) {
        continue;
      }
      Vector3d point = anchor.apply(boxes[place]);
      Vector3d pivot = world[place].getTranslation(new Vector3d());
      Vector3d by = new Vector3d();
      for (int k = 0; k < 3; k++) {
        double from = inPlace ? pivot.get(k) : 0;
        by.setComponent(k, axes[k] ? from - point.get(k) : 0);
      }
      farthest = Math.max(farthest, by.length());
      done++;
      if (inPlace) {
        pivots.to(place, pivot.sub(by), false);
      } else {
        Matrix4d above = new Matrix4d(node.parent() < 0 ? scene.placement() : world[node.parent()]);
        nodes.set(
            place, motion.before(node, new Matrix4d(above).invert().translate(by).mul(above)));
      }
    }
    if (done == 0) {
      throw new IllegalArgumentException(
          "None of the chosen parts can be moved by itself: choose meshes or groups without skins");
    }
    Scene result =
        inPlace ? pivots.build() : scene.toBuilder().nodes(nodes).clips(motion.clips()).build();
    return StepResult.of(
        result,
        Figures.count(done, "part")
            + " · up to "
            + Figures.length(farthest * scene.frame().metresPerUnit()));
  }

  private static int[] topMeshes(Scene scene) {
    return new Selection(List.of(), "", "mesh").tops(scene);
  }
}
