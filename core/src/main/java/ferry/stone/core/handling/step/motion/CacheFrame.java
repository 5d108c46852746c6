package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.cache.AxisFrame;
import ferry.stone.core.geometry.cache.FramedCache;
import ferry.stone.core.geometry.cache.MovedCache;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.BitSet;
import org.joml.Matrix4d;

/** Brings caches, or some of their samples, into the numbers of their meshes. */
public final class CacheFrame extends BasicStep<CacheFrame.Params> {
  private static final double FARTHEST = 1e9;

  /**
   * @param scale of the cache's numbers
   * @param axes which of the cache's axes become X, Y and Z
   * @param turnX degrees about X, first Z is turned about, then Y, then X
   * @param moveX in numbers of the mesh, after all
   * @param samples numbers from 1 and ranges; empty for all
   */
  public record Params(
      double scale,
      String axes,
      double turnX,
      double turnY,
      double turnZ,
      double moveX,
      double moveY,
      double moveZ,
      String samples) {
    public Params {
      Field.within("scale", scale, 1e-9, 1e9);
      AxisFrame.parse(axes);
      for (double number : new double[] {turnX, turnY, turnZ, moveX, moveY, moveZ}) {
        Field.within("turn and move", number, -FARTHEST, FARTHEST);
      }
      ChosenCaches.samples(samples, 0);
    }

    Matrix4d matrix() {
      return new Matrix4d()
          .translation(moveX, moveY, moveZ)
          .rotateXYZ(Math.toRadians(turnX), Math.toRadians(turnY), Math.toRadians(turnZ))
          .mul(AxisFrame.parse(axes).matrix(scale));
    }
  }

  public CacheFrame() {
    super(
        Group.MOTION,
        "cacheFrame",
        "Bring a cache into its mesh's numbers",
        "Scales, mirrors, turns and moves the points of caches, in all samples or in some, so that"
            + " they lie where their mesh does.",
        Params.class,
        true,
        Field.number(
                "scale", "Scale", "×", 1e-9, 1e9, 1, "Of the cache's numbers: 0.01 for cm to m.")
            .proposing("1", "1", "0.01", "0.01", "100", "100", "0.001", "0.001", "1000", "1000"),
        Field.text(
            "axes",
            "Axes",
            "x,y,z",
            "Which of the cache's axes become X, Y and Z: x,-z,y; an odd number of changes mirrors."),
        number("turnX", "Turn about X", "°"),
        number("turnY", "Turn about Y", "°"),
        number("turnZ", "Turn about Z", "°"),
        number("moveX", "Move along X", "units"),
        number("moveY", "Move along Y", "units"),
        number("moveZ", "Move along Z", "units"),
        Field.text(
            "samples", "Samples", "", "Numbers from 1 and ranges, like 10-29, 40. Empty: all."));
  }

  private static Field number(String name, String label, String unit) {
    return Field.number(name, label, unit, -FARTHEST, FARTHEST, 0, "After the axes.");
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Matrix4d matrix = params.matrix();
    int[] changed = new int[2];
    Scene result =
        ChosenCaches.each(
            scene,
            selection,
            cache -> {
              BitSet samples = ChosenCaches.samples(params.samples(), cache.sampleCount());
              changed[0]++;
              changed[1] += samples.cardinality();
              boolean all = samples.cardinality() == cache.sampleCount();
              return all ? new MovedCache(cache, matrix) : FramedCache.of(cache, matrix, samples);
            });
    return StepResult.of(
        result, Figures.count(changed[0], "cache") + " · " + Figures.count(changed[1], "sample"));
  }
}
