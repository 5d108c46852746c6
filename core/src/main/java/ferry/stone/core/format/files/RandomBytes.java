package ferry.stone.core.format.files;

import java.io.IOException;
import java.nio.ByteBuffer;

/** Parts of a file in any order. */
public interface RandomBytes {
  /** Size of the whole in bytes. */
  long size();

  /**
   * Copies bytes from a place on.
   *
   * @throws java.io.EOFException when the file ends before
   */
  void read(long at, byte[] into, int from, int count) throws IOException;

  /**
   * Fills a buffer with the bytes from a place on.
   *
   * @throws java.io.EOFException when the file ends before
   */
  default void read(long at, ByteBuffer into) throws IOException {
    byte[] bytes = new byte[into.remaining()];
    read(at, bytes, 0, bytes.length);
    into.put(bytes);
  }
}
