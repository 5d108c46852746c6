package ferry.stone.core.format.files;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.ImageCodec;
import java.io.IOException;
import java.io.InputStream;

/** The bytes of a scene's textures, from the cargo or from inside the scene's file. */
public final class TextureBytes {
  /** Largest image file taken, in bytes. */
  public static final long LARGEST = 512L << 20;

  private TextureBytes() {}

  /** The same, {@code null} for one whose file is missing, or cannot be read, which is told. */
  public static byte[] orTell(Texture texture, Resources resources, Findings findings) {
    if (!texture.isFound()) {
      return null;
    }
    try {
      return read(texture, resources);
    } catch (IOException e) {
      findings.add(
          Finding.of(
              "texture-unreadable",
              Severity.FIX,
              texture.name(),
              e.getMessage() + " It does not land."));
      return null;
    }
  }

  /**
   * The texture as an image that readers of other formats know: KTX2 becomes PNG with the same
   * pixels, which is told.
   */
  public static Texture unpacked(Texture texture, Resources resources, Findings findings) {
    byte[] bytes = texture.isFound() ? orTell(texture, resources, new Findings()) : null;
    if (bytes == null || !ImageCodec.isKtx2(bytes)) {
      return texture;
    }
    try {
      byte[] png = ImageCodec.encodePng(ImageCodec.decode(bytes, texture.name()));
      findings.add(
          Finding.of(
              "image-converted",
              Severity.NOTE,
              texture.name(),
              "Only glTF takes KTX2: it became a PNG with the same pixels."));
      String name = CargoPath.stem(texture.name()) + ".png";
      return new Texture(texture.id(), name, texture.written(), null, png);
    } catch (IOException e) {
      findings.add(
          Finding.of(
              "texture-unreadable",
              Severity.FIX,
              texture.name(),
              e.getMessage() + " It lands as it is."));
      return texture;
    }
  }

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
