package ferry.stone.core.format;

import ferry.stone.core.field.Field;
import ferry.stone.core.scene.Scene;
import java.io.IOException;
import java.util.List;
import java.util.Set;

/** Reads one file of a format. */
@FunctionalInterface
public interface SceneReader {

  /** What can be chosen about the reading; see {@link ReadContext#values}. */
  default List<Field> fields() {
    return List.of();
  }

  /**
   * Files of the cargo that a file is made of, and that are no scenes of their own with it.
   *
   * @throws FormatException when the file cannot be read
   */
  default Set<String> parts(String resource, ReadContext context)
      throws IOException, FormatException {
    return Set.of();
  }

  /** The same reader with things to choose. */
  default SceneReader choosing(List<Field> fields) {
    SceneReader reader = this;
    return new SceneReader() {
      @Override
      public List<Field> fields() {
        return fields;
      }

      @Override
      public Set<String> parts(String resource, ReadContext context)
          throws IOException, FormatException {
        return reader.parts(resource, context);
      }

      @Override
      public Scene read(String resource, ReadContext context) throws IOException, FormatException {
        return reader.read(resource, context);
      }
    };
  }

  /**
   * @param resource path of the file in its cargo
   * @throws FormatException with the file, the place and what was expected
   */
  Scene read(String resource, ReadContext context) throws IOException, FormatException;
}
