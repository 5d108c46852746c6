package ferry.stone.core.motion;

import ferry.stone.core.scene.Clip;
import ferry.stone.core.scene.Clip.Track;
import ferry.stone.core.scene.LocalTransform;
import ferry.stone.core.scene.MorphTarget;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Where everything in a scene stands at one moment.
 *
 * @param world matrix of each node with the scene's placement, by its place in the list
 * @param morphWeights weights of the mesh's targets for each node that shows a mesh with some, by
 *     the node's place; {@code null} for the others
 */
public record Pose(Matrix4d[] world, double[][] morphWeights) {

  /** The scene as it stands without any clip. */
  public static Pose rest(Scene scene) {
    return at(scene, null, 0);
  }

  /**
   * @param clip or {@code null} for the rest pose
   * @param seconds on the clip's own time line
   */
  public static Pose at(Scene scene, Clip clip, double seconds) {
    Map<Integer, Map<String, Track>> tracks = new HashMap<>();
    if (clip != null) {
      for (Track track : clip.tracks()) {
        tracks.computeIfAbsent(track.targetId(), k -> new HashMap<>()).put(track.property(), track);
      }
    }
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    int count = scene.nodes().size();
    Matrix4d[] world = new Matrix4d[count];
    double[][] weights = new double[count][];
    for (int i = 0; i < count; i++) {
      Node node = scene.nodes().get(i);
      Map<String, Track> own = tracks.getOrDefault(node.id(), Map.of());
      Matrix4dc above = node.parent() < 0 ? scene.placement() : world[node.parent()];
      world[i] = new Matrix4d(above).mul(local(node.transform(), own, seconds));
      weights[i] = weights(node, meshes, own, seconds);
    }
    return new Pose(world, weights);
  }

  private static Matrix4d local(
      LocalTransform transform, Map<String, Track> tracks, double seconds) {
    Track t = tracks.get(Clip.TRANSLATION);
    Track r = tracks.get(Clip.ROTATION);
    Track s = tracks.get(Clip.SCALE);
    if (t == null && r == null && s == null) {
      return transform.toMatrix();
    }
    LocalTransform.Trs rest =
        transform instanceof LocalTransform.Trs trs
            ? trs
            : LocalTransform.Trs.nearest(transform.toMatrix());
    Vector3d translation = new Vector3d(rest.translation());
    Quaterniond rotation = new Quaterniond(rest.rotation());
    Vector3d scale = new Vector3d(rest.scale());
    double[] value = new double[4];
    if (t != null) {
      Curves.sample(t, seconds, value);
      translation.set(value[0], value[1], value[2]);
    }
    if (r != null) {
      Curves.sample(r, seconds, value);
      rotation.set(value[0], value[1], value[2], value[3]);
    }
    if (s != null) {
      Curves.sample(s, seconds, value);
      scale.set(value[0], value[1], value[2]);
    }
    return new Matrix4d().translationRotateScale(translation, rotation, scale);
  }

  private static double[] weights(
      Node node, Map<Integer, PolygonMesh> meshes, Map<String, Track> tracks, double seconds) {
    if (!(node.content() instanceof Node.Content.MeshContent content)) {
      return null;
    }
    PolygonMesh mesh = meshes.get(content.meshId());
    if (mesh == null || mesh.morphs().isEmpty()) {
      return null;
    }
    List<String> keys = MorphTarget.keys(mesh.morphs());
    double[] weights = new double[keys.size()];
    double[] value = new double[4];
    for (int m = 0; m < weights.length; m++) {
      weights[m] =
          content.morphWeights() != null && m < content.morphWeights().length
              ? content.morphWeights()[m]
              : mesh.morphs().get(m).weight();
      Track track = tracks.get(Clip.MORPH + keys.get(m));
      if (track != null) {
        Curves.sample(track, seconds, value);
        weights[m] = value[0];
      }
    }
    return weights;
  }
}
