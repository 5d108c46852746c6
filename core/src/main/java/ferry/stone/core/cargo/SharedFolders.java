package ferry.stone.core.cargo;

import ferry.stone.core.format.files.CargoPath;
import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Folders of images that many assets use. An image that a file names and that is not in its cargo
 * is looked for here by its name. They are only read; links are not followed, and no name written
 * in a file leads to anything but an image that was listed.
 */
public final class SharedFolders {
  public static final SharedFolders NONE = new SharedFolders(List.of());

  /** Stands before the paths of shared images, where no path of a cargo has it. */
  static final String PREFIX = "library:";

  /** Images that are listed; a whole disk is no library. */
  private static final int MOST = 500_000;

  /** How long a list holds, in nanoseconds: what was added is found after that. */
  private static final long FRESH = 20_000_000_000L;

  private final List<Path> folders;
  private Map<String, List<String>> byName = Map.of();
  private Map<String, Path> places = Map.of();
  private long listed;
  private boolean ever;

  private SharedFolders(List<Path> folders) {
    this.folders = List.copyOf(folders);
  }

  /**
   * @throws IllegalArgumentException when one is no folder, in a sentence
   */
  public static SharedFolders of(List<Path> folders) {
    for (Path folder : folders) {
      if (!Files.isDirectory(folder)) {
        throw new IllegalArgumentException(
            "the shared folder \"" + folder + "\" is not there, or is no folder");
      }
    }
    return folders.isEmpty() ? NONE : new SharedFolders(folders);
  }

  /** Of a text with one path after the other, as the system parts them ({@code :} here). */
  public static SharedFolders of(String paths) {
    List<Path> folders = new ArrayList<>();
    for (String path : (paths == null ? "" : paths).split(File.pathSeparator)) {
      if (!path.isBlank()) {
        folders.add(Path.of(path.strip()));
      }
    }
    return of(folders);
  }

  /** Paths of the images with a name, whatever its case, in the order of the folders. */
  synchronized List<String> named(String name) {
    if (folders.isEmpty()) {
      return List.of();
    }
    list();
    return byName.getOrDefault(name.toLowerCase(Locale.ROOT), List.of());
  }

  /** Place on the disk of a path of {@link #named}; {@code null} for others. */
  synchronized Path place(String path) {
    return path.startsWith(PREFIX) ? places.get(path) : null;
  }

  private void list() {
    if (ever && System.nanoTime() - listed < FRESH) {
      return;
    }
    Map<String, List<String>> names = new HashMap<>();
    Map<String, Path> found = new HashMap<>();
    for (int i = 0; i < folders.size(); i++) {
      list(i, names, found);
    }
    // What was found before stays where somebody has its path already.
    places.forEach((path, place) -> found.putIfAbsent(path, place));
    names.values().forEach(paths -> paths.sort(null));
    byName = names;
    places = found;
    listed = System.nanoTime();
    ever = true;
  }

  private void list(int index, Map<String, List<String>> names, Map<String, Path> found) {
    Path folder = folders.get(index);
    try {
      Files.walkFileTree(
          folder,
          new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes about) {
              String name = file.getFileName().toString();
              if (about.isRegularFile() && CargoPath.isImage(name)) {
                String path =
                    PREFIX + index + "/" + folder.relativize(file).toString().replace('\\', '/');
                names
                    .computeIfAbsent(name.toLowerCase(Locale.ROOT), k -> new ArrayList<>())
                    .add(path);
                found.put(path, file);
              }
              return found.size() < MOST ? FileVisitResult.CONTINUE : FileVisitResult.TERMINATE;
            }

            @Override
            public FileVisitResult visitFileFailed(Path file, IOException e) throws IOException {
              if (e instanceof AccessDeniedException) {
                return FileVisitResult.CONTINUE;
              }
              throw e;
            }
          });
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
