package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.motion.TimeChange;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Moves motion along the time line. */
public final class TimeShift extends TimeStep<TimeShift.Params> {
  /**
   * @param named names of clips and caches; empty for all
   * @param unit what the start is counted in
   * @param start where the first of them begins then
   */
  public record Params(String named, String unit, double start) {
    public Params {
      unit = UNIT.chosen(unit);
      Field.within("start", start, -LONGEST, LONGEST);
    }
  }

  public TimeShift() {
    super(
        "timeShift",
        "Shift motion in time",
        "Lets motion begin at a moment: at 0, at frame 1, or anywhere; what is chosen stays"
            + " together.",
        Params.class,
        NAMED,
        UNIT,
        Field.number("start", "Begins at", "", -LONGEST, LONGEST, 0, "Of the first of them.")
            .proposing("0", "0", "1", "1"));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Chosen chosen = chosen(scene, params.named());
    if (chosen.count() == 0) {
      return nothing(scene);
    }
    double start = seconds(params.start(), params.unit(), chosen.rate());
    Scene result = chosen.changed(TimeChange.mapped(1, start - chosen.start()));
    return StepResult.of(result, span(result, params.named()));
  }
}
