package ferry.stone.core.handling;

import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.Scene;
import java.util.HashSet;
import java.util.Set;

/** Meshes that no node shows any more, with their skins and caches. */
final class Orphans {
  private Orphans() {}

  static Scene without(Scene scene) {
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
    return scene.toBuilder()
        .meshes(scene.meshes().stream().filter(m -> shown.contains(m.id())).toList())
        .skins(scene.skins().stream().filter(s -> skins.contains(s.id())).toList())
        .caches(scene.caches().stream().filter(c -> shown.contains(c.meshId())).toList())
        .cameras(scene.cameras().stream().filter(c -> cameras.contains(c.id())).toList())
        .lights(scene.lights().stream().filter(l -> lights.contains(l.id())).toList())
        .build();
  }
}
