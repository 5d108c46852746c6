package ferry.stone.core.format.files;

import java.io.IOException;

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
}
