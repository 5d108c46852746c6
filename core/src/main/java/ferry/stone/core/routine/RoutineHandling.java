package ferry.stone.core.routine;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Accepting;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;

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

  /** The steps that a routine takes on a scene: what was offered there, where it accepts. */
  public static List<Step> steps(Routine routine, List<Finding> survey) {
    List<Step> steps = new ArrayList<>();
    if (routine.accept()) {
      int[] number = new int[1];
      List<Offer> offers = Accepting.together(survey);
      steps.addAll(Accepting.with(List.of(), offers, () -> "accepted" + ++number[0]));
    }
    for (int i = 0; i < routine.steps().size(); i++) {
      steps.add(routine.steps().get(i).step("routine" + (i + 1)));
    }
    return steps;
  }

  public static RoutineHandling of(
      Routine routine, Scene near, List<Finding> survey, Progress progress) {
    List<Step> steps = steps(routine, survey);
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
