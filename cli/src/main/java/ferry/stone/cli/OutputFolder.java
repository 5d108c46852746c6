package ferry.stone.cli;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.SeekableOutput;
import ferry.stone.core.work.Folders;
import java.io.BufferedOutputStream;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NotDirectoryException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Where a command writes: all files together, or none. They are written into a folder of their own
 * beside the target and renamed at the end, so that whatever stops the command leaves neither half
 * a file nor a folder behind. Files that are read are never written over; others only if asked.
 */
final class OutputFolder implements AutoCloseable, Output {
  private final Path target;
  private final boolean force;
  private final Set<Path> inputs = new HashSet<>();
  private final Path staging;
  private final Path madeTarget;
  private final Map<String, Path> written = new LinkedHashMap<>();
  private final Thread onStop = new Thread(this::remove);

  /**
   * @param inputs files that are read
   * @param force whether other files that are there may be replaced
   */
  OutputFolder(Path target, Collection<Path> inputs, boolean force)
      throws IOException, FormatException {
    this.target = target;
    this.force = force;
    for (Path input : inputs) {
      this.inputs.add(real(input));
    }
    try {
      madeTarget = firstMissing(target);
      Files.createDirectories(target);
      staging = Files.createTempDirectory(target, ".ferry-");
    } catch (IOException e) {
      throw unwritable(target, e);
    }
    Runtime.getRuntime().addShutdownHook(onStop);
  }

  private static Path firstMissing(Path folder) {
    Path missing = null;
    for (Path p = folder.toAbsolutePath().normalize(); p != null && !Files.exists(p); ) {
      missing = p;
      p = p.getParent();
    }
    return missing;
  }

  /** Refuses a file that must not be written, before any work is done for it. */
  void check(String path) throws FormatException {
    Path place = target.resolve(path);
    if (inputs.contains(real(place))) {
      throw new FormatException(
          FormatException.Kind.UNSUPPORTED,
          place.toString(),
          "",
          "this is one of the files that are read, and would be written over. Choose another folder"
              + " with --out.");
    }
    if (Files.exists(place) && !force) {
      throw new FormatException(
          FormatException.Kind.UNSUPPORTED,
          place.toString(),
          "",
          "there is a file of this name already. Choose another folder with --out, or replace it"
              + " with --force.");
    }
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
    try {
      check(path);
      Path place = staging.resolve(path);
      Files.createDirectories(place.getParent());
      written.put(path, place);
      return place;
    } catch (FormatException e) {
      throw new IOException(e.getMessage(), e);
    }
  }

  /** The files that were written so far, where they are now. */
  Map<String, Path> written() {
    return new TreeMap<>(written);
  }

  /** Gives all files their names; when one cannot have it, all is as it was. */
  void keep() throws IOException {
    List<Path[]> done = new ArrayList<>();
    try {
      for (Map.Entry<String, Path> e : written.entrySet()) {
        Path place = target.resolve(e.getKey());
        Files.createDirectories(place.getParent());
        Path old = null;
        if (Files.exists(place)) {
          old = staging.resolve("old-" + done.size());
          Files.move(place, old, StandardCopyOption.ATOMIC_MOVE);
        }
        done.add(new Path[] {place, old});
        Files.move(e.getValue(), place, StandardCopyOption.ATOMIC_MOVE);
      }
    } catch (IOException e) {
      for (int i = done.size() - 1; i >= 0; i--) {
        Files.deleteIfExists(done.get(i)[0]);
        if (done.get(i)[1] != null) {
          Files.move(done.get(i)[1], done.get(i)[0]);
        }
      }
      throw unwritable(target, e);
    }
    written.clear();
  }

  /** Why nothing can be written, as a sentence. */
  static IOException unwritable(Path target, IOException e) {
    String text = String.valueOf(e.getMessage());
    String why =
        e instanceof AccessDeniedException
            ? "you may not write there"
            : e instanceof NotDirectoryException || e instanceof FileAlreadyExistsException
                ? "a file is in the way"
                : text.contains("No space left")
                    ? "the disk is full: "
                        + ferry.stone.core.math.Figures.bytes(free(target))
                        + " are left"
                    : e instanceof FileSystemException f && f.getReason() != null
                        ? f.getReason()
                        : text;
    return new IOException(
        "Nothing can be written to " + target + ": " + why + ". Choose another folder with --out",
        e);
  }

  private static long free(Path target) {
    for (Path p = target.toAbsolutePath(); p != null; p = p.getParent()) {
      try {
        return Files.getFileStore(p).getUsableSpace();
      } catch (IOException e) {
        continue;
      }
    }
    return 0;
  }

  private static Path real(Path path) {
    try {
      return path.toRealPath();
    } catch (IOException e) {
      return path.toAbsolutePath().normalize();
    }
  }

  private void remove() {
    Folders.delete(staging);
    // A folder that was made for nothing goes too.
    for (Path p = target.toAbsolutePath().normalize(); madeTarget != null && p != null; ) {
      if (!p.startsWith(madeTarget) || !p.toFile().delete()) {
        break;
      }
      p = p.getParent();
    }
  }

  @Override
  public void close() {
    remove();
    try {
      Runtime.getRuntime().removeShutdownHook(onStop);
    } catch (IllegalStateException e) {
      // It is running already.
      return;
    }
  }
}
