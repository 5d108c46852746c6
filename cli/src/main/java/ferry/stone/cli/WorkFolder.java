package ferry.stone.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** A temporary folder that is gone after use, however the use ends. */
final class WorkFolder implements AutoCloseable {
  private final Path path;
  private final Thread onStop;

  WorkFolder() throws IOException {
    path = Files.createTempDirectory("ferry-");
    onStop = new Thread(() -> delete(path));
    Runtime.getRuntime().addShutdownHook(onStop);
  }

  Path path() {
    return path;
  }

  /** Deletes a folder with all that is in it, as far as that can be done. */
  static void delete(Path folder) {
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

  @Override
  public void close() {
    delete(path);
    try {
      Runtime.getRuntime().removeShutdownHook(onStop);
    } catch (IllegalStateException e) {
      // It is running already.
      return;
    }
  }
}
