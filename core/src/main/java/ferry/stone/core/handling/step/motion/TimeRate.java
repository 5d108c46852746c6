package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.motion.TimeChange;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Gives the time line another rate. */
public final class TimeRate extends TimeStep<TimeRate.Params> {
  private static final double FASTEST = 1000;

  private static final Field KEEP =
      Field.choice(
          "keep",
          "What stays",
          "Seconds: everything lasts as long, and frames are counted anew. Frames: each frame keeps"
              + " its number, and everything runs faster or slower.",
          "seconds",
          "Seconds",
          "frames",
          "Frames");

  /**
   * @param rate frames a second
   * @param keep what stays as it is
   */
  public record Params(double rate, String keep) {
    public Params {
      Field.within("rate", rate, 1, FASTEST);
      keep = KEEP.chosen(keep);
    }
  }

  public TimeRate() {
    super(
        "timeRate",
        "Change the frame rate",
        "Counts frames at another rate, with seconds or frame numbers as they were.",
        Params.class,
        Field.number("rate", "Frames a second", "", 1, FASTEST, 24, "Of the time line.")
            .proposing("24", "24", "25", "25", "30", "30", "60", "60"),
        KEEP);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Chosen chosen = chosen(scene, "");
    Scene result = scene;
    if (params.keep().equals("frames")) {
      result = chosen.changed(TimeChange.mapped(chosen.rate() / params.rate(), 0));
    }
    result = result.toBuilder().framesPerSecond(params.rate()).build();
    String rates = plain(chosen.rate()) + " → " + plain(params.rate()) + "/s";
    return StepResult.of(result, chosen.count() == 0 ? rates : rates + " · " + span(result, ""));
  }
}
