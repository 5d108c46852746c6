package ferry.stone.server.routine;

import ferry.stone.core.landing.Landing;
import ferry.stone.core.routine.Routine;
import ferry.stone.server.crossing.Crossing;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.jobs.EventHub;
import ferry.stone.server.jobs.JobService;
import ferry.stone.server.landing.LandingService;
import ferry.stone.server.routine.BatchRepository.AssetRow;
import ferry.stone.server.routine.BatchRepository.BatchRow;
import ferry.stone.server.web.ConflictException;
import ferry.stone.server.web.NotFoundException;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Service;

/**
 * Batches: many assets through one routine, each a crossing of its own that can be opened. What a
 * stop of the server cut off goes on at the next start.
 */
@Service
public class BatchService {
  private static final int MOST_ASSETS = 2000;

  private final BatchRepository repository;
  private final RoutineService routines;
  private final CrossingService crossings;
  private final LandingService landings;
  private final AssetCarrier carrier;
  private final JobService jobs;
  private final EventHub events;

  public BatchService(
      BatchRepository repository,
      RoutineService routines,
      CrossingService crossings,
      LandingService landings,
      AssetCarrier carrier,
      JobService jobs,
      EventHub events) {
    this.repository = repository;
    this.routines = routines;
    this.crossings = crossings;
    this.landings = landings;
    this.carrier = carrier;
    this.jobs = jobs;
    this.events = events;
  }

  public List<BatchRow> all() {
    return repository.all();
  }

  public BatchRow get(String id) {
    return repository
        .find(id)
        .orElseThrow(() -> new NotFoundException("There is no such batch; it may be deleted."));
  }

  public List<AssetRow> assets(String id) {
    get(id);
    return repository.assets(id);
  }

  public BatchRow create(String routineId, String name) {
    Routine routine = routines.get(routineId);
    String clean = name == null || name.isBlank() ? routine.name() : name.strip();
    if (clean.length() > 120) {
      throw new IllegalArgumentException("A batch's name has 1 to 120 characters.");
    }
    String id = UUID.randomUUID().toString();
    repository.insert(id, clean, routine);
    events.tell("batch", id);
    return get(id);
  }

  /** One more asset, whose files come next; its name is made one that no other here has. */
  public synchronized AssetRow add(String id, String name) {
    List<AssetRow> there = assets(id);
    if (there.size() >= MOST_ASSETS) {
      throw new ConflictException("A batch has at most 2,000 assets. Begin another one.");
    }
    Set<String> names =
        there.stream().map(a -> a.name().toLowerCase(Locale.ROOT)).collect(Collectors.toSet());
    String stem = Landing.stem(name == null ? "" : name);
    String own = stem;
    for (int n = 2; names.contains(own.toLowerCase(Locale.ROOT)); n++) {
      own = stem + "-" + n;
    }
    Crossing crossing = crossings.create(own);
    repository.add(id, there.size(), crossing.id(), own);
    events.tell("batch", id);
    return repository.ofCrossing(crossing.id()).orElseThrow();
  }

  /** Sends an asset through the routine, again where it was before. */
  public AssetRow run(String id, String crossingId) {
    AssetRow asset = asset(id, crossingId);
    if (asset.state().equals("waiting") || asset.state().equals("running")) {
      return asset;
    }
    submit(get(id), asset);
    return asset(id, crossingId);
  }

  /** Sends all assets again that were not carried, and those that never were. */
  public void retry(String id) {
    BatchRow batch = get(id);
    for (AssetRow asset : assets(id)) {
      boolean refused =
          asset.state().equals("cancelled")
              || asset.state().equals("new")
              || asset.state().equals("done") && asset.record().landings().isEmpty();
      if (refused) {
        submit(batch, asset);
      }
    }
  }

  /** Ends all work of a batch; what was carried stays. */
  public void cancel(String id) {
    for (AssetRow asset : assets(id)) {
      if (asset.state().equals("waiting") || asset.state().equals("running")) {
        repository.state(asset.crossingId(), "cancelled");
        jobs.cancelAll(asset.crossingId());
      }
    }
    events.tell("batch", id);
  }

  private void submit(BatchRow batch, AssetRow asset) {
    repository.state(asset.crossingId(), "waiting");
    events.tell("batch", batch.id());
    jobs.submit(
        "batch",
        asset.crossingId(),
        batch.routine().name() + " on " + asset.name(),
        progress -> carrier.carry(batch, asset, progress),
        (state, problem) -> {
          if (state.equals("cancelled")) {
            repository.state(asset.crossingId(), "cancelled");
          } else {
            carrier.refused(batch, asset, problem);
          }
          events.tell("batch", batch.id());
        });
  }

  /** An asset as a crossing of the quay. */
  public Crossing open(String id, String crossingId) {
    AssetRow asset = asset(id, crossingId);
    repository.opened(asset.crossingId());
    events.tell("crossing", asset.crossingId());
    return crossings.get(asset.crossingId());
  }

  /** Deletes a batch with those of its assets that nobody opened. */
  public void delete(String id) {
    List<AssetRow> assets = assets(id);
    cancel(id);
    assets.stream().filter(a -> !a.opened()).forEach(a -> crossings.delete(a.crossingId()));
    repository.delete(id);
    events.tell("batch", id);
  }

  private AssetRow asset(String id, String crossingId) {
    return repository
        .ofCrossing(crossingId)
        .filter(a -> a.batchId().equals(id))
        .orElseThrow(() -> new NotFoundException("There is no such asset in this batch."));
  }

  /** What was cut off goes on, after crossings and jobs were put in order. */
  @EventListener(ApplicationReadyEvent.class)
  @Order(2)
  void resume() {
    for (AssetRow asset : repository.unfinished()) {
      landings.cutOff(asset.crossingId());
      submit(get(asset.batchId()), asset);
    }
  }
}
