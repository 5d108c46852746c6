package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import org.joml.Matrix4d;

/**
 * Where everything in a scene stands at one moment.
 *
 * @param world matrix of each node with the scene's placement, by its place in the list
 * @param morphWeights weights of the mesh's targets for each node that shows a mesh with some, by
 *     the node's place; {@code null} for the others
 * @param seconds moment on the time line, for point caches; not a number in the rest pose
 */
public record Pose(Matrix4d[] world, double[][] morphWeights, double seconds) {

  /** A pose that no moment of the time line belongs to. */
  public Pose(Matrix4d[] world, double[][] morphWeights) {
    this(world, morphWeights, Double.NaN);
  }

  /** The scene as it stands without any clip. */
  public static Pose rest(Scene scene) {
    return at(scene, null, 0);
  }

  /**
   * One moment; whoever looks at several takes {@link ClipPoses}.
   *
   * @param clip or {@code null} for the rest pose
   * @param seconds on the clip's own time line
   */
  public static Pose at(Scene scene, Clip clip, double seconds) {
    return ClipPoses.of(scene, clip).at(seconds);
  }
}
