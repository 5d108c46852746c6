package ferry.stone.cli;

import ferry.stone.core.work.Folders;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** A temporary folder that is gone after use, however the use ends. */
final class WorkFolder implements AutoCloseable {
  private final Path path;
  private final Thread onStop;

  WorkFolder() throws IOException {
    path = Files.createTempDirectory("ferry-");
    onStop = new Thread(() -> Folders.delete(path));
    Runtime.getRuntime().addShutdownHook(onStop);
  }

  Path path() {
    return path;
  }

  @Override
  public void close() {
    Folders.delete(path);
    try {
      Runtime.getRuntime().removeShutdownHook(onStop);
    } catch (IllegalStateException e) {
      // It is running already.
      return;
    }
  }
}
