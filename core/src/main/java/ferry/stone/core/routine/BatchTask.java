package ferry.stone.core.routine;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * One asset of a batch.
 *
 * @param name unique in its batch, as a folder may be called
 * @param given its files or its folder
 */
public record BatchTask(String name, List<Path> given) {
  public BatchTask {
    given = List.copyOf(given);
  }

  /** The folder that paths of its inputs are told from. */
  Path base() {
    Path first = given.get(0).toAbsolutePath().normalize();
    return Files.isDirectory(first) ? first : first.getParent();
  }

  boolean holds(Path file) {
    return file.toAbsolutePath().normalize().startsWith(base());
  }

  String relative(Path file) {
    return base().relativize(file.toAbsolutePath().normalize()).toString().replace('\\', '/');
  }
}
