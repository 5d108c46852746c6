package ferry.stone.core.handling.step.rig;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Leaves joints out of skins: those that move nothing, or so many that a limit is kept. A joint
 * that is left out gives its weights to the nearest joint above it that stays. The nodes stay in
 * the hierarchy, so clips and what hangs on them stay too.
 */
public final class SkinJoints extends BasicStep<SkinJoints.Params> {
  private static final Field KEEP_CHOICE =
      Field.choice(
          "keep",
          "Keep",
          "Which joints stay.",
          "used",
          "all that move a vertex",
          "most",
          "at most a number");

  private static final int MOST = 10_000;

  /**
   * @param keep {@code used} (all that move a vertex) or {@code most} (at most so many)
   * @param most joints of one skin, 1 to 10000
   */
  public record Params(String keep, int most) {
    public Params {
      keep = KEEP_CHOICE.chosen(keep);
      Field.within("most", most, 1, MOST);
    }
  }

  public SkinJoints() {
    super(
        Group.SURFACE,
        "joints",
        "Leave out joints of skins",
        "Leaves joints out of skins that move nothing, or those that move least. Their weights go"
            + " to the joint above; the hierarchy and clips stay.",
        Params.class,
        true,
        KEEP_CHOICE,
        Field.number("most", "At most", "joints", 1, MOST, 60, "For at most a number only."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Set<Integer> skins = ChosenMeshes.skins(scene, selection);
    Map<Integer, Integer> places = scene.nodePlaces();
    List<Skin> result = new ArrayList<>();
    int before = 0;
    int after = 0;
    for (Skin skin : scene.skins()) {
      progress.checkCancelled();
      Skin now = skins.contains(skin.id()) ? fewer(scene, skin, params, places) : skin;
      result.add(now);
      before += skins.contains(skin.id()) ? skin.jointNodeIds().length : 0;
      after += skins.contains(skin.id()) ? now.jointNodeIds().length : 0;
    }
    return StepResult.of(
        scene.toBuilder().skins(result).build(),
        Figures.count(before - after, "joint") + " left out · " + Figures.count(after) + " stay");
  }

  private static Skin fewer(Scene scene, Skin skin, Params params, Map<Integer, Integer> places) {
    int n = skin.jointNodeIds().length;
    double[] moved = new double[n];
    for (int i = 0; i < skin.joints().length; i++) {
      moved[skin.joints()[i]] += skin.weights()[i];
    }
    int[] above = above(scene, skin, places);
    int[] children = new int[n];
    for (int j = 0; j < n; j++) {
      if (above[j] >= 0) {
        children[above[j]]++;
      }
    }
    int[] goesTo = new int[n];
    boolean[] gone = new boolean[n];
    for (int j = 0; j < n; j++) {
      goesTo[j] = j;
      gone[j] = params.keep().equals("used") && moved[j] == 0;
    }
    int left = n;
    while (params.keep().equals("most") && left > params.most()) {
      int least = least(moved, above, children, gone);
      if (least < 0) {
        throw new IllegalArgumentException(
            "Only "
                + left
                + " joints can be reached by leaving out joints that hang on others of \""
                + skin.name()
                + "\". Split the mesh instead");
      }
      gone[least] = true;
      goesTo[least] = above[least];
      moved[above[least]] += moved[least];
      children[above[least]]--;
      left--;
    }
    boolean all = true;
    for (boolean g : gone) {
      all &= g;
    }
    // A skin keeps one joint at least.
    gone[0] &= !all;
    return without(skin, gone, goesTo);
  }

  /** For each joint the nearest one above it in the same skin, −1 for none. */
  private static int[] above(Scene scene, Skin skin, Map<Integer, Integer> places) {
    Map<Integer, Integer> jointAt = new HashMap<>();
    for (int j = 0; j < skin.jointNodeIds().length; j++) {
      jointAt.putIfAbsent(places.get(skin.jointNodeIds()[j]), j);
    }
    int[] above = new int[skin.jointNodeIds().length];
    Arrays.fill(above, -1);
    for (int j = 0; j < above.length; j++) {
      int at = scene.nodes().get(places.get(skin.jointNodeIds()[j])).parent();
      while (at >= 0 && above[j] < 0) {
        above[j] = jointAt.getOrDefault(at, -1);
        at = scene.nodes().get(at).parent();
      }
    }
    return above;
  }

  /** The outermost joint that moves least and has one above to take its weights. */
  private static int least(double[] moved, int[] above, int[] children, boolean[] gone) {
    int least = -1;
    for (int j = 0; j < moved.length; j++) {
      if (!gone[j] && children[j] == 0 && above[j] >= 0 && (least < 0 || moved[j] < moved[least])) {
        least = j;
      }
    }
    return least;
  }

  private static Skin without(Skin skin, boolean[] gone, int[] goesTo) {
    int[] number = new int[gone.length];
    IntList kept = new IntList(gone.length);
    for (int j = 0; j < gone.length; j++) {
      number[j] = gone[j] ? -1 : kept.size();
      if (!gone[j]) {
        kept.add(j);
      }
    }
    if (kept.size() == gone.length) {
      return skin;
    }
    int[] ids = new int[kept.size()];
    double[] binds = new double[16 * ids.length];
    for (int j = 0; j < ids.length; j++) {
      ids[j] = skin.jointNodeIds()[kept.get(j)];
      System.arraycopy(skin.inverseBind(), 16 * kept.get(j), binds, 16 * j, 16);
    }
    int[] offsets = new int[skin.offsets().length];
    IntList joints = new IntList(skin.joints().length);
    FloatList weights = new FloatList(skin.joints().length);
    float[] sum = new float[ids.length];
    for (int v = 0; v + 1 < offsets.length; v++) {
      IntList own = new IntList(8);
      for (int i = skin.offsets()[v]; i < skin.offsets()[v + 1]; i++) {
        int joint = skin.joints()[i];
        while (gone[joint] && goesTo[joint] != joint) {
          joint = goesTo[joint];
        }
        int at = number[joint];
        // A joint that moves nothing has weights of zero only.
        if (at >= 0 && skin.weights()[i] != 0) {
          if (sum[at] == 0) {
            own.add(at);
          }
          sum[at] += skin.weights()[i];
        }
      }
      for (int i = 0; i < own.size(); i++) {
        joints.add(own.get(i));
        weights.add(sum[own.get(i)]);
        sum[own.get(i)] = 0;
      }
      offsets[v + 1] = joints.size();
    }
    return new Skin(
        skin.id(),
        skin.name(),
        skin.meshId(),
        ids,
        binds,
        offsets,
        joints.toArray(),
        weights.toArray(),
        skin.method(),
        skin.bindMatrix());
  }
}
