package ferry.stone.core.format.files;

import java.io.IOException;
import java.io.OutputStream;

/** Where a writer puts its files. */
public interface Output {
  /**
   * @param path relative, with {@code /}
   * @return the caller closes it
   */
  OutputStream create(String path) throws IOException;

  /**
   * A file of which what stands already can be written over.
   *
   * @param path relative, with {@code /}
   */
  default SeekableOutput seekable(String path) throws IOException {
    return new SeekableOutput(create(path));
  }
}
