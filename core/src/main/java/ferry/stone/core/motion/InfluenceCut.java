package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.Map;
import org.joml.Vector3d;

/**
 * How far vertices move when only the strongest joints of each are kept and scaled to 1, at rest
 * and at moments of all clips.
 *
 * @param metres the farthest
 * @param where the clip in which it is, empty for the rest pose
 * @param vertices how many vertices lose joints
 */
public record InfluenceCut(double metres, String where, long vertices) {
  /** Moments of a clip at which it is measured, its ends among them. */
  public static final int MOMENTS = 9;

  /** Height of a person by which a tolerance is given, in metres. */
  public static final double PERSON_METRES = 1.75;

  /**
   * What of a movement counts as none in a scene.
   *
   * @param millimetres on something of a person's size
   */
  public static double allowedMetres(Scene scene, double millimetres) {
    var box = scene.bounds();
    if (box.isEmpty()) {
      return 0;
    }
    double longest = Math.max(box.size(0), Math.max(box.size(1), box.size(2)));
    return millimetres / 1000 * longest * scene.frame().metresPerUnit() / PERSON_METRES;
  }

  /**
   * @param most joints that are kept, 0 for all
   */
  public static InfluenceCut of(Scene scene, int most, Progress progress) {
    InfluenceCut worst = new InfluenceCut(0, "", 0);
    boolean any = most > 0 && scene.skins().stream().anyMatch(s -> s.mostInfluences() > most);
    if (!any) {
      return worst;
    }
    Map<Integer, Integer> places = scene.nodePlaces();
    worst = worst.with(at(scene, Pose.rest(scene), most, places), "");
    for (Clip clip : scene.clips()) {
      ClipPoses poses = ClipPoses.of(scene, clip);
      for (int i = 0; i < MOMENTS; i++) {
        progress.checkCancelled();
        double t =
            clip.startSeconds() + (clip.endSeconds() - clip.startSeconds()) * i / (MOMENTS - 1);
        worst = worst.with(at(scene, poses.at(t), most, places), clip.name());
      }
    }
    return worst;
  }

  private InfluenceCut with(InfluenceCut other, String name) {
    boolean more = other.metres > metres;
    return new InfluenceCut(
        more ? other.metres : metres, more ? name : where, Math.max(vertices, other.vertices));
  }

  private static InfluenceCut at(Scene scene, Pose pose, int most, Map<Integer, Integer> places) {
    double farthest = 0;
    long count = 0;
    for (int i = 0; i < scene.nodes().size(); i++) {
      if (!(scene.nodes().get(i).content() instanceof Node.Content.MeshContent content)) {
        continue;
      }
      Skin skin = scene.skin(content.skinId()).orElse(null);
      PolygonMesh mesh = scene.mesh(content.meshId()).orElse(null);
      if (skin == null || mesh == null || skin.mostInfluences() <= most) {
        continue;
      }
      double[] joints = Deform.jointMatrices(skin, pose, places);
      double[] points = Deform.morphed(mesh, pose.morphWeights()[i]);
      Work work = new Work(skin, joints, most);
      for (int v = 0; v + 1 < skin.offsets().length && 3 * v < points.length; v++) {
        if (skin.offsets()[v + 1] - skin.offsets()[v] > most) {
          farthest = Math.max(farthest, work.moved(v, points));
          count++;
        }
      }
    }
    return new InfluenceCut(farthest * scene.frame().metresPerUnit(), "", count);
  }

  /** One skin in one pose. */
  private static final class Work {
    private final Skin skin;
    private final double[] joints;
    private final double[] all = new double[16];
    private final double[] kept = new double[16];
    private final boolean[] strong;
    private final int most;
    private final Vector3d a = new Vector3d();
    private final Vector3d b = new Vector3d();

    Work(Skin skin, double[] joints, int most) {
      this.skin = skin;
      this.joints = joints;
      this.most = most;
      strong = new boolean[skin.mostInfluences()];
    }

    double moved(int v, double[] points) {
      int from = skin.offsets()[v];
      int to = skin.offsets()[v + 1];
      java.util.Arrays.fill(strong, 0, to - from, false);
      for (int k = 0; k < most; k++) {
        int best = -1;
        for (int i = from; i < to; i++) {
          boolean free = !strong[i - from];
          best = free && (best < 0 || skin.weights()[i] > skin.weights()[best]) ? i : best;
        }
        strong[best - from] = true;
      }
      java.util.Arrays.fill(all, 0);
      java.util.Arrays.fill(kept, 0);
      double sum = 0;
      double some = 0;
      for (int i = from; i < to; i++) {
        double weight = skin.weights()[i];
        boolean stays = strong[i - from];
        sum += weight;
        some += stays ? weight : 0;
        for (int k = 0; k < 16; k++) {
          double part = weight * joints[16 * skin.joints()[i] + k];
          all[k] += part;
          kept[k] += stays ? part : 0;
        }
      }
      if (!(sum > 0) || !(some > 0)) {
        return 0;
      }
      place(all, sum, v, points, a);
      place(kept, some, v, points, b);
      return a.distance(b);
    }

    private static void place(double[] m, double sum, int v, double[] p, Vector3d to) {
      double x = p[3 * v];
      double y = p[3 * v + 1];
      double z = p[3 * v + 2];
      to.set(
          (m[0] * x + m[4] * y + m[8] * z + m[12]) / sum,
          (m[1] * x + m[5] * y + m[9] * z + m[13]) / sum,
          (m[2] * x + m[6] * y + m[10] * z + m[14]) / sum);
    }
  }
}
