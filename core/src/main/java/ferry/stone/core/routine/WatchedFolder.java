package ferry.stone.core.routine;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.report.ReportSide;
import ferry.stone.core.report.ReportSide.FileFact;
import ferry.stone.core.work.Folders;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * A folder whose new assets are run through a routine as they arrive and filed, with what was read
 * and what was written, under {@code done} or {@code trouble} of another folder.
 *
 * <p>What is being copied is waited for: an asset is taken when nothing of it has changed for a
 * while; loose files of the folder wait for each other, since a scene's textures may come after it.
 * However it is stopped, no asset is lost: what was run and not filed is filed by the next start.
 */
public final class WatchedFolder {
  private static final String RUNNING = "running";
  private static final String SOURCE = "source";

  private final Path folder;
  private final Path out;
  private final Batch batch;
  private final long quietMillis;

  /**
   * @param out where results go; neither the folder nor inside of it
   * @param quietSeconds that nothing of an asset may have changed before it is taken
   */
  public WatchedFolder(
      Path folder, Path out, Routine routine, RunSettings settings, double quietSeconds) {
    this.folder = folder.toAbsolutePath().normalize();
    this.out = out.toAbsolutePath().normalize();
    if (this.out.startsWith(this.folder)) {
      throw new IllegalArgumentException(
          "the results would be watched too: name a folder outside of " + folder);
    }
    if (!(quietSeconds >= 0)) {
      throw new IllegalArgumentException("seconds of quiet are 0 or more, not " + quietSeconds);
    }
    batch = new Batch(routine, settings, this.out.resolve(RUNNING));
    quietMillis = Math.round(1000 * quietSeconds);
  }

  /**
   * An asset that was filed.
   *
   * @param place its folder below {@code done} or {@code trouble}
   */
  public record Filed(RunRecord record, Path place) {}

  /** Files what was run before and not filed. */
  public List<Filed> resume() throws IOException {
    List<Filed> filed = new ArrayList<>();
    for (Path left : entries(out.resolve(RUNNING))) {
      RunRecord record = Batch.record(left).orElse(null);
      if (record != null) {
        filed.add(file(record, folder));
      }
    }
    return filed;
  }

  /** Runs and files all that has arrived by now. */
  public List<Filed> take(Progress progress) throws IOException {
    List<BatchTask> ready = new ArrayList<>();
    for (BatchTask task : BatchList.of(List.of(folder))) {
      if (isQuiet(task)) {
        ready.add(task);
      }
    }
    List<RunRecord> records = batch.run(ready, (task, record, again) -> {}, progress);
    List<Filed> filed = new ArrayList<>();
    for (int i = 0; i < records.size(); i++) {
      filed.add(file(records.get(i), ready.get(i).base()));
    }
    return filed;
  }

  private boolean isQuiet(BatchTask task) throws IOException {
    boolean loose = task.base().equals(folder);
    long latest = 0;
    for (Path path : loose ? entries(folder) : List.of(task.base())) {
      if (!loose || Files.isRegularFile(path)) {
        latest = Math.max(latest, latest(path));
      }
    }
    return Instant.now().toEpochMilli() - latest >= quietMillis;
  }

  private static long latest(Path path) throws IOException {
    long latest = 0;
    try (Stream<Path> all = Files.walk(path)) {
      for (Path each : all.toList()) {
        latest = Math.max(latest, Files.getLastModifiedTime(each).toMillis());
      }
    } catch (NoSuchFileException e) {
      // It is being moved: its new state is seen the next time.
      return Long.MAX_VALUE / 2;
    }
    return latest;
  }

  /** Moves what was read to its results, and both to where they belong. */
  private Filed file(RunRecord record, Path base) throws IOException {
    Path run = out.resolve(RUNNING).resolve(record.asset());
    Path from = base.equals(folder) ? folder : folder.resolve(base.getFileName());
    for (FileFact input : record.inputs()) {
      Path place = sourceOf(record, from, input);
      if (place != null) {
        Path target = run.resolve(SOURCE).resolve(input.path());
        Files.createDirectories(target.getParent());
        Files.move(place, target, StandardCopyOption.REPLACE_EXISTING);
      }
    }
    if (!from.equals(folder)) {
      rest(from, run.resolve(SOURCE));
    }
    Path shelf = out.resolve(record.verdict().isTrouble() ? "trouble" : "done");
    Files.createDirectories(shelf);
    Path place = shelf.resolve(record.asset());
    for (int n = 2; Files.exists(place); n++) {
      place = shelf.resolve(record.asset() + "-" + n);
    }
    Files.move(run, place, StandardCopyOption.ATOMIC_MOVE);
    return new Filed(record, place);
  }

  /** The very file that was read, where it still stands; another of its name is a new asset. */
  private Path sourceOf(RunRecord record, Path from, FileFact input) throws IOException {
    for (Path base : List.of(from, folder.resolve(record.asset()))) {
      Path place = base.resolve(input.path()).normalize();
      if (place.startsWith(folder) && Files.isRegularFile(place)) {
        CargoFolder one = new CargoFolder(Map.of(input.path(), place));
        if (ReportSide.facts(one, List.of(input.path())).get(0).equals(input)) {
          return place;
        }
      }
    }
    return null;
  }

  /** What lay in an asset's folder and was not read goes with it. */
  private static void rest(Path from, Path to) throws IOException {
    if (!Files.isDirectory(from)) {
      return;
    }
    List<Path> left;
    try (Stream<Path> all = Files.walk(from)) {
      left = all.filter(Files::isRegularFile).toList();
    }
    for (Path file : left) {
      Path target = to.resolve(from.relativize(file).toString());
      Files.createDirectories(target.getParent());
      Files.move(file, target, StandardCopyOption.REPLACE_EXISTING);
    }
    Folders.delete(from);
  }

  private static List<Path> entries(Path folder) throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> all = Files.list(folder)) {
      return all.filter(p -> !p.getFileName().toString().startsWith(".")).sorted().toList();
    }
  }
}
