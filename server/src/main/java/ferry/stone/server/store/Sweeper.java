package ferry.stone.server.store;

import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Deletes stored files that no crossing and no landing names any more. */
@Component
public class Sweeper {
  private static final Logger LOG = LoggerFactory.getLogger(Sweeper.class);
  private static final int MINUTES = 10;

  private final BlobStore blobs;
  private final Rows rows;
  private final DiskSpace disk;
  private final ScheduledExecutorService worker =
      Executors.newSingleThreadScheduledExecutor(
          work -> {
            Thread thread = new Thread(work, "ferry-sweeper");
            thread.setDaemon(true);
            return thread;
          });

  public Sweeper(BlobStore blobs, Rows rows, DiskSpace disk) {
    this.blobs = blobs;
    this.rows = rows;
    this.disk = disk;
    worker.scheduleWithFixedDelay(this::quietly, 1, MINUTES, TimeUnit.MINUTES);
  }

  /** Sweeps soon, without waiting for it. */
  public void soon() {
    worker.execute(this::quietly);
  }

  private void quietly() {
    try {
      sweep();
    } catch (IOException | RuntimeException e) {
      LOG.warn("sweeping did not get done: {}", e.getMessage());
    }
  }

  /** Deletes what nothing names; the bytes that this freed. */
  public synchronized long sweep() throws IOException {
    long freed = 0;
    try (var folders = Files.newDirectoryStream(blobs.folder(), Files::isDirectory)) {
      for (Path folder : folders) {
        try (var files = Files.newDirectoryStream(folder)) {
          for (Path file : files) {
            if (!isNamed(file.getFileName().toString())) {
              freed += blobs.deleteUnused(file, this::isNamed);
            }
          }
        }
      }
    }
    disk.restore();
    return freed;
  }

  private boolean isNamed(String hash) {
    return !rows.list(
            """
            SELECT 1 AS one WHERE EXISTS (SELECT 1 FROM cargo_file WHERE blob = ?)
               OR EXISTS (SELECT 1 FROM landing_file WHERE blob = ?)
               OR EXISTS (SELECT 1 FROM crossing WHERE thumbnail = ?)
            """,
            row -> row.getInt("one"),
            hash,
            hash,
            hash)
        .isEmpty();
  }

  /** Bytes of all stored files. */
  public long held() throws IOException {
    long bytes = 0;
    try (var folders = Files.newDirectoryStream(blobs.folder(), Files::isDirectory)) {
      for (Path folder : folders) {
        try (var files = Files.newDirectoryStream(folder)) {
          for (Path file : files) {
            bytes += Files.size(file);
          }
        }
      }
    }
    return bytes;
  }

  @PreDestroy
  void stop() {
    worker.shutdownNow();
  }
}
