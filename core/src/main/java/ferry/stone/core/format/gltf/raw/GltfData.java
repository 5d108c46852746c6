package ferry.stone.core.format.gltf.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.BinaryCursor;
import ferry.stone.core.format.files.RandomBytes;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * The data of a buffer: bytes in memory, or a range of a file that is read when it is asked for.
 *
 * @param memory {@code null} for a range of a file
 * @param resource the file, for errors
 * @param from where the range begins in the file
 */
record GltfData(ByteBuffer memory, String resource, RandomBytes file, long from, long size) {
  static GltfData of(byte[] bytes) {
    return new GltfData(ByteBuffer.wrap(bytes), "", null, 0, bytes.length);
  }

  static GltfData of(String resource, RandomBytes file, long from, long size) {
    return new GltfData(null, resource, file, from, size);
  }

  boolean inMemory() {
    return memory != null;
  }

  /** The beginning of it. */
  GltfData upTo(long length) {
    return new GltfData(memory, resource, file, from, length);
  }

  byte[] bytes(long offset, long length, String name) throws IOException, FormatException {
    BinaryCursor in = new BinaryCursor(resource, file, ByteOrder.LITTLE_ENDIAN);
    in.position(from + offset);
    return in.bytes(length, name);
  }

  /**
   * @param name what it is, for errors
   */
  ByteBuffer range(long offset, long length, String name) throws IOException, FormatException {
    ByteBuffer bytes =
        memory != null
            ? memory.slice((int) offset, (int) length)
            : ByteBuffer.wrap(bytes(offset, length, name));
    return bytes.order(ByteOrder.LITTLE_ENDIAN);
  }
}
