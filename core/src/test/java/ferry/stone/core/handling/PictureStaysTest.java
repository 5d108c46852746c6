package ferry.stone.core.handling;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.WorldSurface;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Steps that arrange a scene anew leave its surface where it was, with its materials, its outside,
 * and its motion, or refuse with a reason. On random rigs with skins, morph targets and clips.
 */
class PictureStaysTest {
  private static final int SEEDS = 24;

  /** Positions are floats; paths of turning pivots are sampled four times a frame. */
  private static final double EXACT = 2e-5;

  private static final double SAMPLED = 2e-3;

  static List<Arguments> steps() {
    return List.of(
        Arguments.of("split", Map.of("by", "pieces"), EXACT),
        Arguments.of("split", Map.of("by", "places"), EXACT),
        Arguments.of("split", Map.of("by", "material"), EXACT),
        Arguments.of("split", Map.of("by", "set"), EXACT),
        Arguments.of("split", Map.of("by", "islands"), EXACT),
        Arguments.of("pivot", Map.of("to", "box", "height", "base", "side", "left"), SAMPLED),
        Arguments.of("pivot", Map.of("to", "origin", "snap", 0.25), SAMPLED),
        Arguments.of("pivot", Map.of("to", "point", "x", 0.3, "z", -1.5), SAMPLED),
        Arguments.of(
            "centre", Map.of("what", "all", "parts", "each", "keep", "transform"), SAMPLED),
        Arguments.of("pivot", Map.of("to", "mirror"), SAMPLED),
        Arguments.of("reset", Map.of("what", "scale"), EXACT),
        Arguments.of("reset", Map.of("what", "rotation"), EXACT),
        Arguments.of("reset", Map.of("what", "all"), EXACT),
        Arguments.of("group", Map.of("at", "base"), EXACT),
        Arguments.of("instances", Map.of("to", "copies"), EXACT),
        Arguments.of("instances", Map.of("to", "share"), EXACT),
        Arguments.of("ground", Map.of("keep", "transform"), EXACT),
        Arguments.of("weld", Map.of("distance", 0), EXACT),
        Arguments.of("cutApart", Map.of(), EXACT),
        Arguments.of("uvs", Map.of("how", "box"), EXACT),
        Arguments.of("material", Map.of("name", "plain"), EXACT),
        Arguments.of("morphRest", Map.of("how", "bake"), EXACT),
        Arguments.of("joints", Map.of("keep", "used"), EXACT),
        Arguments.of("remove", Map.of("what", "unusedVertices"), EXACT),
        Arguments.of("remove", Map.of("what", "emptyGroups"), EXACT),
        Arguments.of("remove", Map.of("what", "unusedMaterials"), EXACT),
        Arguments.of("rename", Map.of("how", "rules", "what", "morphs"), EXACT),
        Arguments.of("rename", Map.of("how", "unique"), EXACT));
  }

  @ParameterizedTest(name = "{0} {1}")
  @MethodSource("steps")
  void surfaceStays(String kind, Map<String, Object> params, double tolerance) {
    int done = 0;
    for (int seed = 0; seed < SEEDS; seed++) {
      Scene near = RandomRig.of(new Random(seed), 4);
      var stages =
          Handling.run(near, List.of(new Step("1", kind, params, true, List.of())), Progress.NONE);
      String failure = stages.get(0).failure();
      if (failure != null) {
        assertTrue(failure.length() > 30, failure);
        assertTrue(
            Set.of("merge", "reset", "ground", "centre", "pivot", "morphRest").contains(kind),
            kind + " refused: " + failure);
        continue;
      }
      done++;
      Scene far = stages.get(0).scene();
      sound(far, kind + " seed " + seed);
      double off = WorldSurface.difference(near, far);
      assertTrue(off <= tolerance, kind + params + " seed " + seed + ": " + off);
    }
    assertTrue(done > 0, kind + " never ran");
  }

  private static Handling.Stage run(
      Scene scene, String kind, Map<String, Object> params, int... ids) {
    List<Integer> nodes = java.util.Arrays.stream(ids).boxed().toList();
    return Handling.run(scene, List.of(new Step("1", kind, params, true, nodes)), Progress.NONE)
        .get(0);
  }

  /** Parts under other parents, which stand still, and morph targets with names of their own. */
  private static Scene still(Scene rig) {
    Scene scene = rig.toBuilder().clips(List.of()).build();
    for (Node node : rig.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent) {
        Map<String, Object> names = Map.of("what", "morphs", "how", "affix", "prefix", node.name());
        scene = run(scene, "rename", names, node.id()).scene();
      }
    }
    return scene;
  }

  @org.junit.jupiter.api.Test
  void mergedPartsStayWhereTheyWereAndComeApartAgain() {
    int done = 0;
    for (int seed = 0; seed < 60; seed++) {
      Scene near = still(RandomRig.of(new Random(seed), 4));
      int[] meshes =
          near.nodes().stream()
              .filter(n -> n.content() instanceof Node.Content.MeshContent)
              .mapToInt(Node::id)
              .toArray();
      var stage = run(near, "merge", Map.of("name", "one"), meshes);
      if (stage.failure() != null) {
        assertTrue(stage.failure().length() > 30, stage.failure());
        continue;
      }
      sound(stage.scene(), "seed " + seed);
      assertTrue(WorldSurface.difference(near, stage.scene()) <= EXACT, "seed " + seed);
      var again = run(stage.scene(), "split", Map.of("by", "object"));
      assertEquals(null, again.failure());
      assertTrue(WorldSurface.difference(near, again.scene()) <= EXACT, "apart, seed " + seed);
      done++;
    }
    assertTrue(done >= 10, done + " merged");
  }

  /** Split, then merged: the same surface in every pose, with its weights and morph targets. */
  @org.junit.jupiter.api.Test
  void splitThenMergedIsTheSameSurface() {
    int skinned = 0;
    for (int seed = 0; seed < 60; seed++) {
      Scene near = RandomRig.of(new Random(seed), 4);
      for (Node node : near.nodes()) {
        if (!(node.content() instanceof Node.Content.MeshContent content)) {
          continue;
        }
        var apart = run(near, "split", Map.of("by", "material"), node.id());
        boolean whole = apart.scene().nodes().size() < near.nodes().size() + 2;
        if (whole) {
          continue;
        }
        Set<Integer> old = new HashSet<>(near.nodePlaces().keySet());
        List<Node> nodes = apart.scene().nodes();
        int[] pieces =
            nodes.stream()
                .filter(n -> n.parent() >= 0 && nodes.get(n.parent()).id() == node.id())
                .mapToInt(Node::id)
                .filter(id -> !old.contains(id))
                .toArray();
        var merged = run(apart.scene(), "merge", Map.of(), pieces);
        assertEquals(null, merged.failure());
        sound(merged.scene(), "seed " + seed);
        assertTrue(WorldSurface.difference(near, merged.scene()) <= EXACT, "seed " + seed);
        skinned += content.skinId() >= 0 ? 1 : 0;
      }
    }
    assertTrue(skinned >= 5, skinned + " with skins");
  }

  /** Every reference in a scene leads to something that is there. */
  static void sound(Scene scene, String what) {
    Set<Integer> ids = new HashSet<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node = scene.nodes().get(i);
      assertTrue(node.parent() < i, what + ": parents stand first");
      assertTrue(ids.add(node.id()), what + ": ids are unique");
    }
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    assertEquals(meshes.size(), scene.meshes().size(), what);
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content) {
        PolygonMesh mesh = meshes.get(content.meshId());
        Assertions.assertNotNull(mesh, what + ": " + node.name());
        if (content.slotMaterials() != null) {
          assertEquals(mesh.materialIds().length, content.slotMaterials().length, what);
        }
        if (content.skinId() >= 0) {
          Skin skin = scene.skin(content.skinId()).orElseThrow();
          assertEquals(mesh.points().count(), skin.offsets().length - 1, what);
        }
      }
    }
    for (Skin skin : scene.skins()) {
      for (int joint : skin.jointNodeIds()) {
        assertTrue(ids.contains(joint), what + ": joint of a skin");
      }
    }
    scene.cameras().forEach(c -> ids.add(c.id()));
    scene.lights().forEach(l -> ids.add(l.id()));
    scene.materials().forEach(m -> ids.add(m.id()));
    for (Clip clip : scene.clips()) {
      for (Clip.Track track : clip.tracks()) {
        assertTrue(ids.contains(track.targetId()), what + ": track " + track.property());
      }
    }
    assertFalse(scene.nodes().isEmpty(), what);
  }
}
