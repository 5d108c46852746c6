package ferry.stone.core.routine;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.landing.Landing;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/**
 * The assets of a batch: each file that is named, and of each folder what lies in it: scene files,
 * zips and folders that hold scene files. A point cache belongs to the scene file of its name.
 */
public final class BatchList {
  private final List<BatchTask> tasks = new ArrayList<>();
  private final Set<String> names = new HashSet<>();

  private BatchList() {}

  /** The assets in the order of what was named, those of a folder by name. */
  public static List<BatchTask> of(List<Path> named) throws IOException {
    BatchList list = new BatchList();
    for (Path path : named) {
      if (!Files.exists(path)) {
        throw new IOException(path + ": there is no such file. Check the path.");
      }
      if (Files.isDirectory(path)) {
        list.folder(path);
      } else {
        list.add(List.of(path));
      }
    }
    return List.copyOf(list.tasks);
  }

  private void folder(Path folder) throws IOException {
    List<Path> entries;
    try (Stream<Path> all = Files.list(folder)) {
      entries =
          all.filter(p -> !p.getFileName().toString().startsWith("."))
              .sorted((a, b) -> a.getFileName().toString().compareTo(b.getFileName().toString()))
              .toList();
    }
    List<List<Path>> scenes = new ArrayList<>();
    List<Path> caches = new ArrayList<>();
    for (Path entry : entries) {
      CargoRole role =
          Files.isRegularFile(entry, LinkOption.NOFOLLOW_LINKS) ? role(entry) : CargoRole.OTHER;
      if (Files.isDirectory(entry, LinkOption.NOFOLLOW_LINKS)) {
        if (holdsScenes(entry)) {
          scenes.add(List.of(entry));
        }
      } else if (role == CargoRole.SCENE || role == CargoRole.ARCHIVE) {
        scenes.add(new ArrayList<>(List.of(entry)));
      } else if (role == CargoRole.CACHE) {
        caches.add(entry);
      }
    }
    for (Path cache : caches) {
      String stem = stem(cache);
      List<Path> mesh =
          scenes.stream()
              .filter(s -> Files.isRegularFile(s.get(0)))
              .filter(s -> stem.equals(stem(s.get(0))))
              .findFirst()
              .orElse(null);
      if (mesh == null) {
        scenes.add(List.of(cache));
      } else {
        mesh.add(cache);
      }
    }
    scenes.forEach(this::add);
  }

  private void add(List<Path> given) {
    String stem = Landing.stem(stem(given.get(0)));
    String name = stem;
    // Some file systems take names that differ in case only for one.
    for (int n = 2; !names.add(name.toLowerCase(Locale.ROOT)); n++) {
      name = stem + "-" + n;
    }
    tasks.add(new BatchTask(name, given));
  }

  private static String stem(Path path) {
    return CargoPath.stem(path.toAbsolutePath().normalize().getFileName().toString());
  }

  private static CargoRole role(Path file) throws IOException {
    String name = file.getFileName().toString();
    return CargoRole.of(name, new CargoFolder(Map.of(name, file)));
  }

  private static boolean holdsScenes(Path folder) throws IOException {
    CargoFolder files = CargoFolder.of(folder);
    for (String path : files.paths()) {
      if (CargoRole.of(path, files).isRead() || path.endsWith(".zip")) {
        return true;
      }
    }
    return false;
  }
}
