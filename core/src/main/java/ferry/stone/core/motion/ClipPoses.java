package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * The poses of a scene in one clip. What moves each node is looked up once, however many moments
 * are asked for; a moment takes O(nodes + weights).
 */
public final class ClipPoses {
  private static final int WIDEST = 4;

  private final Scene scene;
  private final Moving[] nodes;
  private final boolean rests;

  /**
   * What moves a node.
   *
   * @param translation … tracks, {@code null} where it rests
   * @param rest its transform as parts; {@code null} where nothing moves it
   * @param still its matrix where nothing moves it
   * @param weights of the targets of the mesh it shows at rest; {@code null} for none
   * @param morphs track of each target, {@code null} where it rests
   */
  private record Moving(
      Track translation,
      Track rotation,
      Track scale,
      LocalTransform.Trs rest,
      Matrix4d still,
      double[] weights,
      Track[] morphs) {}

  private ClipPoses(Scene scene, Moving[] nodes, boolean rests) {
    this.rests = rests;
    this.scene = scene;
    this.nodes = nodes;
  }

  /**
   * @param clip or {@code null} for the rest pose
   */
  public static ClipPoses of(Scene scene, Clip clip) {
    Map<Integer, Map<String, Track>> tracks = new HashMap<>();
    if (clip != null) {
      for (Track track : clip.tracks()) {
        tracks.computeIfAbsent(track.targetId(), k -> new HashMap<>()).put(track.property(), track);
      }
    }
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    Moving[] nodes = new Moving[scene.nodes().size()];
    for (int i = 0; i < nodes.length; i++) {
      Node node = scene.nodes().get(i);
      nodes[i] = moving(node, meshes, tracks.getOrDefault(node.id(), Map.of()));
    }
    return new ClipPoses(scene, nodes, clip == null);
  }

  private static Moving moving(
      Node node, Map<Integer, PolygonMesh> meshes, Map<String, Track> tracks) {
    Track t = tracks.get(Clip.TRANSLATION);
    Track r = tracks.get(Clip.ROTATION);
    Track s = tracks.get(Clip.SCALE);
    boolean moves = t != null || r != null || s != null;
    LocalTransform transform = node.transform();
    LocalTransform.Trs rest =
        !moves
            ? null
            : transform instanceof LocalTransform.Trs trs
                ? trs
                : LocalTransform.Trs.nearest(transform.toMatrix());
    PolygonMesh mesh =
        node.content() instanceof Node.Content.MeshContent content
            ? meshes.get(content.meshId())
            : null;
    double[] weights = null;
    Track[] morphs = null;
    if (mesh != null && !mesh.morphs().isEmpty()) {
      double[] own = ((Node.Content.MeshContent) node.content()).morphWeights();
      List<String> keys = MorphTarget.keys(mesh.morphs());
      weights = new double[keys.size()];
      morphs = new Track[weights.length];
      for (int m = 0; m < weights.length; m++) {
        weights[m] = own != null && m < own.length ? own[m] : mesh.morphs().get(m).weight();
        morphs[m] = tracks.get(Clip.MORPH + keys.get(m));
      }
    }
    return new Moving(t, r, s, rest, moves ? null : transform.toMatrix(), weights, morphs);
  }

  /**
   * @param seconds on the clip's own time line
   */
  public Pose at(double seconds) {
    Matrix4d[] world = new Matrix4d[nodes.length];
    double[][] weights = new double[nodes.length][];
    double[] value = new double[WIDEST];
    for (int i = 0; i < nodes.length; i++) {
      int parent = scene.nodes().get(i).parent();
      Matrix4dc above = parent < 0 ? scene.placement() : world[parent];
      world[i] = new Matrix4d(above).mul(local(nodes[i], seconds, value));
      weights[i] = weights(nodes[i], seconds, value);
    }
    return new Pose(world, weights, rests ? Double.NaN : seconds);
  }

  private static Matrix4d local(Moving node, double seconds, double[] value) {
    if (node.still() != null) {
      return node.still();
    }
    Vector3d translation = new Vector3d(node.rest().translation());
    Quaterniond rotation = new Quaterniond(node.rest().rotation());
    Vector3d scale = new Vector3d(node.rest().scale());
    if (node.translation() != null) {
      Curves.sample(node.translation(), seconds, value);
      translation.set(value[0], value[1], value[2]);
    }
    if (node.rotation() != null) {
      Curves.sample(node.rotation(), seconds, value);
      rotation.set(value[0], value[1], value[2], value[3]);
    }
    if (node.scale() != null) {
      Curves.sample(node.scale(), seconds, value);
      scale.set(value[0], value[1], value[2]);
    }
    return new Matrix4d().translationRotateScale(translation, rotation, scale);
  }

  private static double[] weights(Moving node, double seconds, double[] value) {
    if (node.weights() == null) {
      return null;
    }
    double[] weights = node.weights().clone();
    for (int m = 0; m < weights.length; m++) {
      if (node.morphs()[m] != null) {
        Curves.sample(node.morphs()[m], seconds, value);
        weights[m] = value[0];
      }
    }
    return weights;
  }
}
