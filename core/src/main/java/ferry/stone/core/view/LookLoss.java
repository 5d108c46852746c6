package ferry.stone.core.view;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.model.MaterialLoss;
import ferry.stone.core.texture.model.MaterialReflection;
import java.io.IOException;
import java.util.Optional;

/** How far a material of the far side reflects otherwise than that of its name on the near side. */
public final class LookLoss {
  private LookLoss() {}

  /**
   * @param longest side of the picture in pixels
   * @return empty where one side has no such material, or where light does not count for it
   */
  public static Optional<MaterialLoss> of(
      Scene near, Scene far, String name, Resources cargo, int longest) {
    Optional<Material> before = named(near, name);
    Optional<Material> after = named(far, name);
    if (before.isEmpty() || after.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        MaterialLoss.of(
            reflection(before.get(), near, cargo), reflection(after.get(), far, cargo), longest));
  }

  private static Optional<Material> named(Scene scene, String name) {
    return scene.materials().stream()
        .filter(m -> m.name().equals(name) && m.shading() != Material.Shading.UNLIT)
        .findFirst();
  }

  private static MaterialReflection reflection(Material material, Scene scene, Resources cargo) {
    return new MaterialReflection(
        material, scene.linearColours(), use -> pixels(scene, use, cargo), false);
  }

  /** What is missing is seen as its factor alone. */
  private static Pixels pixels(Scene scene, TextureUse use, Resources cargo) {
    Texture texture = scene.texture(use.textureId()).orElse(null);
    if (texture == null || !texture.isFound()) {
      return null;
    }
    try {
      return ImageCodec.decode(TextureBytes.read(texture, cargo), texture.name());
    } catch (IOException e) {
      return null;
    }
  }
}
