package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import java.util.Arrays;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Where the vertices of a part stand in a clip, as a cache: worked out sample by sample when it is
 * asked for. The last sample is kept, so that reading it in ranges works it out once.
 */
public final class BakedCache implements PointCache {
  private final int id;
  private final String name;
  private final Scene scene;
  private final int place;
  private final int meshId;
  private final int points;
  private final double[] seconds;
  private final ClipPoses poses;
  private final boolean inWorld;
  private int known = -1;
  private double[] sample;

  /**
   * @param place of the node that shows the mesh
   * @param seconds of the samples
   * @param inWorld whether points stand in the world; else in the numbers of the mesh, as the node
   *     stands at each moment
   */
  public BakedCache(
      int id, String name, Scene scene, Clip clip, int place, double[] seconds, boolean inWorld) {
    this.id = id;
    this.name = name;
    this.scene = scene;
    this.place = place;
    this.seconds = seconds;
    this.inWorld = inWorld;
    poses = ClipPoses.of(scene, clip);
    meshId = ((Node.Content.MeshContent) scene.nodes().get(place).content()).meshId();
    points = scene.mesh(meshId).orElseThrow().points().count();
  }

  @Override
  public int id() {
    return id;
  }

  @Override
  public String name() {
    return name;
  }

  @Override
  public int meshId() {
    return meshId;
  }

  @Override
  public int sampleCount() {
    return seconds.length;
  }

  @Override
  public int pointCount() {
    return points;
  }

  @Override
  public double timeSeconds(int index) {
    return seconds[index];
  }

  @Override
  public synchronized void read(int index, int from, int count, float[] target) {
    if (index != known) {
      sample = points(index);
      known = index;
    }
    for (int i = 0; i < 3 * count; i++) {
      target[i] = (float) sample[3 * from + i];
    }
  }

  private double[] points(int index) {
    Pose pose = poses.at(seconds[index]);
    double[] world = Deform.world(scene, pose, place);
    if (inWorld) {
      return world;
    }
    Matrix4d own =
        new Matrix4d(pose.world()[place])
            .mul(scene.nodes().get(place).geometric().toMatrix())
            .invert();
    if (!own.isFinite()) {
      // A part without size has no numbers of its own.
      Arrays.fill(world, 0);
      return world;
    }
    Vector3d p = new Vector3d();
    for (int i = 0; i < world.length; i += 3) {
      own.transformPosition(p.set(world[i], world[i + 1], world[i + 2]));
      world[i] = p.x;
      world[i + 1] = p.y;
      world[i + 2] = p.z;
    }
    return world;
  }
}
