package ferry.stone.core.routine;

import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.report.ReportSide;
import ferry.stone.core.report.ReportSide.FileFact;
import ferry.stone.core.work.Beside;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * A routine on many assets, each in a folder of its own below one. What was done is not done again:
 * an asset whose record tells the same routine, the same application and the same inputs stays,
 * unless it was refused.
 */
public final class Batch {
  private static final String PAGE = "batch.html";
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String LIST = "batch.json";

  private final Routine routine;
  private final RunSettings settings;
  private final Path out;

  public Batch(Routine routine, RunSettings settings, Path out) {
    this.routine = routine;
    this.settings = settings;
    this.out = out.toAbsolutePath().normalize();
  }

  /** Hears of each asset as soon as it is done; from several threads, one after the other. */
  public interface Listener {
    /**
     * @param again whether it had been done before and was left as it is
     */
    void done(BatchTask task, RunRecord record, boolean again);
  }

  /** Runs all, several at once as the settings say; records in the order of the tasks. */
  public List<RunRecord> run(List<BatchTask> tasks, Listener listener, Progress progress)
      throws IOException {
    Files.createDirectories(out);
    ExecutorService workers = Executors.newFixedThreadPool(settings.jobs());
    try {
      List<Future<RunRecord>> running = new ArrayList<>();
      AssetsProgress all = new AssetsProgress(progress, tasks.size());
      AtomicInteger left = new AtomicInteger(tasks.size());
      for (int i = 0; i < tasks.size(); i++) {
        BatchTask task = tasks.get(i);
        int place = i;
        running.add(
            workers.submit(
                () -> {
                  RunRecord record = oneOf(task, left, listener, all.of(place, task.name()));
                  all.reached(place, 1);
                  return record;
                }));
      }
      List<RunRecord> records = new ArrayList<>();
      for (Future<RunRecord> each : running) {
        records.add(each.get());
      }
      return records;
    } catch (ExecutionException e) {
      if (e.getCause() instanceof IOException io) {
        throw io;
      }
      if (e.getCause() instanceof CancelledException cancelled) {
        throw cancelled;
      }
      throw new IllegalStateException(e.getCause());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new CancelledException();
    } finally {
      workers.shutdownNow();
    }
  }

  /**
   * @param left how many are not done
   */
  private RunRecord oneOf(BatchTask task, AtomicInteger left, Listener listener, Progress progress)
      throws IOException {
    int cores = Beside.cores();
    try {
      return settings.jobs() < cores
          ? one(task, listener, progress)
          : Beside.othersBusy(() -> left.get() >= cores, () -> one(task, listener, progress));
    } finally {
      left.decrementAndGet();
    }
  }

  private RunRecord one(BatchTask task, Listener listener, Progress progress) throws IOException {
    progress.checkCancelled();
    Path target = out.resolve(task.name());
    RunRecord there = record(target).orElse(null);
    boolean again = there != null && isSame(task, there);
    boolean inTheWay = there == null && Files.exists(target);
    RunRecord record =
        inTheWay
            ? inTheWay(task, target)
            : again ? there : new AssetRun(routine, task, settings, progress).run(target);
    synchronized (listener) {
      listener.done(task, record, again);
    }
    return record;
  }

  /** What no run made is not written over: the asset is refused, and nothing is written of it. */
  private RunRecord inTheWay(BatchTask task, Path target) {
    String problem =
        target
            + ": there is something of this name that no run made. Move it away, or choose another"
            + " folder with --out.";
    return RunRecord.refused(task.name(), routine, settings.ferry(), List.of(), problem);
  }

  /** The record of an asset's folder, if there is one. */
  public static Optional<RunRecord> record(Path folder) {
    Path file = folder.resolve(AssetRun.RECORD);
    if (!Files.isRegularFile(file)) {
      return Optional.empty();
    }
    try {
      return Optional.of(JSON.readValue(file.toFile(), RunRecord.class));
    } catch (IOException e) {
      return Optional.empty();
    }
  }

  private boolean isSame(BatchTask task, RunRecord there) throws IOException {
    boolean same =
        there.verdict() != RunRecord.Verdict.REFUSED
            && there.ferry().equals(settings.ferry())
            && there.routine().hash().equals(Routines.hash(routine))
            && there.landings().stream().noneMatch(l -> l.report().isEmpty() == settings.reports());
    for (int i = 0; same && i < there.inputs().size(); i++) {
      FileFact input = there.inputs().get(i);
      Path file = task.base().resolve(input.path());
      same = Files.isRegularFile(file) && Files.size(file) == input.bytes();
      same =
          same
              && ReportSide.facts(
                      new CargoFolder(Map.of(input.path(), file)), List.of(input.path()))
                  .get(0)
                  .equals(input);
    }
    return same && !there.inputs().isEmpty();
  }

  /** Records of all tasks as they stand; {@code null} for those that were not run. */
  public List<RunRecord> records(List<BatchTask> tasks) {
    return tasks.stream().map(t -> record(out.resolve(t.name())).orElse(null)).toList();
  }

  /** Writes one report of all, as a page and as JSON. */
  public Path report(List<BatchTask> tasks, List<RunRecord> records) throws IOException {
    BatchReport report = new BatchReport(routine, tasks, records, settings.ferry());
    replace(LIST, report.json());
    replace(PAGE, report.html(this::picture));
    return out.resolve(PAGE);
  }

  private byte[] picture(BatchTask task) throws IOException {
    Path picture = out.resolve(task.name()).resolve(AssetRun.PICTURE);
    return Files.isRegularFile(picture) ? Files.readAllBytes(picture) : null;
  }

  private void replace(String name, String text) throws IOException {
    Path half = Files.createTempFile(out, StagedFolder.PREFIX, "");
    Files.write(half, text.getBytes(StandardCharsets.UTF_8));
    Files.move(
        half,
        out.resolve(name),
        StandardCopyOption.ATOMIC_MOVE,
        StandardCopyOption.REPLACE_EXISTING);
  }
}
