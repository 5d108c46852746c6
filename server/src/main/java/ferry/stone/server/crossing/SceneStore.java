package ferry.stone.server.crossing;

import ferry.stone.core.format.FormatException;
import ferry.stone.server.FerrySettings;
import ferry.stone.server.jobs.JobService;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.concurrent.FutureTask;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Scenes in memory, weighed in bytes: those that were used longest ago go when all are heavier than
 * the budget. The one that was asked for last stays, however heavy. Each is loaded once however
 * many ask for it, by the pool that does all heavy work.
 */
@Component
public class SceneStore {
  private static final Logger LOG = LoggerFactory.getLogger(SceneStore.class);

  private final JobService jobs;
  private final long budget;
  private final Map<String, LoadedCrossing> loaded = new LinkedHashMap<>(16, 0.75f, true);
  private final Map<String, Future<LoadedCrossing>> loading = new ConcurrentHashMap<>();

  public SceneStore(JobService jobs, FerrySettings settings) {
    this.jobs = jobs;
    budget =
        settings.sceneBytes() > 0 ? settings.sceneBytes() : Runtime.getRuntime().maxMemory() / 3;
  }

  /** Reads a crossing's files. */
  interface Loader {
    LoadedCrossing load() throws IOException, FormatException;
  }

  Optional<LoadedCrossing> known(String id) {
    synchronized (loaded) {
      return Optional.ofNullable(loaded.get(id));
    }
  }

  void put(String id, LoadedCrossing crossing) {
    synchronized (loaded) {
      loaded.put(id, crossing);
    }
    weigh(id);
  }

  void remove(String id) {
    synchronized (loaded) {
      loaded.remove(id);
    }
  }

  /** Lets go of what is too much, after scenes came or grew. */
  void weigh(String used) {
    List<Map.Entry<String, LoadedCrossing>> all;
    synchronized (loaded) {
      all = new ArrayList<>(loaded.entrySet());
    }
    long total = 0;
    long[] weights = new long[all.size()];
    for (int i = 0; i < weights.length; i++) {
      weights[i] = all.get(i).getValue().weight();
      total += weights[i];
    }
    for (int i = 0; i < weights.length && total > budget; i++) {
      if (!all.get(i).getKey().equals(used)) {
        remove(all.get(i).getKey());
        total -= weights[i];
        LOG.info("let a crossing's scenes go to make room: {} bytes", weights[i]);
      }
    }
  }

  /** The scenes of a crossing; loads them once for all who wait. */
  LoadedCrossing get(String id, Loader loader) throws IOException, FormatException {
    Optional<LoadedCrossing> before = known(id);
    if (before.isPresent()) {
      return before.get();
    }
    FutureTask<LoadedCrossing> mine =
        new FutureTask<>(
            () -> {
              LoadedCrossing made = loader.load();
              put(id, made);
              return made;
            });
    Future<LoadedCrossing> turn = loading.putIfAbsent(id, mine);
    if (turn == null) {
      turn = mine;
      try {
        jobs.inPool(mine);
      } finally {
        if (mine.isDone()) {
          loading.remove(id, mine);
        }
      }
    }
    try {
      return turn.get();
    } catch (InterruptedException | CancellationException e) {
      Thread.currentThread().interrupt();
      throw new IOException("The server is being stopped.", e);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof FormatException f) {
        throw f;
      }
      if (e.getCause() instanceof IOException f) {
        throw f;
      }
      if (e.getCause() instanceof OutOfMemoryError) {
        throw new IOException(
            "The asset is too large for this server's memory. Give it more, or split the asset.",
            e.getCause());
      }
      throw new IllegalStateException(e.getCause());
    } finally {
      loading.remove(id, turn);
    }
  }
}
