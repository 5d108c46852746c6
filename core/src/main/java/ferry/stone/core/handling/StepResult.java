package ferry.stone.core.handling;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.scene.Scene;
import java.util.List;

/**
 * What a step did.
 *
 * @param findings what it met
 * @param figure what it changed, in a few words with a number: {@code cm → m}
 */
public record StepResult(Scene scene, List<Finding> findings, String figure) {
  public static StepResult of(Scene scene, String figure) {
    return new StepResult(scene, List.of(), figure);
  }
}
