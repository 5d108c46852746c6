package ferry.stone.core.format;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;

/**
 * The files of a cargo by their relative paths. Only listed paths can be opened, so no name written
 * in a file can lead outside.
 */
public interface Resources {

  /** All paths, with {@code /} between the parts. */
  List<String> paths();

  boolean contains(String path);

  /** Size in bytes of a listed file. */
  long size(String path);

  /** Opens a listed file; the caller closes it. */
  InputStream open(String path) throws IOException;
}
