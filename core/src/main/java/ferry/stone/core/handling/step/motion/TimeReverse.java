package ferry.stone.core.handling.step.motion;

import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.motion.TimeChange;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Plays motion from its end to its start. */
public final class TimeReverse extends TimeStep<TimeReverse.Params> {
  /**
   * @param named names of clips and caches; empty for all
   */
  public record Params(String named) {}

  public TimeReverse() {
    super(
        "timeReverse",
        "Reverse motion",
        "Plays motion from its end to its start, in the same span.",
        Params.class,
        NAMED);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Chosen chosen = chosen(scene, params.named());
    if (chosen.count() == 0) {
      return nothing(scene);
    }
    Scene result = chosen.changed(TimeChange.reversed(chosen.start() + chosen.end()));
    return StepResult.of(result, span(result, params.named()));
  }
}
