package ferry.stone.core.format.gltf;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Frames;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.read.GltfRules;
import ferry.stone.core.format.gltf.write.GltfOptions.Container;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.math.Frame;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.Set;

/**
 * glTF 2.0 (ISO/IEC 12113:2022). Metre, +Y up, front +Z, right-handed; UV (0, 0) is the top left.
 *
 * <table>
 * <caption>GLB, all little-endian</caption>
 * <tr><td>header</td><td>uint32 magic 0x46546C67, uint32 version 2, uint32 length of the file</td></tr>
 * <tr><td>chunk</td><td>uint32 length, uint32 type, bytes; length a multiple of 4</td></tr>
 * <tr><td>JSON chunk 0x4E4F534A</td><td>first, filled up with spaces</td></tr>
 * <tr><td>BIN chunk 0x004E4942</td><td>second, may be absent, filled up with zeros</td></tr>
 * </table>
 *
 * <p>Read: every core feature, and the extensions of {@link GltfExtensions#READ}. Other required
 * extensions are refused by name, other optional ones carried as they are.
 */
public final class GltfFormat implements Format {
  /** One binary file. */
  public static final Format GLB = new GltfFormat("glb", "GLB");

  /** JSON, with its data inside or beside it. */
  public static final Format GLTF = new GltfFormat("gltf", "glTF");

  public static final int MAGIC = 0x46546C67;
  public static final int CHUNK_JSON = 0x4E4F534A;
  public static final int CHUNK_BIN = 0x004E4942;
  public static final int POINTS = 0;
  public static final int LINES = 1;
  public static final int TRIANGLES = 4;

  private final String key;
  private final String name;

  private GltfFormat(String key, String name) {
    this.key = key;
    this.name = name;
  }

  @Override
  public String key() {
    return key;
  }

  @Override
  public String name() {
    return name;
  }

  @Override
  public String label() {
    return isBinary() ? "GLB, one file" : "glTF, separate files";
  }

  @Override
  public Set<String> extensions() {
    return Set.of(key);
  }

  @Override
  public boolean sniff(byte[] head) {
    if (isBinary()) {
      return head.length >= 4
          && ByteBuffer.wrap(head).order(ByteOrder.LITTLE_ENDIAN).getInt(0) == MAGIC;
    }
    String text = new String(head, StandardCharsets.UTF_8).stripLeading();
    return text.startsWith("{") && text.contains("\"asset\"");
  }

  private boolean isBinary() {
    return key.equals("glb");
  }

  @Override
  public Optional<SceneReader> reader() {
    return Optional.of(((SceneReader) GltfReader::read).choosing(GltfReader.FIELDS));
  }

  @Override
  public Optional<SceneWriter> writer() {
    return Optional.of(new GltfLanding(isBinary() ? Container.GLB : Container.GLTF));
  }

  @Override
  public Frames frames() {
    return Frames.fixed(Frame.Y_UP_METRE);
  }

  @Override
  public void check(String file, Resources files, Findings findings)
      throws IOException, FormatException {
    GltfRules.check(file, files, findings);
  }

  @Override
  public CapabilityTable losses() {
    return GltfCapabilities.TABLE;
  }
}
