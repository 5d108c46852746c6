package ferry.stone.core.work;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** Folders of work that is over. */
public final class Folders {
  private Folders() {}

  /** Deletes a folder with all that is in it, as far as that can be done. */
  public static void delete(Path folder) {
    List<Path> all;
    try (Stream<Path> walk = Files.walk(folder)) {
      all = walk.sorted(Comparator.reverseOrder()).toList();
    } catch (IOException e) {
      return;
    }
    for (Path p : all) {
      p.toFile().delete();
    }
  }
}
