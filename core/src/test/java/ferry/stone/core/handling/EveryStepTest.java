package ferry.stone.core.handling;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.CopiedScene;
import ferry.stone.core.RandomRig;
import ferry.stone.core.RandomScene;
import ferry.stone.core.RandomWreck;
import ferry.stone.core.field.Field;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.pair.SideLedger;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Every kind of step, with every choice that its fields offer, on random scenes and rigs: it leaves
 * a sound scene or says why not, never changes what it was given, and does the same when run again.
 */
class EveryStepTest {
  private static final int SEEDS = 6;

  /**
   * What refuses until parts are named; {@link PartStepsTest} and {@link PutLookTest} name them.
   */
  private static final Set<String> NEEDS_PARTS = Set.of("parent", "levels", "putLook");

  static List<String> kinds() {
    return Steps.all().stream().map(StepKind::kind).toList();
  }

  private static List<Scene> scenes() {
    List<Scene> all = new ArrayList<>();
    for (int seed = 0; seed < SEEDS; seed++) {
      all.add(RandomScene.of(new Random(seed)));
      all.add(RandomRig.of(new Random(seed), 5));
    }
    all.add(CopiedScene.of(new Random(SEEDS)));
    return all;
  }

  /** The standard parameters, and each choice of each field once. */
  private static List<Map<String, Object>> choices(StepKind<?> kind) {
    List<Map<String, Object>> all = new ArrayList<>(List.of(Map.of()));
    for (Field field : kind.fields()) {
      for (Field.Option option : field.options()) {
        all.add(Map.of(field.name(), option.value()));
      }
      if (field.type().equals("flag")) {
        all.add(Map.of(field.name(), !Boolean.TRUE.equals(field.standard())));
      }
    }
    return all;
  }

  /** A number for all that a scene's meshes hold. */
  private static int print(Scene scene) {
    int sum = 7;
    for (Node node : scene.nodes()) {
      sum = 31 * sum + Objects.hash(node.id(), node.name(), node.parent(), node.transform());
      if (node.content() instanceof Node.Content.MeshContent content) {
        sum = 31 * sum + Arrays.hashCode(content.morphWeights());
      }
    }
    for (PolygonMesh mesh : scene.meshes()) {
      sum = 31 * sum + Arrays.hashCode(mesh.points().toFloats());
      for (var layer : mesh.attributes()) {
        sum = 31 * sum + Arrays.hashCode(layer.values());
      }
      for (int c = 0; c < mesh.faces().cornerCount(); c++) {
        sum = 31 * sum + mesh.faces().vertex(c);
      }
    }
    return sum;
  }

  @ParameterizedTest
  @MethodSource("kinds")
  void itLeavesASoundSceneOrSaysWhyNot(String name) {
    StepKind<?> kind = Steps.find(name).orElseThrow();
    int done = 0;
    for (Scene near : scenes()) {
      int before = print(near);
      for (Map<String, Object> params : choices(kind)) {
        var step = new Step("a", name, params, true, List.of());
        var stage = Handling.run(near, List.of(step), Progress.NONE).get(0);
        String what = near.name() + ": " + name + params;
        assertEquals(before, print(near), what + " changed what it was given");
        if (stage.failure() != null) {
          assertTrue(stage.failure().contains(" "), what + ": " + stage.failure());
          continue;
        }
        done++;
        PictureStaysTest.sound(stage.scene(), what);
        Map<Integer, Integer> places = stage.scene().nodePlaces();
        for (CopySet set : Copies.standing(stage.scene())) {
          assertTrue(Arrays.stream(set.nodeIds()).allMatch(places::containsKey), what);
        }
        var again = Handling.run(near, List.of(step), Progress.NONE).get(0);
        assertEquals(print(stage.scene()), print(again.scene()), what + " twice");
      }
    }
    assertEquals(!NEEDS_PARTS.contains(name), done > 0, name + " ran " + done + " times");
  }

  /**
   * Lists of random steps replay to the same far side; a step that fails leaves the rest standing.
   */
  @Test
  void listsOfStepsReplay() {
    for (int seed = 0; seed < 40; seed++) {
      Random random = new Random(seed);
      Scene near = RandomRig.of(new Random(seed), 4);
      List<Step> steps = new ArrayList<>();
      for (int i = 0; i < 6; i++) {
        StepKind<?> kind = Steps.all().get(random.nextInt(Steps.all().size()));
        List<Map<String, Object>> choices = choices(kind);
        Map<String, Object> params = new HashMap<>(choices.get(random.nextInt(choices.size())));
        steps.add(new Step("s" + i, kind.kind(), params, true, List.of()));
      }
      var first = Handling.run(near, steps, Progress.NONE);
      assertEquals(steps.size(), first.size());
      Scene far = Handling.result(near, first);
      PictureStaysTest.sound(far, "seed " + seed + " " + steps);
      Scene again = Handling.result(near, Handling.run(near, steps, Progress.NONE));
      for (LedgerRow row : SideLedger.of(far, again)) {
        assertEquals(LedgerRow.Verdict.KEPT, row.verdict(), "seed " + seed + ": " + row);
      }
    }
  }

  /**
   * What readers let through with much wrong is surveyed, and every step with every choice leaves a
   * sound scene or says why not. So do the survey's own offers.
   */
  @Test
  void wrecksAreHandledOrRefusedWithAReason() {
    int done = 0;
    int refused = 0;
    for (int seed = 0; seed < 150; seed++) {
      Scene near = RandomWreck.of(new Random(seed));
      for (StepKind<?> kind : Steps.all()) {
        for (Map<String, Object> params : choices(kind)) {
          Step step = new Step("a", kind.kind(), params, true, List.of());
          var stage = Handling.run(near, List.of(step), Progress.NONE).get(0);
          String what = "wreck " + seed + ": " + kind.kind() + params;
          if (stage.failure() == null) {
            PictureStaysTest.sound(stage.scene(), what);
            done++;
          } else {
            assertTrue(stage.failure().matches("(?s).*\\w+ \\w+.*"), what + stage.failure());
            refused++;
          }
        }
      }
    }
    assertTrue(done > 3 * refused, done + " done, " + refused + " refused");
  }
}
