package ferry.stone.core;

import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * What a scene's surface looks like in the world, whatever parts, vertices and faces it is made of:
 * area, middle and spread of the triangles of each material, at rest and at nine moments of each
 * clip.
 */
public final class WorldSurface {
  private static final int MOMENTS = 9;

  private WorldSurface() {}

  /** Largest difference of two scenes' surfaces, as a part of their size. */
  public static double difference(Scene a, Scene b) {
    List<Map<String, double[]>> x = of(a);
    List<Map<String, double[]>> y = of(b);
    if (x.size() != y.size()) {
      return Double.POSITIVE_INFINITY;
    }
    double most = 0;
    for (int i = 0; i < x.size(); i++) {
      if (!x.get(i).keySet().equals(y.get(i).keySet())) {
        return Double.POSITIVE_INFINITY;
      }
      double size = 1e-9;
      for (double[] v : x.get(i).values()) {
        for (double n : v) {
          size = Math.max(size, Math.abs(n));
        }
      }
      for (String key : x.get(i).keySet()) {
        for (int k = 0; k < 10; k++) {
          most = Math.max(most, Math.abs(x.get(i).get(key)[k] - y.get(i).get(key)[k]) / size);
        }
      }
    }
    return most;
  }

  private static List<Map<String, double[]>> of(Scene scene) {
    List<Map<String, double[]>> all = new ArrayList<>();
    all.add(at(scene, Pose.rest(scene)));
    for (Clip clip : scene.clips()) {
      for (int i = 0; i < MOMENTS; i++) {
        double t =
            clip.startSeconds() + (clip.endSeconds() - clip.startSeconds()) * i / (MOMENTS - 1);
        all.add(at(scene, Pose.at(scene, clip, t)));
      }
    }
    return all;
  }

  private static Map<String, double[]> at(Scene scene, Pose pose) {
    Map<String, double[]> sums = new TreeMap<>();
    var meshes = scene.meshesById();
    for (int i = 0; i < scene.nodes().size(); i++) {
      if (scene.nodes().get(i).content() instanceof Node.Content.MeshContent content) {
        double[] p = Deform.world(scene, pose, i);
        var mesh = meshes.get(content.meshId());
        // Through a mirror the surface keeps its outside: what draws it turns it round.
        double own = Math.signum(pose.world()[i].determinant3x3());
        Skin skin = scene.skin(content.skinId()).orElse(null);
        Polygons faces = mesh.faces();
        for (int f = 0; f < faces.faceCount(); f++) {
          int slot = mesh.slot(f);
          int[] slots =
              content.slotMaterials() == null ? mesh.materialIds() : content.slotMaterials();
          double[] sum =
              sums.computeIfAbsent(
                  String.valueOf(slot < 0 || slot >= slots.length ? -1 : slots[slot]),
                  k -> new double[10]);
          double hand = skin == null ? own : hand(scene, pose, skin, faces.vertex(faces.start(f)));
          for (int c = faces.start(f) + 1; c + 1 < faces.end(f); c++) {
            add(sum, p, faces.vertex(faces.start(f)), faces.vertex(c), faces.vertex(c + 1), hand);
          }
        }
      }
    }
    return sums;
  }

  /** Whether the strongest joint of a vertex mirrors it. */
  private static double hand(Scene scene, Pose pose, Skin skin, int vertex) {
    int best = skin.offsets()[vertex];
    for (int i = best; i < skin.offsets()[vertex + 1]; i++) {
      best = skin.weights()[i] > skin.weights()[best] ? i : best;
    }
    int joint = skin.joints()[best];
    int place = scene.nodePlaces().get(skin.jointNodeIds()[joint]);
    Matrix4d bind = new Matrix4d().set(skin.inverseBind(), 16 * joint);
    return Math.signum(pose.world()[place].determinant3x3() * bind.determinant3x3());
  }

  private static void add(double[] sum, double[] p, int a, int b, int c, double hand) {
    Vector3d u = point(p, b).sub(point(p, a));
    Vector3d v = point(p, c).sub(point(p, a));
    // The area vector also tells which side is out.
    Vector3d n = u.cross(v, new Vector3d()).mul(0.5 * hand);
    double area = n.length();
    Vector3d middle = point(p, a).add(point(p, b)).add(point(p, c)).div(3);
    sum[0] += area;
    for (int k = 0; k < 3; k++) {
      sum[1 + k] += area * middle.get(k);
      sum[4 + k] += area * middle.get(k) * middle.get(k);
      sum[7 + k] += n.get(k) * middle.get((k + 1) % 3);
    }
  }

  private static Vector3d point(double[] p, int v) {
    return new Vector3d(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
  }
}
