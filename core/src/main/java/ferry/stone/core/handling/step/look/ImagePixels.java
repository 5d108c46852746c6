package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** The images of a scene's textures, decoded once. */
final class ImagePixels {
  private final Scene scene;
  private final Map<Integer, Pixels> decoded = new HashMap<>();
  private final Set<String> lost = new TreeSet<>();

  ImagePixels(Scene scene) {
    this.scene = scene;
  }

  /** The file of a texture that is found. */
  static byte[] file(Scene scene, Texture texture) throws IOException {
    return texture.embedded() != null
        ? texture.embedded()
        : scene.images().read(texture.resource());
  }

  /** {@code null} where the image is missing or cannot be read. */
  Pixels of(TextureUse use) {
    if (use == null) {
      return null;
    }
    int id = use.textureId();
    if (!decoded.containsKey(id)) {
      decoded.put(id, decode(id));
    }
    return decoded.get(id);
  }

  /** Names of images that were asked for and could not be had. */
  Set<String> lost() {
    return lost;
  }

  private Pixels decode(int id) {
    Texture texture = scene.texture(id).orElse(null);
    try {
      if (texture != null && texture.isFound()) {
        return ImageCodec.decode(file(scene, texture), texture.name());
      }
    } catch (IOException e) {
      lost.add(texture.name());
      return null;
    }
    lost.add(texture == null ? "texture " + id : texture.name());
    return null;
  }
}
