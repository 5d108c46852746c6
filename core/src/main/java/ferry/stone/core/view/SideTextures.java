package ferry.stone.core.view;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import java.util.ArrayList;
import java.util.List;

/** The images of a scene with where they are. */
final class SideTextures {
  private SideTextures() {}

  static List<SideView.TextureFact> of(Scene scene) {
    List<SideView.TextureFact> facts = new ArrayList<>();
    for (Texture t : scene.textures()) {
      String state = t.embedded() != null ? "embedded" : t.resource() != null ? "found" : "missing";
      facts.add(
          new SideView.TextureFact(
              t.id(),
              t.name(),
              t.written(),
              state,
              t.resource() == null ? "" : t.resource(),
              users(scene, t.id())));
    }
    return facts;
  }

  private static List<String> users(Scene scene, int texture) {
    return scene.materials().stream()
        .filter(
            m ->
                m.channels().values().stream()
                    .anyMatch(v -> v.texture() != null && v.texture().textureId() == texture))
        .map(Material::name)
        .distinct()
        .toList();
  }
}
