package ferry.stone.server.jobs;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.work.Cancel;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Progress;
import ferry.stone.server.FerrySettings;
import ferry.stone.server.store.DiskSpace;
import jakarta.annotation.PreDestroy;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.FutureTask;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/**
 * Runs long work on a bounded pool: state is kept, progress told, and each job can be cancelled.
 */
@Service
public class JobService {
  private static final Logger LOG = LoggerFactory.getLogger(JobService.class);
  private static final int SECONDS_BETWEEN_TRIES = 2;
  private static final String POOL = "ferry-job";
  private static final long NANOS_BETWEEN_EVENTS = 120_000_000L;
  private static final long NANOS_BEFORE_NEWS = 400_000_000L;

  private final JobRepository repository;
  private final EventHub events;
  private final ExecutorService pool;
  private final Map<String, Running> running = new ConcurrentHashMap<>();
  private final Map<String, Runnable> unrecorded = new ConcurrentHashMap<>();
  private final DiskSpace disk;
  private final ScheduledExecutorService again =
      Executors.newSingleThreadScheduledExecutor(
          work -> {
            Thread thread = new Thread(work, "ferry-endings");
            thread.setDaemon(true);
            return thread;
          });

  public JobService(
      JobRepository repository, EventHub events, FerrySettings settings, DiskSpace disk) {
    this.disk = disk;
    again.scheduleWithFixedDelay(
        this::recordAgain, SECONDS_BETWEEN_TRIES, SECONDS_BETWEEN_TRIES, TimeUnit.SECONDS);
    this.repository = repository;
    this.events = events;
    pool =
        Executors.newFixedThreadPool(
            Math.max(1, settings.jobs()),
            work -> {
              Thread thread = new Thread(work, POOL);
              thread.setDaemon(true);
              return thread;
            });
  }

  /** The work of a job. */
  public interface Work {
    void run(Progress progress) throws Exception;
  }

  /** What follows when a job did not get done. */
  public interface Failure {
    /**
     * @param state {@code failed} or {@code cancelled}
     * @param problem for the user
     */
    void handle(String state, String problem);
  }

  public Job submit(String kind, String crossingId, String title, Work work, Failure failure) {
    Job job =
        new Job(
            UUID.randomUUID().toString(),
            kind,
            crossingId,
            title,
            "waiting",
            "waiting",
            0,
            null,
            Instant.now().toString(),
            null);
    repository.insert(job);
    Running entry = new Running(job);
    running.put(job.id(), entry);
    events.tell("job", job);
    pool.submit(() -> run(entry, work, failure));
    return job;
  }

  /** Has the pool do something that somebody waits for; a thread of the pool does it itself. */
  public void inPool(Runnable work) {
    if (Thread.currentThread().getName().equals(POOL)) {
      work.run();
    } else {
      pool.submit(work);
    }
  }

  /**
   * Does work on the thread that asks for it, so that it is seen and can be cancelled like a job.
   * It is not kept: its asker learns what came of it.
   *
   * @throws CancelledException when it was cancelled
   */
  public void here(String kind, String crossingId, String title, Consumer<Progress> work) {
    Job job =
        new Job(
            UUID.randomUUID().toString(),
            kind,
            crossingId,
            title,
            "running",
            "starting",
            0,
            null,
            Instant.now().toString(),
            null);
    Running entry = new Running(job);
    // What is done at once is no news.
    entry.lastEvent = System.nanoTime() + NANOS_BEFORE_NEWS;
    running.put(job.id(), entry);
    String state = "failed";
    try {
      Cancel.during(
          entry,
          () -> {
            work.accept(entry);
            return null;
          });
      state = "done";
    } catch (CancelledException e) {
      state = "cancelled";
      throw e;
    } finally {
      running.remove(job.id());
      if (entry.told) {
        events.tell("job", entry.job.with(state, state, 1, null));
      }
    }
  }

  private void run(Running entry, Work work, Failure failure) {
    // A task of its own, so that faults of any kind come back as what it ended with.
    FutureTask<Void> task =
        new FutureTask<>(
            () -> {
              entry.checkCancelled();
              change(entry, entry.job.with("running", "starting", 0, null), true);
              Cancel.during(
                  entry,
                  () -> {
                    work.run(entry);
                    return null;
                  });
              String outcome = entry.outcome == null ? "done" : entry.outcome;
              Job done = entry.job.with("done", outcome, 1, null);
              change(entry, done.ended("done", outcome, null), true);
              return null;
            });
    try {
      task.run();
      task.get();
    } catch (ExecutionException e) {
      Throwable cause = e.getCause();
      if (cause instanceof CancelledException) {
        end(entry, failure, "cancelled", "Cancelled.");
      } else {
        end(entry, failure, "failed", sentence(entry, cause));
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      end(entry, failure, "cancelled", "Cancelled.");
    } finally {
      if (!unrecorded.containsKey(entry.job.id())) {
        running.remove(entry.job.id());
      }
    }
  }

  private String sentence(Running entry, Throwable cause) {
    if (cause instanceof FormatException) {
      return cause.getMessage();
    }
    if (cause instanceof OutOfMemoryError) {
      return "The asset is too large for this server's memory. Give it more, or split the asset.";
    }
    LOG.error("job {} failed", entry.job.id(), cause);
    return DiskSpace.isFull(cause) ? disk.sentence() : "This did not work: " + cause.getMessage();
  }

  /** Writes down how a job ended; what cannot be written now is tried again until it is. */
  private void end(Running entry, Failure failure, String state, String problem) {
    entry.job = entry.job.ended(state, state, problem);
    Runnable record =
        () -> {
          failure.handle(state, problem);
          repository.update(entry.job);
        };
    try {
      record.run();
    } catch (RuntimeException e) {
      LOG.warn("the end of job {} is written down later: {}", entry.job.id(), e.getMessage());
      if (DiskSpace.isFull(e)) {
        disk.giveUp();
      }
      unrecorded.put(entry.job.id(), record);
    }
    events.tell("job", entry.job);
  }

  private void recordAgain() {
    unrecorded.forEach(
        (id, record) -> {
          try {
            record.run();
            unrecorded.remove(id);
            running.remove(id);
          } catch (RuntimeException e) {
            LOG.debug("job {} waits to be written down", id, e);
          }
        });
  }

  /** A job that has ended and whose end may not be written down yet. */
  public Optional<Job> ended(String id) {
    Running entry = running.get(id);
    return entry != null && unrecorded.containsKey(id) ? Optional.of(entry.job) : Optional.empty();
  }

  private void change(Running entry, Job job, boolean keep) {
    entry.job = job;
    if (keep) {
      repository.update(job);
    }
    events.tell("job", job);
  }

  public void cancel(String id) {
    Running entry = running.get(id);
    if (entry != null) {
      entry.cancelled = true;
    }
  }

  /** Cancels all jobs of a crossing and waits a little for them to end. */
  public void cancelAll(String crossingId) {
    running.values().stream()
        .filter(e -> e.job.crossingId().equals(crossingId))
        .forEach(e -> e.cancelled = true);
  }

  public Optional<Job> find(String id) {
    Running entry = running.get(id);
    return entry != null ? Optional.of(entry.job) : repository.find(id);
  }

  /** The latest jobs, with the live state of those that run. */
  public List<Job> latest() {
    List<Job> all = new ArrayList<>();
    // Work that is not kept stands first while it runs.
    running.values().stream()
        .filter(r -> r.told && r.job.kind().equals("handle"))
        .forEach(r -> all.add(r.job));
    for (Job job : repository.latest(50)) {
      Running live = running.get(job.id());
      all.add(live == null ? job : live.job);
    }
    return all;
  }

  @PreDestroy
  void stop() {
    running.values().forEach(e -> e.cancelled = true);
    again.shutdownNow();
    pool.shutdownNow();
  }

  private final class Running implements Progress {
    private volatile Job job;
    private volatile boolean cancelled;
    private long lastEvent;
    private volatile boolean told;
    private volatile String outcome;

    Running(Job job) {
      this.job = job;
    }

    @Override
    public synchronized void report(String what, double fraction) {
      // What is said at the very end is what came of it.
      outcome = fraction >= 1 ? what : null;
      long now = System.nanoTime();
      if (now - lastEvent > NANOS_BETWEEN_EVENTS) {
        lastEvent = now;
        told = true;
        change(this, job.with("running", what, Math.max(0, Math.min(1, fraction)), null), false);
      }
    }

    @Override
    public boolean isCancelled() {
      return cancelled;
    }
  }
}
