package ferry.stone.core.format;

import ferry.stone.core.scene.Scene;
import java.io.IOException;

/** Reads one file of a format. */
@FunctionalInterface
public interface SceneReader {

  /**
   * @param resource path of the file in its cargo
   * @throws FormatException with the file, the place and what was expected
   */
  Scene read(String resource, ReadContext context) throws IOException, FormatException;
}
