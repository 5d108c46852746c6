package ferry.stone.core.routine;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.SharedFolders;
import ferry.stone.core.cargo.ZipUnpacker;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * The files of an asset: scene files with what lies around them, folders, zips. Several each have a
 * folder of their own in the cargo.
 *
 * @param given as they were named
 * @param listed place on the disk of each path of the cargo
 * @param scenes paths of those that are read
 */
record AssetFiles(List<Path> given, Map<String, Path> listed, List<String> scenes) {
  /** How deep textures are looked for below a file's folder. */
  private static final int SEARCH_DEPTH = 4;

  /** Files that are looked at around a file; a whole disk is not. */
  private static final int SEARCH_FILES = 5000;

  /**
   * @param workFolder where zips are unpacked to
   */
  static AssetFiles of(List<Path> given, Path workFolder) throws IOException, FormatException {
    AssetFiles files = new AssetFiles(given, new TreeMap<>(), new ArrayList<>());
    for (int i = 0; i < given.size(); i++) {
      String prefix = given.size() == 1 ? "" : "input_" + (i + 1) + "/";
      files.gather(given.get(i), prefix, workFolder);
    }
    return files;
  }

  private Resources resources() {
    return resources(SharedFolders.NONE);
  }

  Resources resources(SharedFolders shared) {
    return new CargoFolder(listed, shared);
  }

  /** Name of the first, without ending. */
  String name() {
    return CargoPath.stem(given.get(0).toAbsolutePath().normalize().getFileName().toString());
  }

  /** The files that a scene was read from, and those that it goes on needing. */
  Set<Path> inputs(Scene read) {
    Set<Path> inputs = new HashSet<>(given);
    scenes.forEach(s -> inputs.add(listed.get(s)));
    read.textures().stream()
        .filter(t -> t.resource() != null)
        .forEach(t -> inputs.add(listed.get(t.resource())));
    listed.forEach(
        (path, place) -> {
          if (List.of("mtl", "bin").contains(CargoPath.extension(path))) {
            inputs.add(place);
          }
        });
    inputs.remove(null);
    return inputs;
  }

  private void gather(Path file, String prefix, Path workFolder)
      throws IOException, FormatException {
    if (!Files.exists(file)) {
      throw new IOException(file + ": there is no such file. Check the path.");
    }
    if (Files.isDirectory(file)) {
      list(file, prefix, Integer.MAX_VALUE);
      addScenes(prefix);
    } else if (CargoPath.extension(file.getFileName().toString()).equals("zip")) {
      Path target = workFolder.resolve("zip_" + prefix.replace("/", ""));
      String shown = file.getFileName().toString();
      ZipUnpacker.unpack(
          file,
          shown,
          ZipUnpacker.Limits.USUAL,
          path -> {
            Path place = target.resolve(path);
            Files.createDirectories(place.getParent());
            return Files.newOutputStream(place);
          },
          Progress.NONE);
      list(target, prefix, Integer.MAX_VALUE);
      addScenes(prefix);
    } else {
      Path folder = file.toAbsolutePath().normalize().getParent();
      list(folder, prefix, SEARCH_DEPTH);
      String own = prefix + file.getFileName();
      listed.put(own, file);
      scenes.add(own);
      CargoRole role = CargoRole.of(own, new CargoFolder(Map.of(own, file)));
      if (!role.isRead()) {
        throw new FormatException(
            FormatException.Kind.NOT_THIS_FORMAT,
            file.toString(),
            "",
            "this is no scene file. Expected "
                + Formats.readNames()
                + ", or a folder or zip of such files.");
      }
    }
  }

  private void addScenes(String prefix) throws IOException {
    Resources resources = resources();
    for (String path : listed.keySet()) {
      if (path.startsWith(prefix) && CargoRole.of(path, resources).isRead()) {
        scenes.add(path);
      }
    }
  }

  private void list(Path folder, String prefix, int depth) throws IOException {
    if (!Files.isDirectory(folder)) {
      return;
    }
    try (Stream<Path> walk = Files.walk(folder, depth)) {
      walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .limit(depth == Integer.MAX_VALUE ? Long.MAX_VALUE : SEARCH_FILES)
          .forEach(p -> listed.put(prefix + folder.relativize(p).toString().replace('\\', '/'), p));
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }
}
