package ferry.stone.core.handling;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** A fault inside one step takes neither the other steps nor the scene with it. */
class FaultsInStepsTest {

  /** A node that shows a mesh which is not there, as no reader lets through. */
  private static Scene broken() {
    SceneBuilder scene = new SceneBuilder("broken");
    Node.Content missing = Node.Content.MeshContent.of(99);
    scene.add(Node.of(scene.newId(), "sheet", -1, missing));
    return scene.build();
  }

  private static Step step(String kind, Map<String, Object> params) {
    return new Step(kind, kind, params, true, List.of());
  }

  @Test
  void theFaultyStepSaysSoAndTheRestIsDone() {
    Scene near = broken();
    int faults = 0;
    for (StepKind<?> kind : Steps.all()) {
      Step rename =
          step(
              "rename", Map.of("what", "parts", "how", "replace", "find", "sheet", "with", "deck"));
      List<Handling.Stage> stages =
          Handling.run(near, List.of(step(kind.kind(), Map.of()), rename), Progress.NONE);
      Handling.Stage first = stages.get(0);
      if (first.failure() != null) {
        assertSame(near, first.scene(), kind.kind());
        assertEquals("step-failed", first.findings().get(0).code());
      }
      if (first.failure() != null && first.failure().contains("met a fault")) {
        faults++;
        assertNull(stages.get(1).failure(), kind.kind());
        assertEquals("deck", stages.get(1).scene().nodes().get(0).name(), kind.kind());
      }
    }
    assertTrue(faults > 0, "no step met a fault: the test looks at nothing");
  }
}
