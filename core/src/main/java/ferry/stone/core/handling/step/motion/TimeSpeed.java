package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.motion.TimeChange;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Lets motion run faster or slower. */
public final class TimeSpeed extends TimeStep<TimeSpeed.Params> {
  private static final double FASTEST = 1000;

  /**
   * @param named names of clips and caches; empty for all
   * @param factor 2 for twice as fast
   */
  public record Params(String named, double factor) {
    public Params {
      Field.within("factor", factor, 1 / FASTEST, FASTEST);
    }
  }

  public TimeSpeed() {
    super(
        "timeSpeed",
        "Change the speed of motion",
        "Lets motion run faster or slower from its start on.",
        Params.class,
        NAMED,
        Field.number("factor", "Speed", "×", 1 / FASTEST, FASTEST, 1, "2 for twice as fast.")
            .proposing("0.5", "Half", "1", "As it is", "2", "Double"));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Chosen chosen = chosen(scene, params.named());
    if (chosen.count() == 0) {
      return nothing(scene);
    }
    double scale = 1 / params.factor();
    Scene result =
        chosen.changed(TimeChange.mapped(scale, chosen.start() - scale * chosen.start()));
    return StepResult.of(result, span(result, params.named()));
  }
}
