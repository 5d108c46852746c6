package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;

/**
 * How far the end of a motion is from its start.
 *
 * @param units the farthest that a vertex stands apart, in the world
 * @param place of the node that shows it, −1 where nothing is shown
 */
public record LoopGap(double units, int place) {
  /**
   * @param clip with the caches that are played with it
   */
  public static LoopGap of(Scene scene, Clip clip) {
    ClipPoses poses = ClipPoses.of(scene, clip);
    Pose first = poses.at(clip.startSeconds());
    Pose last = poses.at(clip.endSeconds());
    double most = 0;
    int where = -1;
    for (int i = 0; i < scene.nodes().size(); i++) {
      if (!(scene.nodes().get(i).content() instanceof Node.Content.MeshContent)) {
        continue;
      }
      double[] a = Deform.world(scene, first, i);
      double[] b = Deform.world(scene, last, i);
      for (int v = 0; v + 2 < a.length; v += 3) {
        double off = Math.hypot(Math.hypot(a[v] - b[v], a[v + 1] - b[v + 1]), a[v + 2] - b[v + 2]);
        if (off > most || where < 0) {
          most = Math.max(most, off);
          where = i;
        }
      }
    }
    return new LoopGap(most, where);
  }
}
