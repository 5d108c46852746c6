package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import org.joml.Matrix4d;

/**
 * How far the end of a motion is from its start.
 *
 * @param units the farthest that a vertex stands apart, in the world
 * @param place of the node that shows it, −1 where nothing is shown
 * @param otherFaces place of a node that shows other vertices or faces at the end, −1 for none
 */
public record LoopGap(double units, int place, int otherFaces) {
  private static final double SAME = 1e-9;

  /**
   * @param clip with the caches and changing meshes that are played with it
   */
  public static LoopGap of(Scene scene, Clip clip) throws IOException {
    ClipPoses poses = ClipPoses.of(scene, clip);
    Pose first = poses.at(clip.startSeconds());
    Pose last = poses.at(clip.endSeconds());
    Map<Integer, MeshSequence> changing = new HashMap<>();
    scene.sequences().forEach(s -> changing.putIfAbsent(s.meshId(), s));
    double most = 0;
    int where = -1;
    int otherFaces = -1;
    for (int i = 0; i < scene.nodes().size(); i++) {
      if (!(scene.nodes().get(i).content() instanceof Node.Content.MeshContent content)) {
        continue;
      }
      MeshSequence sequence = changing.get(content.meshId());
      double off;
      if (sequence == null) {
        off = apart(Deform.world(scene, first, i), Deform.world(scene, last, i));
      } else {
        PolygonMesh start = sequence.mesh(sequence.sampleAt(clip.startSeconds() + SAME));
        PolygonMesh end = sequence.mesh(sequence.sampleAt(clip.endSeconds() + SAME));
        if (start.points().count() != end.points().count() || !start.faces().isSame(end.faces())) {
          otherFaces = i;
          continue;
        }
        off = apart(world(scene, first, i, start), world(scene, last, i, end));
      }
      if (off > most || where < 0) {
        most = off;
        where = i;
      }
    }
    return new LoopGap(most, where, otherFaces);
  }

  private static double[] world(Scene scene, Pose pose, int place, PolygonMesh mesh) {
    Matrix4d own = new Matrix4d(pose.world()[place]);
    own.mul(scene.nodes().get(place).geometric().toMatrix());
    double[] points = Deform.morphed(mesh, null);
    Deform.transform(points, own);
    return points;
  }

  private static double apart(double[] a, double[] b) {
    double most = 0;
    for (int v = 0; v + 2 < a.length; v += 3) {
      double off = Math.hypot(Math.hypot(a[v] - b[v], a[v + 1] - b[v + 1]), a[v + 2] - b[v + 2]);
      most = Math.max(most, off);
    }
    return most;
  }
}
