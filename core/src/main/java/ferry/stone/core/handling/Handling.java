package ferry.stone.core.handling;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.CancelledException;
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
   * @param resolved the step with the ids that its parts have
   * @param missing parts that it names and that are not there
   */
  public record Stage(
      Step step,
      Scene scene,
      String figure,
      List<Finding> findings,
      String failure,
      Step resolved,
      List<PartNaming.Missing> missing) {}

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
    boolean named = steps.stream().anyMatch(s -> !s.parts().isEmpty() || !s.paramParts().isEmpty());
    PartNaming naming = named ? new PartNaming(near) : null;
    boolean same = true;
    for (int i = 0; i < steps.size(); i++) {
      progress.checkCancelled();
      Step step = steps.get(i);
      same &= i < earlier.size() && earlier.get(i).step().equals(step);
      Stage stage =
          same ? earlier.get(i) : runOne(scene, step, naming, known(near, step, earlier), progress);
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

  private static Stage runOne(
      Scene scene, Step given, PartNaming naming, KnownMeshes known, Progress progress) {
    PartNaming.Resolved found =
        naming == null
            ? new PartNaming.Resolved(given, List.of(), null)
            : naming.resolve(given, scene);
    Step step = found.step();
    if (!step.enabled()) {
      return new Stage(given, scene, "off", List.of(), null, step, found.missing());
    }
    if (found.failure() != null) {
      return failed(scene, given, found, found.failure());
    }
    try {
      StepKind<?> kind =
          Steps.find(step.kind())
              .orElseThrow(
                  () -> new IllegalArgumentException("There is no step \"" + step.kind() + "\"."));
      StepResult result = Sequences.after(scene, apply(kind, scene, step, known, progress));
      return new Stage(
          given, result.scene(), result.figure(), result.findings(), null, step, List.of());
    } catch (IllegalArgumentException e) {
      return failed(scene, given, found, e.getMessage());
    } catch (CancelledException e) {
      throw e;
    } catch (RuntimeException e) {
      // A fault of ours inside a step must not take the rest with it.
      return failed(
          scene,
          given,
          found,
          "This step met a fault and was passed over ("
              + e.getClass().getSimpleName()
              + (e.getMessage() == null ? "" : ": " + e.getMessage())
              + "). The scene is as it was before it.");
    }
  }

  private static Stage failed(Scene scene, Step given, PartNaming.Resolved found, String problem) {
    Finding failed = Finding.of("step-failed", Severity.FIX, given.kind(), problem);
    return new Stage(
        given, scene, "not done", List.of(failed), problem, found.step(), found.missing());
  }

  private static <P extends Record> StepResult apply(
      StepKind<P> kind, Scene scene, Step step, KnownMeshes known, Progress progress) {
    P params = Steps.params(kind, step.params());
    return kind.apply(scene, step.selection(), params, known, progress);
  }
}
