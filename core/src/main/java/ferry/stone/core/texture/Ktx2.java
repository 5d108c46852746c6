package ferry.stone.core.texture;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;

/**
 * The head of a KTX2 file: Khronos Texture container, version 2.0, section 3. Images inside are not
 * decoded.
 *
 * <p>12 bytes of mark; then little-endian 32-bit numbers: format, type size, width, height, depth,
 * layers, faces, levels, supercompression.
 */
final class Ktx2 {
  private static final byte[] MARK = {
    (byte) 0xAB, 'K', 'T', 'X', ' ', '2', '0', (byte) 0xBB, '\r', '\n', 0x1A, '\n'
  };
  private static final int HEAD = 80;
  private static final int WIDTH = 20;
  private static final int HEIGHT = 24;

  private Ktx2() {}

  static boolean is(byte[] file) {
    return file.length >= MARK.length && Arrays.equals(MARK, Arrays.copyOf(file, MARK.length));
  }

  static ImageInfo probe(byte[] file, String name) throws ImageException {
    if (file.length < HEAD) {
      throw new ImageException(name + ": the KTX2 file ends in its head. Copy it again.");
    }
    ByteBuffer head = ByteBuffer.wrap(file).order(ByteOrder.LITTLE_ENDIAN);
    int width = head.getInt(WIDTH);
    int height = Math.max(1, head.getInt(HEIGHT));
    if (width < 1) {
      throw new ImageException(name + ": the KTX2 file claims no width. Save it again.");
    }
    return new ImageInfo("ktx2", width, height);
  }
}
