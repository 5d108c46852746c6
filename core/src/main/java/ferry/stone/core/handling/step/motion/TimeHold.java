package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.motion.TimeChange;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Holds the first and the last pose. */
public final class TimeHold extends TimeStep<TimeHold.Params> {
  /**
   * @param named names of clips and caches; empty for all
   * @param unit what is counted
   * @param before how long the first pose is held
   * @param after how long the last pose is held
   */
  public record Params(String named, String unit, double before, double after) {
    public Params {
      unit = UNIT.chosen(unit);
      Field.within("before", before, 0, LONGEST);
      Field.within("after", after, 0, LONGEST);
    }
  }

  public TimeHold() {
    super(
        "timeHold",
        "Hold the first or last pose",
        "Lets motion stand at its first pose before it begins, and at its last after it ends.",
        Params.class,
        NAMED,
        UNIT,
        Field.number("before", "Before", "", 0, LONGEST, 0, "How long the first pose is held."),
        Field.number("after", "After", "", 0, LONGEST, 0, "How long the last pose is held."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Chosen chosen = chosen(scene, params.named());
    if (chosen.count() == 0) {
      return nothing(scene);
    }
    double before = seconds(params.before(), params.unit(), chosen.rate());
    double after = seconds(params.after(), params.unit(), chosen.rate());
    Scene result = chosen.changed(TimeChange.held(before, after));
    return StepResult.of(result, span(result, params.named()));
  }
}
