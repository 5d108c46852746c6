package ferry.stone.core.texture.match;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.ImageFiles;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Images of a cargo that no material uses. */
public final class LooseImages {
  private LooseImages() {}

  public static List<String> of(Scene scene) {
    Set<Integer> used = new HashSet<>();
    for (Material material : scene.materials()) {
      for (Material.Value value : material.channels().values()) {
        if (value.texture() != null) {
          used.add(value.texture().textureId());
        }
      }
    }
    Set<String> taken = new HashSet<>();
    for (Texture texture : scene.textures()) {
      if (used.contains(texture.id())) {
        // What was made of an image says which.
        taken.add(texture.resource() != null ? texture.resource() : texture.written());
      }
    }
    List<String> loose = new ArrayList<>(scene.images().paths());
    loose.removeAll(taken);
    return loose;
  }

  /** What the pixels of an image file look like; empty where they cannot be read. */
  public static Optional<ImageEvidence> evidence(ImageFiles images, String path) {
    return found(images, path).evidence;
  }

  /** The same of a texture that is found. */
  public static Optional<ImageEvidence> evidence(ImageFiles images, Texture texture) {
    return found(images, texture).evidence;
  }

  /** Why a texture that is found cannot be read; empty where it can. */
  public static String problem(ImageFiles images, Texture texture) {
    return found(images, texture).problem;
  }

  private static Found found(ImageFiles images, String path) {
    return images.known(path, Found.class, () -> looked(() -> images.read(path), path));
  }

  private static Found found(ImageFiles images, Texture texture) {
    byte[] file = texture.embedded();
    if (file == null) {
      return found(images, texture.resource());
    }
    String key = texture.name() + " " + file.length + " " + Arrays.hashCode(file);
    return images.known(key, Found.class, () -> looked(() -> file, texture.name()));
  }

  /** A value of its own, so that an image that cannot be read is not read again. */
  private record Found(Optional<ImageEvidence> evidence, String problem) {}

  private interface Bytes {
    byte[] read() throws IOException;
  }

  private static Found looked(Bytes file, String name) {
    try {
      return new Found(Optional.of(ImageEvidence.of(file.read(), name)), "");
    } catch (IOException e) {
      return new Found(Optional.empty(), e.getMessage());
    }
  }
}
