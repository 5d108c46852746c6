package ferry.stone.core.handling.step.parts;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneMap;
import ferry.stone.core.scene.node.Node;
import java.util.HashSet;
import java.util.Set;

/** Meshes that no node shows any more, with their skins and caches. */
public final class Orphans {
  private Orphans() {}

  public static Scene without(Scene scene) {
    Set<Integer> shown = new HashSet<>();
    Set<Integer> skins = new HashSet<>();
    Set<Integer> cameras = new HashSet<>();
    Set<Integer> lights = new HashSet<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content) {
        shown.add(content.meshId());
        skins.add(content.skinId());
      } else if (node.content() instanceof Node.Content.CameraContent content) {
        cameras.add(content.cameraId());
      } else if (node.content() instanceof Node.Content.LightContent content) {
        lights.add(content.lightId());
      }
    }
    SceneMap map = SceneMap.same(scene);
    scene.meshes().stream()
        .map(m -> m.id())
        .filter(id -> !shown.contains(id))
        .forEach(map::withoutMesh);
    scene.skins().stream()
        .map(s -> s.id())
        .filter(id -> !skins.contains(id))
        .forEach(map::withoutSkin);
    scene.cameras().stream()
        .map(c -> c.id())
        .filter(id -> !cameras.contains(id))
        .forEach(map::withoutCamera);
    scene.lights().stream()
        .map(l -> l.id())
        .filter(id -> !lights.contains(id))
        .forEach(map::withoutLight);
    return map.apply(scene);
  }
}
