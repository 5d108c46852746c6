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
}
