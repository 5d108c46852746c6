package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Where joints and groups are, and how they are turned, at each moment of a clip: what moves
 * vertices only a little, or none at all, is told too. They are found by their names.
 */
final class NodeMotionProof {
  /** Rounded keys of a chain of joints; a vertex moves by what {@link RigProof} tells. */
  private static final double SAME_DEGREES = 0.05;

  private final Ledger ledger;
  private final Scene far;
  private final Scene read;
  private final double tolerance;

  /** Places in both scenes. */
  private final List<int[]> pairs = new ArrayList<>();

  private double off;
  private String offWhere = "";
  private double turned;
  private String turnedWhere = "";

  /**
   * @param tolerance metres that are none
   */
  NodeMotionProof(Ledger ledger, Scene far, Scene read, double tolerance) {
    this.ledger = ledger;
    this.far = far;
    this.read = read;
    this.tolerance = tolerance;
    Map<String, Integer> places = joints(read);
    joints(far)
        .forEach(
            (name, place) -> {
              Integer there = places.get(name);
              if (place >= 0 && there != null && there >= 0) {
                pairs.add(new int[] {place, there});
              }
            });
  }

  /** Places of joints and groups by their names; −1 for names that several have. */
  private static Map<String, Integer> joints(Scene scene) {
    Set<Integer> ids = new HashSet<>();
    for (Skin skin : scene.skins()) {
      for (int id : skin.jointNodeIds()) {
        ids.add(id);
      }
    }
    Map<String, Integer> places = new HashMap<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node = scene.nodes().get(i);
      if (ids.contains(node.id()) || Node.Content.GROUP.equals(node.content())) {
        int place = i;
        places.merge(node.name(), place, (a, b) -> -1);
      }
    }
    return places;
  }

  /**
   * Two rows for a clip; none without joints.
   *
   * @param moments of the clip
   * @param why what of a format tells of it, should they differ
   */
  void compare(String name, Clip clip, Clip landed, double[] moments, Capability why) {
    if (pairs.isEmpty()) {
      return;
    }
    off = 0;
    turned = 0;
    double later = landed.startSeconds() - clip.startSeconds();
    ClipPoses wanted = ClipPoses.of(far, clip);
    ClipPoses found = ClipPoses.of(read, landed);
    for (double moment : moments) {
      Pose a = wanted.at(moment);
      Pose b = nearest(a, found, moment + later);
      for (int[] pair : pairs) {
        joint(a.world()[pair[0]], b.world()[pair[1]], pair[0], moment - clip.startSeconds());
      }
    }
    String joints = Figures.count(pairs.size(), "node");
    ledger
        .about(why)
        .off(off)
        .add(
            "Places of joints and groups during " + name,
            -1,
            "",
            joints,
            Figures.count(moments.length, "moment"),
            Proof.millimetres(off),
            off <= tolerance ? Verdict.KEPT : Verdict.CHANGED,
            off <= tolerance ? "" : "most at " + offWhere);
    ledger.about(why).measure(Measure.off(Measure.DEGREES, turned));
    ledger.add(
        "Directions of joints and groups during " + name,
        -1,
        "",
        joints,
        Figures.count(moments.length, "moment"),
        String.format(Locale.ROOT, "%.4f°", turned),
        turned <= SAME_DEGREES ? Verdict.KEPT : Verdict.CHANGED,
        turned <= SAME_DEGREES ? "" : "most at " + turnedWhere);
  }

  /** A jump at this very moment may be told a 32-bit rounding earlier or later. */
  private Pose nearest(Pose wanted, ClipPoses found, double moment) {
    Pose best = found.at(moment);
    double least = apart(wanted, best);
    for (int side = -1; side <= 1 && least > tolerance; side += 2) {
      Pose beside = found.at(moment + side * 2.0 * Math.ulp((float) moment));
      double here = apart(wanted, beside);
      if (here < least) {
        least = here;
        best = beside;
      }
    }
    return best;
  }

  private double apart(Pose a, Pose b) {
    double most = 0;
    for (int[] pair : pairs) {
      Vector3d there = b.world()[pair[1]].getTranslation(new Vector3d());
      most = Math.max(most, a.world()[pair[0]].getTranslation(new Vector3d()).distance(there));
    }
    return most;
  }

  private void joint(Matrix4d a, Matrix4d b, int place, double seconds) {
    double apart = a.getTranslation(new Vector3d()).distance(b.getTranslation(new Vector3d()));
    if (apart > off) {
      off = apart;
      offWhere = where(place, seconds);
    }
    for (int axis = 0; axis < 3; axis++) {
      double angle =
          Math.toDegrees(
              a.getColumn(axis, new Vector3d()).angle(b.getColumn(axis, new Vector3d())));
      if (angle > turned) {
        turned = angle;
        turnedWhere = where(place, seconds);
      }
    }
  }

  private String where(int place, double seconds) {
    return far.nodes().get(place).name() + String.format(Locale.ROOT, ", %.3f s", seconds);
  }
}
