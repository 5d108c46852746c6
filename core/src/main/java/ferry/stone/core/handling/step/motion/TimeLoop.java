package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.motion.LoopGap;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Measures whether motion ends where it begins, and changes nothing. */
public final class TimeLoop extends TimeStep<TimeLoop.Params> {
  /**
   * @param named names of clips and caches; empty for all
   * @param most millimetres that may be left
   */
  public record Params(String named, double most) {
    public Params {
      Field.within("most", most, 0, LONGEST);
    }
  }

  public TimeLoop() {
    super(
        "timeLoop",
        "Check that motion loops",
        "Measures how far the last pose is from the first; nothing changes.",
        Params.class,
        NAMED,
        Field.number("most", "Gap that is let pass", "mm", 0, LONGEST, 1, "More is told."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    List<Finding> findings = new ArrayList<>();
    double most = 0;
    List<Clip> played = chosen(scene, params.named()).played();
    for (Clip clip : played) {
      progress.checkCancelled();
      LoopGap gap = gap(scene, clip);
      double millimetres = 1000 * gap.units() * scene.frame().metresPerUnit();
      most = Math.max(most, millimetres);
      if (millimetres > params.most()) {
        findings.add(
            told(scene, clip, gap.place())
                .measured(String.format(Locale.ROOT, "%.3f mm", millimetres)));
      }
      if (gap.otherFaces() >= 0) {
        findings.add(told(scene, clip, gap.otherFaces()).measured("other faces at the end"));
      }
    }
    String figure = String.format(Locale.ROOT, "gap %.3f mm", most);
    return new StepResult(scene, findings, played.isEmpty() ? "nothing moves" : figure);
  }

  private static LoopGap gap(Scene scene, Clip clip) {
    try {
      return LoopGap.of(scene, clip);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static Finding told(Scene scene, Clip clip, int place) {
    return Finding.of(
            "loop-gap",
            Severity.LOOK,
            clip.name(),
            "The motion does not end where it begins: played in a loop it jumps.")
        .nodes(List.of(scene.nodes().get(place).id()));
  }
}
