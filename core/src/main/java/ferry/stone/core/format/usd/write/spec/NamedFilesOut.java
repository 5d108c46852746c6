package ferry.stone.core.format.usd.write.spec;

import java.io.IOException;
import java.util.Map;

/** Takes along what values name. */
public interface NamedFilesOut {
  /**
   * @param written path as the source says it
   * @param found where the cargo has what, by what is written
   * @return the path to say
   */
  String keep(String written, Map<?, ?> found) throws IOException;
}
