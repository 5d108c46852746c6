package ferry.stone.core.format.gltf.plan;

import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.Pixels;
import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;

/** The images a scene's materials use: what each is, and its bytes and pixels when asked for. */
public final class SourceImages {
  private final Scene scene;
  private final Resources cargo;
  private final Consumer<String> unreadable;
  private final Map<Integer, Optional<ImageInfo>> infos = new HashMap<>();
  private final Set<Integer> undecodable = new HashSet<>();

  /**
   * @param unreadable told once of each file that is there and cannot be read as an image
   */
  public SourceImages(Scene scene, Resources cargo, Consumer<String> unreadable) {
    this.scene = scene;
    this.cargo = cargo;
    this.unreadable = unreadable;
  }

  /** Whether its file is there and begins as an image does. */
  public boolean has(TextureUse use) {
    return use != null && info(use.textureId()).isPresent();
  }

  /** Whether its pixels were asked for and cannot be read. */
  public boolean isUndecodable(TextureUse use) {
    return undecodable.contains(use.textureId());
  }

  /** What an image says about itself; empty when its file is missing or unreadable. */
  public Optional<ImageInfo> info(int textureId) {
    return infos.computeIfAbsent(
        textureId,
        id -> {
          Texture texture = texture(id);
          if (!texture.isFound()) {
            return Optional.empty();
          }
          try {
            return Optional.of(ImageCodec.probe(bytes(id), texture.name()));
          } catch (IOException e) {
            unreadable.accept(e.getMessage());
            return Optional.empty();
          }
        });
  }

  public byte[] bytes(int textureId) throws IOException {
    return TextureBytes.read(texture(textureId), cargo);
  }

  public Pixels pixels(TextureUse use) throws IOException {
    return ImageCodec.decode(bytes(use.textureId()), name(use));
  }

  /** The same for a question that is asked before anything is made: told when it fails. */
  public Optional<Pixels> ask(TextureUse use) {
    try {
      return Optional.of(pixels(use));
    } catch (IOException e) {
      if (undecodable.add(use.textureId())) {
        unreadable.accept(e.getMessage());
      }
      return Optional.empty();
    }
  }

  public Texture texture(int id) {
    return scene.texture(id).orElseThrow();
  }

  public String name(TextureUse use) {
    return scene.texture(use.textureId()).map(Texture::name).orElse("");
  }

  public String stem(TextureUse use) {
    return CargoPath.stem(name(use));
  }
}
