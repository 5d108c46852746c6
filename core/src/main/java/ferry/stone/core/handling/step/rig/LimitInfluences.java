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
import java.util.List;
import java.util.Set;

/**
 * Keeps the strongest joints of every vertex and scales their weights to the sum they had, or 1.
 */
public final class LimitInfluences extends BasicStep<LimitInfluences.Params> {
  private static final Field SUM_CHOICE =
      Field.choice(
          "sum",
          "Weights",
          "What the weights of a vertex add up to afterwards.",
          "keep",
          "add up as before",
          "one",
          "add up to 1");

  private static final int MOST = 64;
  private static final double SUM = 1e-4;

  /**
   * @param most joints that may move a vertex, 1 to 64
   * @param sum {@code keep}: weights add up to what they did; {@code one}: to 1
   */
  public record Params(int most, String sum) {
    public Params {
      Field.within("most", most, 1, MOST);
      sum = SUM_CHOICE.chosen(sum);
    }
  }

  public LimitInfluences() {
    super(
        Group.SURFACE,
        "influences",
        "Limit joints a vertex",
        "Keeps the strongest joints of every vertex and scales their weights up.",
        Params.class,
        true,
        Field.number("most", "At most", "joints", 1, MOST, 4, "Viewers often evaluate 4 only."),
        SUM_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Set<Integer> skins = ChosenMeshes.skins(scene, selection);
    List<Skin> limited = new ArrayList<>();
    int vertices = 0;
    double largest = 0;
    for (Skin skin : scene.skins()) {
      progress.checkCancelled();
      boolean fits = skin.mostInfluences() <= params.most() && params.sum().equals("keep");
      if (!skins.contains(skin.id()) || fits) {
        limited.add(skin);
        continue;
      }
      double[] figures = new double[2];
      limited.add(limited(skin, params, figures));
      vertices += (int) figures[0];
      largest = Math.max(largest, figures[1]);
    }
    return StepResult.of(
        scene.toBuilder().skins(limited).build(),
        Figures.count(vertices, "vertex")
            + (vertices > 0
                ? " · at most " + Figures.plain(Math.round(1000 * largest) / 10.0) + " % dropped"
                : ""));
  }

  /**
   * @param figures becomes how many vertices changed, and the largest part of a weight dropped
   */
  private static Skin limited(Skin skin, Params params, double[] figures) {
    int most = params.most();
    boolean one = params.sum().equals("one");
    int[] offsets = new int[skin.offsets().length];
    IntList joints = new IntList(skin.joints().length);
    FloatList weights = new FloatList(skin.joints().length);
    for (int v = 0; v + 1 < offsets.length; v++) {
      int from = skin.offsets()[v];
      int to = skin.offsets()[v + 1];
      double all = 0;
      double kept = 0;
      boolean[] keep = new boolean[to - from];
      for (int i = from; i < to; i++) {
        all += skin.weights()[i];
        int stronger = 0;
        for (int j = from; j < to; j++) {
          boolean first = skin.weights()[j] == skin.weights()[i] && j < i;
          stronger += skin.weights()[j] > skin.weights()[i] || first ? 1 : 0;
        }
        keep[i - from] = stronger < most;
        kept += keep[i - from] ? skin.weights()[i] : 0;
      }
      for (int i = from; i < to; i++) {
        if (keep[i - from]) {
          joints.add(skin.joints()[i]);
          double whole = one ? 1 : all;
          weights.add((float) (kept > 0 ? skin.weights()[i] * whole / kept : skin.weights()[i]));
        }
      }
      if (to - from > most || (one && Math.abs(all - 1) > SUM)) {
        figures[0]++;
        figures[1] = Math.max(figures[1], all > 0 ? 1 - kept / all : 0);
      }
      offsets[v + 1] = joints.size();
    }
    return skin.withWeights(offsets, joints.toArray(), weights.toArray());
  }
}
