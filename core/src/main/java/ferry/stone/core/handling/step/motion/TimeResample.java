package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.motion.TimeChange;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Gives motion a key or a sample at each frame. */
public final class TimeResample extends TimeStep<TimeResample.Params> {
  private static final double FASTEST = 1000;

  /**
   * @param named names of clips and caches; empty for all
   * @param rate samples a second, 0 for the rate of the scene
   */
  public record Params(String named, double rate) {
    public Params {
      Field.within("rate", rate, 0, FASTEST);
    }
  }

  public TimeResample() {
    super(
        "timeResample",
        "Sample motion anew",
        "Gives clips a key and caches a sample at each frame, straight between them.",
        Params.class,
        NAMED,
        Field.number("rate", "Samples a second", "", 0, FASTEST, 0, "0 for the rate of the scene.")
            .proposing("0", "As the scene", "24", "24", "25", "25", "30", "30", "60", "60"));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Chosen chosen = chosen(scene, params.named());
    if (chosen.count() == 0) {
      return nothing(scene);
    }
    double rate = params.rate() > 0 ? params.rate() : chosen.rate();
    Scene result = chosen.changed(TimeChange.sampled(rate));
    return StepResult.of(result, plain(rate) + "/s · " + span(result, params.named()));
  }
}
