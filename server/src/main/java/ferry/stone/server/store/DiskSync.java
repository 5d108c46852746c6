package ferry.stone.server.store;

import java.io.IOException;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;

/** Forces everything on a file system to disk at once, where the system has a command for it. */
final class DiskSync {
  private static final int MOST_SECONDS = 120;

  private DiskSync() {}

  /** Whether it was done; else each file has to be forced by itself. */
  static boolean all(Path folder) {
    try {
      Process sync =
          new ProcessBuilder("sync", "-f", folder.toString())
              .redirectErrorStream(true)
              .redirectOutput(ProcessBuilder.Redirect.DISCARD)
              .start();
      if (!sync.waitFor(MOST_SECONDS, TimeUnit.SECONDS)) {
        sync.destroyForcibly();
        return false;
      }
      return sync.exitValue() == 0;
    } catch (IOException e) {
      return false;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return false;
    }
  }
}
