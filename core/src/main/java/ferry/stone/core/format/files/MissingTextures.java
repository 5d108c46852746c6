package ferry.stone.core.format.files;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import java.util.HashSet;
import java.util.Set;

/**
 * Textures that materials use and whose file is not there.
 *
 * @param first name of the first, or empty
 */
public record MissingTextures(int count, String first) {
  public static MissingTextures of(Scene scene) {
    Set<Integer> ids = new HashSet<>();
    String first = "";
    for (Material material : scene.materials()) {
      for (Material.Value value : material.channels().values()) {
        TextureUse use = value.texture();
        boolean gone =
            use != null && !scene.texture(use.textureId()).map(Texture::isFound).orElse(false);
        if (gone && ids.add(use.textureId()) && ids.size() == 1) {
          first = scene.texture(use.textureId()).map(Texture::written).orElse("");
        }
      }
    }
    return new MissingTextures(ids.size(), first);
  }
}
