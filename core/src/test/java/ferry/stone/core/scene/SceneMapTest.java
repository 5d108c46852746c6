package ferry.stone.core.scene;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.landing.RisingSequence;
import ferry.stone.core.landing.StillCache;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodeSet;
import ferry.stone.core.scene.node.Skin;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Nothing that a scene holds is forgotten when it is renumbered. */
class SceneMapTest {
  /** What has no number and refers to none. */
  private static final Set<String> PLAIN =
      Set.of(
          "name",
          "frame",
          "unitSource",
          "axesSource",
          "uvOrigin",
          "linearColours",
          "placement",
          "framesPerSecond",
          "variants",
          "properties",
          "unread",
          "images",
          "nextId");

  private static Scene scene() {
    Scene rig = RandomRig.of(new Random(4), 6);
    SceneBuilder more = rig.toBuilder();
    int texture = more.newId();
    more.add(new Texture(texture, "oak.png", "oak.png", null, null));
    more.add(new Camera(more.newId(), "eye", 1, 0, 1, 0.1, 10, Map.of()));
    more.add(
        new Light(
            more.newId(), "lamp", Light.Kind.POINT, new float[] {1, 1, 1}, 1, 1, 0, 0, Map.of()));
    more.add(new NodeSet("deck", NodeSet.Kind.LAYER, new int[] {rig.nodes().get(0).id()}, true));
    int[] copies = {rig.nodes().get(0).id(), rig.nodes().get(1).id()};
    more.add(new CopySet(CopySet.Kind.BRANCHES, -1, copies));
    more.add(new RisingSequence(more.newId(), rig.meshes().get(0), 2));
    more.compose(
        new Composition(
            List.of(new Composition.Layer("yard.usda", "opened", "")),
            List.of(),
            List.of(),
            Map.of(rig.nodes().get(0).id(), List.of("yard.usda"))));
    more.caches(List.of(new StillCache(rig.meshes().get(0).id())));
    more.secondMotions(List.of(new StillCache(rig.meshes().get(0).id())));
    return more.build();
  }

  private static List<Object> ids(Object element) throws Exception {
    List<Object> ids = new ArrayList<>();
    if (element instanceof NodeSet set) {
      for (int id : set.nodeIds()) {
        ids.add(id);
      }
      return ids;
    }
    if (element instanceof CopySet set) {
      for (int id : set.nodeIds()) {
        ids.add(id);
      }
      return ids;
    }
    ids.add(element.getClass().getMethod("id").invoke(element));
    return ids;
  }

  @Test
  void everyComponentIsMappedOrKnownToBePlain() throws Exception {
    Scene scene = scene();
    Scene mapped = SceneMap.fresh(scene, scene.toBuilder()).apply(scene);
    for (RecordComponent component : Scene.class.getRecordComponents()) {
      Object before = component.getAccessor().invoke(scene);
      Object after = component.getAccessor().invoke(mapped);
      if (component.getName().equals("composition")) {
        Composition own = (Composition) before;
        Composition other = (Composition) after;
        assertEquals(own.layers(), other.layers());
        assertEquals(1, own.sources().size());
        assertNotEquals(own.sources().keySet(), other.sources().keySet());
        continue;
      }
      if (PLAIN.contains(component.getName())) {
        assertEquals(before, after, component.getName());
        continue;
      }
      List<?> old = (List<?>) before;
      List<?> now = (List<?>) after;
      assertFalse(old.isEmpty(), component.getName() + " is not in the scene of this test");
      assertEquals(old.size(), now.size(), component.getName());
      for (int i = 0; i < old.size(); i++) {
        assertNotEquals(ids(old.get(i)), ids(now.get(i)), component.getName());
      }
    }
  }

  @Test
  void whatRefersToWhatIsGoneGoesToo() {
    Scene scene = scene();
    int joint = scene.skins().get(0).jointNodeIds()[0];
    List<Node> rest =
        scene.nodes().stream().filter(n -> n.id() != joint).map(n -> n.withParent(-1)).toList();
    Scene without = scene.toBuilder().nodes(rest).build();
    Scene mapped = SceneMap.same(without).apply(without);
    assertTrue(
        mapped.skins().stream()
            .noneMatch(s -> Arrays.stream(s.jointNodeIds()).anyMatch(j -> j == joint)));
    assertTrue(
        mapped.clips().stream()
            .flatMap(c -> c.tracks().stream())
            .noneMatch(t -> t.targetId() == joint));
    Set<Integer> skins = new HashSet<>(mapped.skins().stream().map(Skin::id).toList());
    for (Node node : mapped.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content && content.skinId() >= 0) {
        assertTrue(skins.contains(content.skinId()));
      }
    }
  }
}
