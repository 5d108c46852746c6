package ferry.stone.core.handling;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;

/** Steps find their parts again when the cargo is read anew and ids are handed out otherwise. */
class PartNamingTest {
  /** A cargo as a reader makes it: ids in the order of reading. */
  private static Scene read(String... names) {
    SceneBuilder scene = new SceneBuilder("weir");
    int deck = scene.newId();
    scene.add(Node.of(deck, "deck", -1, Node.Content.GROUP));
    for (String name : names) {
      int mesh = scene.newId();
      float[] p = {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1};
      scene.add(
          PolygonMesh.of(
              mesh, name, Coordinates.of(p), Polygons.triangles(new int[] {0, 1, 2, 0, 2, 3})));
      scene.add(Node.of(scene.newId(), name, 0, Node.Content.MeshContent.of(mesh)));
    }
    return scene.build();
  }

  private static int id(Scene scene, String name) {
    return scene.nodes().stream().filter(n -> n.name().equals(name)).findFirst().orElseThrow().id();
  }

  private static String name(Scene scene, int id) {
    return scene.nodes().get(scene.nodePlaces().get(id)).name();
  }

  private static Step saved(Scene near, String kind, Map<String, Object> params, String... names) {
    List<Integer> ids = new ArrayList<>();
    for (String name : names) {
      ids.add(id(near, name));
    }
    return new PartNaming(near).named(new Step("a", kind, params, true, ids), List.of());
  }

  private static Handling.Stage run(Scene near, Step... steps) {
    List<Handling.Stage> stages = Handling.run(near, List.of(steps), Progress.NONE);
    return stages.get(stages.size() - 1);
  }

  private static final Map<String, String[]> READ_ANEW =
      Map.of(
          "another part first", new String[] {"rail", "beam", "post", "lamp"},
          "another part gone", new String[] {"post", "lamp"},
          "in another order", new String[] {"lamp", "post", "beam"},
          "another part renamed", new String[] {"girder", "post", "lamp"});

  @TestFactory
  List<DynamicTest> everyKindOfStepFindsItsPart() {
    List<DynamicTest> tests = new ArrayList<>();
    for (StepKind<?> kind : Steps.all()) {
      if (!kind.takesSelection()) {
        continue;
      }
      READ_ANEW.forEach(
          (change, names) ->
              tests.add(
                  DynamicTest.dynamicTest(
                      kind.kind() + ", " + change,
                      () -> {
                        Scene before = read("beam", "post", "lamp");
                        Step step = saved(before, kind.kind(), Map.of(), "post");
                        assertTrue(step.nodeIds().isEmpty());
                        Scene after = read(names);
                        Handling.Stage stage = run(after, step);
                        assertEquals(1, stage.resolved().nodeIds().size());
                        assertEquals("post", name(after, stage.resolved().nodeIds().get(0)));
                        assertTrue(stage.missing().isEmpty());
                      })));
      tests.add(
          DynamicTest.dynamicTest(
              kind.kind() + ", its own part renamed",
              () -> {
                Step step = saved(read("beam", "post", "lamp"), kind.kind(), Map.of(), "post");
                Scene after = read("beam", "post_01", "lamp");
                Handling.Stage stage = run(after, step);
                assertNotNull(stage.failure());
                assertTrue(stage.failure().contains("deck/post"), stage.failure());
                assertEquals(after, stage.scene());
                assertEquals("deck/post_01", stage.missing().get(0).likely().path());
              }));
    }
    assertTrue(tests.size() > 100);
    return tests;
  }

  @Test
  void removingOnePartNeverRemovesAnother() {
    Step remove = saved(read("beam", "post"), "remove", Map.of("what", "parts"), "beam");
    Scene near = read("rail", "post", "beam");
    Scene far = run(near, remove).scene();
    assertEquals(List.of("deck", "rail", "post"), far.nodes().stream().map(Node::name).toList());
    // The part is gone from the cargo: nothing is removed in its place.
    Scene without = read("post", "rail");
    Handling.Stage stage = run(without, remove);
    assertNotNull(stage.failure());
    assertEquals(without, stage.scene());
  }

  @Test
  void partsOfOnePathAreToldByTheirOrderOrNotAtAll() {
    Scene near = read("lamp", "lamp", "post");
    int second = near.nodes().get(2).id();
    Step step =
        new PartNaming(near)
            .named(new Step("a", "ground", Map.of(), true, List.of(second)), List.of());
    assertEquals(new PartRef("deck/lamp", 2, 2, false), step.parts().get(0));
    Scene same = read("post", "lamp", "lamp");
    assertEquals(
        same.nodes().get(3).id(), new PartNaming(same).resolve(step, same).step().nodeIds().get(0));
    PartNaming.Resolved three =
        new PartNaming(read("lamp", "lamp", "lamp")).resolve(step, read("lamp"));
    assertTrue(three.failure().contains("not clear"), three.failure());
    assertEquals(2, three.missing().get(0).likely().ordinal());
  }

  @Test
  void partsThatStepsMadeAreFoundAfterThoseSteps() {
    Scene near = read("beam", "post");
    Step group = saved(near, "group", Map.of("name", "pair"), "beam", "post");
    Handling.Stage grouped = run(near, group);
    assertNull(grouped.failure());
    int made = id(grouped.scene(), "pair");
    Step rename =
        new PartNaming(near)
            .named(
                new Step("b", "remove", Map.of("what", "parts"), true, List.of(made)),
                List.of(grouped.scene()));
    assertTrue(rename.parts().get(0).made());
    Scene anew = read("rail", "post", "beam");
    Scene far = run(anew, group, rename).scene();
    assertEquals(List.of("deck", "rail"), far.nodes().stream().map(Node::name).toList());
  }

  @Test
  void partsInParametersAreNamedToo() {
    Scene near = read("beam", "post", "lamp");
    Step hang = saved(near, "parent", Map.of(field("parent", "part"), id(near, "post")), "lamp");
    assertEquals("deck/post", hang.paramParts().values().iterator().next().path());
    Scene anew = read("lamp", "rail", "post");
    Scene far = run(anew, hang).scene();
    assertTrue(far.paths().contains("deck/post/lamp"), far.paths().toString());
    Step picked =
        saved(
            near,
            "split",
            Map.of("by", "faces", field("split", "faces"), id(near, "post") + ":0"),
            "post");
    Scene split = run(anew, picked).scene();
    assertEquals(
        3,
        split.nodes().stream().filter(n -> n.name().startsWith("post")).count(),
        split.paths().toString());
  }

  private static String field(String kind, String type) {
    return Steps.find(kind).orElseThrow().fields().stream()
        .filter(f -> f.type().equals(type))
        .findFirst()
        .orElseThrow()
        .name();
  }
}
