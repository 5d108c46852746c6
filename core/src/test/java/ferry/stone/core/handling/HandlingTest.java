package ferry.stone.core.handling;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.geometry.Solids;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class HandlingTest {
  /** A box 10 by 20 by 40 standing with its long side along Z, off the ground. */
  private static Scene box() {
    SceneBuilder scene = new SceneBuilder("box");
    scene.add(
        Solids.box(10, 20, 40)
            .withPoints(
                Solids.box(10, 20, 40)
                    .points()
                    .transform(new org.joml.Matrix4d().translation(5, 6, 7))));
    scene.add(Node.of(9, "box", -1, Node.Content.MeshContent.of(1)));
    return scene.nextId(20).build();
  }

  private static Step step(String kind, Map<String, Object> params) {
    return new Step(kind, kind, params, true, List.of());
  }

  private static Bounds landed(Scene near, Step... steps) {
    List<Handling.Stage> stages = Handling.run(near, List.of(steps), Progress.NONE);
    stages.forEach(s -> assertNull(s.failure()));
    return Rebase.intoData(Handling.result(near, stages), Frame.Y_UP_METRE).bounds();
  }

  @Test
  void unitAndUpAxis() {
    Bounds b =
        landed(
            box(), step("sourceUnit", Map.of("unit", "cm")), step("sourceUp", Map.of("up", "z")));
    assertEquals(0.4, b.size(1), 1e-7);
    assertEquals(0.07, b.minY(), 1e-7);
    // −90° about X: what was +Y looks to −Z.
    assertEquals(-0.26, b.minZ(), 1e-7);
  }

  @Test
  void groundAndCentreFollowTheUpAxis() {
    Bounds b =
        landed(
            box(),
            step("sourceUp", Map.of("up", "z")),
            step("ground", Map.of()),
            step("centre", Map.of("what", "ground")));
    assertEquals(0, b.minY(), 1e-6);
    assertEquals(0, b.centre().x, 1e-6);
    assertEquals(0, b.centre().z, 1e-6);
    Bounds all = landed(box(), step("centre", Map.of("what", "all")));
    assertEquals(0, all.centre().length(), 1e-6);
  }

  @Test
  void rotationsAreAboutAxesOfTheFarSide() {
    Bounds b =
        landed(
            box(),
            step("sourceUp", Map.of("up", "z")),
            step("rotate", Map.of("axis", "y", "degrees", 90)));
    // Up stays up; width and depth change places.
    assertEquals(40, b.size(1), 1e-5);
    assertEquals(20, b.size(0), 1e-5);
    assertEquals(10, b.size(2), 1e-5);
  }

  @Test
  void stepsRunInOrder() {
    Bounds first = landed(box(), step("scale", Map.of("factor", 2)), step("ground", Map.of()));
    Bounds then = landed(box(), step("ground", Map.of()), step("scale", Map.of("factor", 2)));
    assertEquals(first.minY(), then.minY(), 1e-6);
    assertEquals(40, first.size(1), 1e-5);
  }

  @Test
  void placementTouchesNoMesh() {
    Scene near = box();
    var stages =
        Handling.run(
            near,
            List.of(step("ground", Map.of()), step("scale", Map.of("factor", 3))),
            Progress.NONE);
    assertSame(near.meshes().get(0), Handling.result(near, stages).meshes().get(0));
  }

  @Test
  void aFailedStepSaysWhyAndTheRestStands() {
    Scene near = box();
    List<Step> steps =
        List.of(
            step("sourceUnit", Map.of("unit", "cubit")),
            step("wobble", Map.of()),
            step("scale", Map.of("factor", "much")),
            step("scale", Map.of("factor", 2)));
    var stages = Handling.run(near, steps, Progress.NONE);
    assertTrue(stages.get(0).failure().contains("cubit"));
    assertTrue(stages.get(1).failure().contains("wobble"));
    assertNotNull(stages.get(2).failure());
    assertNull(stages.get(3).failure());
    assertEquals(80, Handling.result(near, stages).bounds().size(2), 1e-5);
    assertThrows(IllegalArgumentException.class, () -> Steps.validate(steps.get(0)));
  }

  @Test
  void valuesOutOfRangeAreRefusedInASentence() {
    for (Step bad :
        List.of(
            step("scale", Map.of("factor", 0)),
            step("rotate", Map.of("axis", "w", "degrees", 3)),
            step("rotate", Map.of("axis", "x", "degrees", 361)),
            step("centre", Map.of("what", "sideways")),
            step("normals", Map.of("angle", 181)),
            step("sourceUp", Map.of("up", "north")),
            step("ground", Map.of("extra", 1)))) {
      IllegalArgumentException e =
          assertThrows(IllegalArgumentException.class, () -> Steps.validate(bad), bad.kind());
      assertTrue(e.getMessage().endsWith("."), e.getMessage());
    }
  }

  @Test
  void stepsSwitchedOffChangeNothing() {
    Scene near = box();
    Step off = new Step("a", "scale", Map.of("factor", 5), false, List.of());
    assertSame(near, Handling.result(near, Handling.run(near, List.of(off), Progress.NONE)));
  }

  @Test
  void earlierStagesAreUsedAgain() {
    Scene near = box();
    List<Step> steps = new ArrayList<>(List.of(step("normals", Map.of("angle", 30))));
    var first = Handling.run(near, steps, Progress.NONE);
    steps.add(step("ground", Map.of()));
    var second = Handling.run(near, steps, first, Progress.NONE);
    assertSame(first.get(0), second.get(0));
    steps.set(0, step("normals", Map.of("angle", 60)));
    var third = Handling.run(near, steps, second, Progress.NONE);
    assertTrue(third.get(0) != second.get(0));
  }

  @Test
  void everyKindHasFieldsThatItsStandardValuesPass() {
    for (StepKind<?> kind : Steps.all()) {
      Map<String, Object> params = new java.util.HashMap<>();
      kind.fields().forEach(f -> params.put(f.name(), f.standard()));
      Steps.validate(new Step("x", kind.kind(), params, true, List.of()));
      assertTrue(kind.help().endsWith("."), kind.kind());
    }
  }

  @Test
  void normalsOfChosenPartsOnly() {
    Scene near = box();
    Step other = new Step("n", "normals", Map.of("angle", 30), true, List.of(77));
    Scene same = Handling.result(near, Handling.run(near, List.of(other), Progress.NONE));
    assertSame(near.meshes().get(0), same.meshes().get(0));
    Step own = new Step("n", "normals", Map.of("angle", 30), true, List.of(9));
    Scene changed = Handling.result(near, Handling.run(near, List.of(own), Progress.NONE));
    assertEquals(1, changed.meshes().get(0).attributes().size());
  }

  @Test
  void normalsAreNotComputedAgainForAMeshThatIsTheSame() {
    Step normals = step("normals", Map.of("angle", 30));
    Scene near = box();
    List<Handling.Stage> first = Handling.run(near, List.of(normals), Progress.NONE);
    List<Handling.Stage> moved =
        Handling.run(near, List.of(step("ground", Map.of()), normals), first, Progress.NONE);
    assertSame(
        Handling.result(near, first).meshes().get(0), Handling.result(near, moved).meshes().get(0));
    Step other = step("normals", Map.of("angle", 100));
    List<Handling.Stage> smooth = Handling.run(near, List.of(other), moved, Progress.NONE);
    assertEquals(
        8,
        Handling.result(near, smooth)
            .meshes()
            .get(0)
            .first(ferry.stone.core.scene.mesh.Attribute.Semantic.NORMAL)
            .orElseThrow()
            .valueCount());
  }
}
