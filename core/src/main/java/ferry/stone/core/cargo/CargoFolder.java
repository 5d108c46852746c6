package ferry.stone.core.cargo;

import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.Resources;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;

/** Cargo files by relative path, wherever their bytes lie on disk. Only listed paths open. */
public final class CargoFolder implements Resources {
  private final Map<String, Path> files;
  private final SharedFolders shared;

  /**
   * @param files place on disk of each relative path
   */
  public CargoFolder(Map<String, Path> files) {
    this(files, SharedFolders.NONE);
  }

  /**
   * @param shared where images are looked for that are not among the files
   */
  public CargoFolder(Map<String, Path> files, SharedFolders shared) {
    this.files = new TreeMap<>(files);
    this.shared = shared;
  }

  /** All files below a folder; links are not followed. */
  public static CargoFolder of(Path folder) throws IOException {
    Map<String, Path> files = new TreeMap<>();
    try (Stream<Path> walk = Files.walk(folder)) {
      walk.filter(p -> Files.isRegularFile(p, java.nio.file.LinkOption.NOFOLLOW_LINKS))
          .forEach(p -> files.put(folder.relativize(p).toString().replace('\\', '/'), p));
    }
    return new CargoFolder(files);
  }

  @Override
  public List<String> paths() {
    return new ArrayList<>(files.keySet());
  }

  @Override
  public boolean contains(String path) {
    return files.containsKey(path) || shared.place(path) != null;
  }

  @Override
  public List<String> shared(String name) {
    return shared.named(name);
  }

  @Override
  public long size(String path) {
    try {
      return Files.size(place(path));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Override
  public InputStream open(String path) throws IOException {
    return new BufferedInputStream(Files.newInputStream(place(path)), 1 << 16);
  }

  @Override
  public RandomBytes random(String path) throws IOException {
    return new FileBytes(place(path), size(path));
  }

  private Path place(String path) throws NoSuchFileException {
    Path place = files.getOrDefault(path, shared.place(path));
    if (place == null) {
      throw new NoSuchFileException(path);
    }
    return place;
  }
}
