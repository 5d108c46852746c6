package ferry.stone.core.routine;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Accepting;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * The steps of a routine on one scene.
 *
 * @param steps accepted offers first, then those of the routine
 * @param findings steps that found nothing to work on or could not run
 */
public record RoutineHandling(
    List<Step> steps, List<Handling.Stage> stages, Scene far, List<Finding> findings) {
  /** What is told of a step that names parts and found none. */
  public static final String UNMATCHED = "routine-step-unmatched";

  /**
   * The steps that a routine takes on a scene: what its numbers mean where the file does not say,
   * then what was offered, where the routine accepts it, then its own.
   */
  public static List<Step> steps(Routine routine, Scene near, List<Finding> survey) {
    List<Step> steps = new ArrayList<>();
    boolean unit = !routine.unit().isEmpty() && near.unitSource() == FrameSource.ASSUMED;
    boolean up = !routine.up().isEmpty() && near.axesSource() == FrameSource.ASSUMED;
    if (unit) {
      steps.add(step("unit", "sourceUnit", Map.of("unit", routine.unit())));
    }
    if (up) {
      steps.add(step("up", "sourceUp", Map.of("up", routine.up())));
    }
    List<Offer> offers = new ArrayList<>();
    for (Offer offer : Accepting.together(survey)) {
      boolean meaning = offer.kind().startsWith("source");
      boolean said =
          unit && offer.kind().equals("sourceUnit") || up && offer.kind().equals("sourceUp");
      if (!said && (routine.accept() || meaning)) {
        offers.add(offer);
      }
    }
    int[] number = new int[1];
    steps = Accepting.with(steps, offers, () -> "accepted" + ++number[0]);
    for (int i = 0; i < routine.steps().size(); i++) {
      steps.add(routine.steps().get(i).step("routine" + (i + 1)));
    }
    return steps;
  }

  /** A landing of nothing is none. */
  public static void check(List<Finding> survey) throws FormatException {
    for (Finding finding : survey) {
      if (finding.code().equals("buffer-missing")) {
        throw new FormatException(
            FormatException.Kind.MISSING,
            finding.where(),
            "",
            "its data file is missing, so nothing was written. " + finding.message());
      }
    }
  }

  private static Step step(String id, String kind, Map<String, Object> params) {
    return new Step(id, kind, params, true, List.of());
  }

  public static RoutineHandling of(
      Routine routine, Scene near, List<Finding> survey, Progress progress) {
    List<Step> steps = steps(routine, near, survey);
    List<Handling.Stage> stages = Handling.run(near, steps, progress);
    return new RoutineHandling(steps, stages, Handling.result(near, stages), told(near, stages));
  }

  /** What does not match is a finding, not a silent skip. */
  public static List<Finding> told(Scene near, List<Handling.Stage> stages) {
    Findings told = new Findings();
    Scene before = near;
    for (Handling.Stage stage : stages) {
      Step step = stage.step();
      boolean names = !step.pattern().isEmpty() || !step.ofKind().isEmpty();
      if (stage.failure() != null) {
        told.addAll(stage.findings());
      } else if (step.enabled() && names && !any(step.selection().exact(before))) {
        String what =
            step.pattern().isEmpty()
                ? "of the kind \"" + step.ofKind() + "\""
                : "named \"" + step.pattern() + "\"";
        told.add(
            Finding.of(
                UNMATCHED,
                Severity.LOOK,
                Steps.find(step.kind()).orElseThrow().label(),
                "No part is "
                    + what
                    + ": the step changed nothing. Look at the names of the parts."));
      }
      before = stage.scene();
    }
    return told.list();
  }

  private static boolean any(boolean[] chosen) {
    for (boolean one : chosen) {
      if (one) {
        return true;
      }
    }
    return false;
  }
}
