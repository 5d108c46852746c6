package ferry.stone.e2e;

import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** What any reader ought to see of a far side, in metres with Y up. */
record Expected(Scene scene, List<String> paths, double[][] origins, List<Mesh> meshes) {

  /**
   * A part that shows faces.
   *
   * @param box lowest and highest corner
   * @param triangles by the name of the material, empty for none
   */
  record Mesh(
      int place, String path, double[] box, Map<String, Long> triangles, List<String> morphs) {}

  static Expected of(Scene far) {
    Scene scene = Rebase.intoData(far, Frame.Y_UP_METRE);
    int above = scene.nodes().size() - far.nodes().size();
    List<String> paths = far.paths();
    var world = scene.worldMatrices();
    double[][] origins = new double[paths.size()][];
    for (int i = 0; i < origins.length; i++) {
      var m = world[i + above];
      origins[i] = new double[] {m.m30(), m.m31(), m.m32()};
    }
    List<Mesh> meshes = new ArrayList<>();
    Pose rest = Pose.rest(scene);
    for (int i = above; i < scene.nodes().size(); i++) {
      if (scene.nodes().get(i).content() instanceof Node.Content.MeshContent content) {
        PolygonMesh mesh = scene.mesh(content.meshId()).orElseThrow();
        if (mesh.faces().triangleCount() > 0) {
          meshes.add(
              new Mesh(
                  i,
                  paths.get(i - above),
                  box(scene, rest, i),
                  triangles(scene, mesh, content),
                  MorphTarget.keys(mesh.morphs())));
        }
      }
    }
    return new Expected(scene, paths, origins, meshes);
  }

  /** Whether the vertices of a mesh are sampled over time. */
  boolean isCached(int mesh) {
    Node node = scene.nodes().get(meshes.get(mesh).place());
    return Caches.of(scene, ((Node.Content.MeshContent) node.content()).meshId()) != null;
  }

  /** Boxes of the meshes at a moment of a clip, 0 to 1. */
  List<double[]> boxes(Clip clip, double part) {
    double t = clip.startSeconds() + part * (clip.endSeconds() - clip.startSeconds());
    Pose pose = Pose.at(scene, clip, t);
    return meshes.stream().map(m -> box(scene, pose, m.place())).toList();
  }

  private static double[] box(Scene scene, Pose pose, int place) {
    PolygonMesh mesh =
        scene
            .mesh(((Node.Content.MeshContent) scene.nodes().get(place).content()).meshId())
            .orElseThrow();
    double[] points = Deform.world(scene, pose, place);
    double[] box = new double[6];
    Arrays.fill(box, 0, 3, Double.POSITIVE_INFINITY);
    Arrays.fill(box, 3, 6, Double.NEGATIVE_INFINITY);
    for (int c = 0; c < mesh.faces().cornerCount(); c++) {
      int v = mesh.faces().vertex(c);
      for (int k = 0; k < 3; k++) {
        box[k] = Math.min(box[k], points[3 * v + k]);
        box[3 + k] = Math.max(box[3 + k], points[3 * v + k]);
      }
    }
    return box;
  }

  private static Map<String, Long> triangles(
      Scene scene, PolygonMesh mesh, Node.Content.MeshContent content) {
    Map<Integer, String> names = new HashMap<>();
    for (Material m : scene.materials()) {
      names.put(m.id(), m.name());
    }
    Map<String, Long> counts = new TreeMap<>();
    for (int f = 0; f < mesh.faces().faceCount(); f++) {
      int slot = mesh.slot(f);
      int[] slots = content.slotMaterials();
      int id =
          slots == null ? mesh.materialOf(f) : slot < 0 || slot >= slots.length ? -1 : slots[slot];
      counts.merge(
          names.getOrDefault(id, ""), (long) Math.max(0, mesh.faces().size(f) - 2), Long::sum);
    }
    return counts;
  }

  /** What positions are compared by. */
  double size() {
    double most = 1e-6;
    for (Mesh mesh : meshes) {
      for (double v : mesh.box()) {
        most = Double.isFinite(v) ? Math.max(most, Math.abs(v)) : most;
      }
    }
    return most;
  }
}
