package ferry.stone.core.routine;

import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.SeekableOutput;
import ferry.stone.core.work.Folders;
import java.io.BufferedOutputStream;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * A folder that is there whole or not at all: it is filled under a name of its own beside its place
 * and moved there at the end. Whatever ends the work before leaves {@code .ferry-run-…} behind at
 * most, which the next run of the same asset removes.
 */
final class StagedFolder implements Output, AutoCloseable {
  static final String PREFIX = ".ferry-run-";

  private final Path target;
  private final Path staging;
  private final Map<String, Path> written = new TreeMap<>();

  StagedFolder(Path target) throws IOException {
    this.target = target;
    Files.createDirectories(target.getParent());
    String own = PREFIX + target.getFileName() + ".";
    clean(target.getParent(), own);
    staging = Files.createTempDirectory(target.getParent(), own);
  }

  /** What was written below a folder, by its path from there. */
  Map<String, Path> written(String folder) {
    Map<String, Path> below = new TreeMap<>();
    written.forEach(
        (path, place) -> {
          if (path.startsWith(folder)) {
            below.put(path.substring(folder.length()), place);
          }
        });
    return below;
  }

  @Override
  public OutputStream create(String path) throws IOException {
    return new BufferedOutputStream(Files.newOutputStream(place(path)), 1 << 16);
  }

  @Override
  public SeekableOutput seekable(String path) throws IOException {
    return new SeekableOutput(new FileOutputStream(place(path).toFile()));
  }

  private Path place(String path) throws IOException {
    Path place = staging.resolve(path).normalize();
    if (!place.startsWith(staging)) {
      throw new IOException(path + " leads out of the folder of the landing");
    }
    Files.createDirectories(place.getParent());
    written.put(path, place);
    return place;
  }

  /** Files below a folder of this one. */
  Output below(String folder) {
    return new Output() {
      @Override
      public OutputStream create(String path) throws IOException {
        return StagedFolder.this.create(folder + path);
      }

      @Override
      public SeekableOutput seekable(String path) throws IOException {
        return StagedFolder.this.seekable(folder + path);
      }
    };
  }

  /** Takes all that was written back, as if it had not been. */
  void forget() throws IOException {
    for (Path place : written.values()) {
      Files.deleteIfExists(place);
    }
    written.clear();
  }

  /** Moves it to its place; what stood there goes only then. */
  void keep() throws IOException {
    Path old = null;
    if (Files.exists(target)) {
      String own = PREFIX + target.getFileName() + ".";
      old = Files.createTempDirectory(target.getParent(), own).resolve("old");
      Files.move(target, old, StandardCopyOption.ATOMIC_MOVE);
    }
    try {
      Files.move(staging, target, StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      if (old != null) {
        Files.move(old, target, StandardCopyOption.ATOMIC_MOVE);
      }
      throw e;
    }
    if (old != null) {
      Folders.delete(old.getParent());
    }
  }

  /** Removes what runs of the asset that were cut off left behind. */
  private static void clean(Path out, String own) throws IOException {
    List<Path> left;
    try (Stream<Path> all = Files.list(out)) {
      left = all.filter(p -> p.getFileName().toString().startsWith(own)).toList();
    }
    for (Path path : left) {
      Folders.delete(path);
    }
  }

  @Override
  public void close() {
    Folders.delete(staging);
  }
}
