package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * The one line that a clip turns a part about, however the clip says so: by a pivot, or by moving
 * the part round while it turns.
 *
 * @param point on the line, in the part's own space
 * @param axis direction of the line, length 1
 */
public record TurnAxis(Vector3d point, Vector3d axis) {
  private static final int MOMENTS = 6;
  private static final double SAME_AXIS = 0.999;
  private static final double STAYS = 0.01;

  /** The line, or {@code null} when the part does not turn, turns about several, or rolls along. */
  public static TurnAxis of(Scene scene, Clip clip, int place) {
    ClipPoses poses = ClipPoses.of(scene, clip);
    Matrix4d back = local(scene, poses.at(clip.startSeconds()), place).invert();
    Vector3d axis = null;
    Vector3d point = null;
    for (int k = 1; k <= MOMENTS; k++) {
      double t =
          clip.startSeconds() + (clip.endSeconds() - clip.startSeconds()) * k / (MOMENTS + 1);
      Matrix4d turn = new Matrix4d(back).mul(local(scene, poses.at(t), place));
      Quaterniond q = turn.getNormalizedRotation(new Quaterniond());
      Vector3d v = new Vector3d(q.x, q.y, q.z);
      double half = Math.atan2(v.length(), q.w);
      if (v.length() < 0.05 || !turn.isFinite()) {
        continue;
      }
      v.normalize();
      // What is across the axis moves; along it a screw would move too.
      Vector3d move = turn.getTranslation(new Vector3d());
      move.fma(-move.dot(v), v);
      if (axis == null) {
        axis = v;
        // The point that stays: half of the move across, and what the turn adds to it.
        Vector3d beside = v.cross(move, new Vector3d()).div(Math.tan(half));
        point = new Vector3d(move).add(beside).mul(0.5);
        continue;
      }
      Vector3d moved = turn.transformPosition(new Vector3d(point)).sub(point);
      moved.fma(-moved.dot(v), v);
      if (Math.abs(axis.dot(v)) < SAME_AXIS || moved.length() > STAYS * move.length() + 1e-9) {
        return null;
      }
    }
    return axis == null ? null : new TurnAxis(point, axis);
  }

  private static Matrix4d local(Scene scene, Pose pose, int place) {
    int parent = scene.nodes().get(place).parent();
    Matrix4d above = parent < 0 ? new Matrix4d(scene.placement()) : pose.world()[parent];
    return new Matrix4d(above).invert().mul(pose.world()[place]);
  }
}
