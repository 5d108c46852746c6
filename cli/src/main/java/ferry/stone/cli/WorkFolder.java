package ferry.stone.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;

/** A temporary folder that is gone after use. */
final class WorkFolder implements AutoCloseable {
  private final Path path;

  WorkFolder() throws IOException {
    path = Files.createTempDirectory("ferry-");
  }

  Path path() {
    return path;
  }

  @Override
  public void close() throws IOException {
    try (Stream<Path> walk = Files.walk(path)) {
      for (Path p : walk.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(p);
      }
    }
  }
}
