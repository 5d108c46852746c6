package ferry.stone.core.format;

import ferry.stone.core.scene.Texture;
import java.io.IOException;
import java.io.InputStream;

/** The bytes of a scene's textures, from the cargo or from inside the scene's file. */
public final class TextureBytes {
  /** Largest image file taken, in bytes. */
  public static final long LARGEST = 512L << 20;

  private TextureBytes() {}

  /** The file's bytes; the texture must be found. */
  public static byte[] read(Texture texture, Resources resources) throws IOException {
    if (texture.embedded() != null) {
      return texture.embedded();
    }
    if (resources.size(texture.resource()) > LARGEST) {
      throw new IOException(
          texture.resource() + ": the image file is larger than 512 MB. Make it smaller.");
    }
    try (InputStream in = resources.open(texture.resource())) {
      return in.readAllBytes();
    }
  }
}
