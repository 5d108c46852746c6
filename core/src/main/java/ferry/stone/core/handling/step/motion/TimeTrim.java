package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.motion.TimeChange;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Keeps what moves between two moments. */
public final class TimeTrim extends TimeStep<TimeTrim.Params> {
  /**
   * @param named names of clips and caches; empty for all
   * @param unit what the range is counted in
   * @param first of what stays
   * @param last of what stays
   */
  public record Params(String named, String unit, double first, double last) {
    public Params {
      unit = UNIT.chosen(unit);
      Field.within("first", first, -LONGEST, LONGEST);
      Field.within("last", last, first, LONGEST);
    }
  }

  public TimeTrim() {
    super(
        "timeTrim",
        "Trim motion to a range",
        "Keeps what moves from one moment to another; both belong to it.",
        Params.class,
        NAMED,
        UNIT,
        Field.number("first", "First", "", -LONGEST, LONGEST, 0, "First moment that stays."),
        Field.number("last", "Last", "", -LONGEST, LONGEST, 24, "Last moment that stays."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Chosen chosen = chosen(scene, params.named());
    if (chosen.count() == 0) {
      return nothing(scene);
    }
    double from = seconds(params.first(), params.unit(), chosen.rate());
    double to = seconds(params.last(), params.unit(), chosen.rate());
    Scene result = chosen.changed(TimeChange.cut(from, to));
    return StepResult.of(result, span(result, params.named()));
  }
}
