package ferry.stone.core.handling;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;

/** Runs steps in order. A step that cannot be run says why and is passed over; the rest stands. */
public final class Handling {
  private Handling() {}

  /**
   * What came of one step.
   *
   * @param scene the scene after it
   * @param figure what it changed
   * @param failure why it was passed over, or {@code null}
   */
  public record Stage(
      Step step, Scene scene, String figure, List<Finding> findings, String failure) {}

  /** All stages of a handling. */
  public static List<Stage> run(Scene near, List<Step> steps, Progress progress) {
    return run(near, steps, List.of(), progress);
  }

  /**
   * As {@link #run(Scene, List, Progress)}, using stages of an earlier run on the same near side as
   * far as their steps are the same.
   */
  public static List<Stage> run(
      Scene near, List<Step> steps, List<Stage> earlier, Progress progress) {
    List<Stage> stages = new ArrayList<>();
    Scene scene = near;
    boolean same = true;
    for (int i = 0; i < steps.size(); i++) {
      progress.checkCancelled();
      Step step = steps.get(i);
      same &= i < earlier.size() && earlier.get(i).step().equals(step);
      Stage stage =
          same ? earlier.get(i) : runOne(scene, step, known(near, step, earlier), progress);
      stages.add(stage);
      scene = stage.scene();
    }
    return stages;
  }

  /** The scene after the last stage. */
  public static Scene result(Scene near, List<Stage> stages) {
    return stages.isEmpty() ? near : stages.get(stages.size() - 1).scene();
  }

  private static KnownMeshes known(Scene near, Step step, List<Stage> earlier) {
    for (int i = 0; i < earlier.size(); i++) {
      Stage stage = earlier.get(i);
      if (step.enabled() && stage.step().equals(step) && stage.failure() == null) {
        return KnownMeshes.between(i == 0 ? near : earlier.get(i - 1).scene(), stage.scene());
      }
    }
    return KnownMeshes.NONE;
  }

  private static Stage runOne(Scene scene, Step step, KnownMeshes known, Progress progress) {
    if (!step.enabled()) {
      return new Stage(step, scene, "off", List.of(), null);
    }
    try {
      StepKind<?> kind =
          Steps.find(step.kind())
              .orElseThrow(
                  () -> new IllegalArgumentException("There is no step \"" + step.kind() + "\"."));
      StepResult result = apply(kind, scene, step, known, progress);
      return new Stage(step, result.scene(), result.figure(), result.findings(), null);
    } catch (IllegalArgumentException e) {
      Finding failed = Finding.of("step-failed", Severity.FIX, step.kind(), e.getMessage());
      return new Stage(step, scene, "not done", List.of(failed), e.getMessage());
    }
  }

  private static <P extends Record> StepResult apply(
      StepKind<P> kind, Scene scene, Step step, KnownMeshes known, Progress progress) {
    P params = Steps.params(kind, step.params());
    return kind.apply(scene, step.selection(), params, known, progress);
  }
}
