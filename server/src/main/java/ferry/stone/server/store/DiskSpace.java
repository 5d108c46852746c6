package ferry.stone.server.store;

import ferry.stone.core.math.Figures;
import ferry.stone.server.FerrySettings;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * The disk that everything is on. A reserve is kept there, which is given up when the disk is full,
 * so that what frees space can still be written down.
 */
@Component
public class DiskSpace {
  private static final Logger LOG = LoggerFactory.getLogger(DiskSpace.class);
  private static final int RESERVE = 8 << 20;

  private final Path folder;
  private final Path reserve;

  public DiskSpace(FerrySettings settings) throws IOException {
    folder = settings.data();
    Files.createDirectories(folder);
    reserve = folder.resolve("reserve");
    restore();
  }

  /** Bytes that are free. */
  public long free() {
    try {
      return Files.getFileStore(folder).getUsableSpace();
    } catch (IOException e) {
      return 0;
    }
  }

  /** Whether something failed since the disk is full. */
  public static boolean isFull(Throwable problem) {
    for (Throwable t = problem; t != null; t = t.getCause()) {
      String text = t.getMessage() == null ? "" : t.getMessage().toLowerCase(Locale.ROOT);
      if (text.contains("no space left")
          || text.contains("sqlite_full")
          || text.contains("disk is full")
          || text.contains("disk quota")) {
        return true;
      }
    }
    return false;
  }

  /** What to say of it. */
  public String sentence() {
    return "The disk is full: "
        + Figures.bytes(free())
        + " are left where Stone Ferry keeps its files. Delete crossings or landings that you no"
        + " longer need, or make room, and try again.";
  }

  /** Gives the reserve up; whether there was one. */
  public boolean giveUp() {
    try {
      boolean there = Files.deleteIfExists(reserve);
      if (there) {
        LOG.warn("the disk is full: the reserve was given up");
      }
      return there;
    } catch (IOException e) {
      return false;
    }
  }

  /** Takes the reserve back once there is room for it several times over. */
  public void restore() {
    if (Files.exists(reserve) || free() < 4L * RESERVE) {
      return;
    }
    try (OutputStream out = Files.newOutputStream(reserve)) {
      byte[] part = new byte[1 << 16];
      // Not zeros alone: some file systems keep no room for those.
      new java.util.Random(1).nextBytes(part);
      for (int i = 0; i < RESERVE; i += part.length) {
        out.write(part);
      }
    } catch (IOException e) {
      LOG.warn("no reserve on disk: {}", e.getMessage());
    }
  }
}
