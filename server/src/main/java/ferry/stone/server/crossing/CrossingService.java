package ferry.stone.server.crossing;

import ferry.stone.core.shore.Shore;
import ferry.stone.server.jobs.EventHub;
import ferry.stone.server.jobs.JobService;
import ferry.stone.server.shore.ShoreService;
import ferry.stone.server.store.Storage;
import ferry.stone.server.web.NotFoundException;
import java.nio.file.Path;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Crossings: their names, their shores, their small pictures. */
@Service
public class CrossingService {
  private static final int LONGEST_NAME = 120;

  private final CrossingRepository crossings;
  private final Storage storage;
  private final JobService jobs;
  private final EventHub events;
  private final ShoreService shores;
  private final SceneStore store;

  public CrossingService(
      CrossingRepository crossings,
      Storage storage,
      JobService jobs,
      EventHub events,
      ShoreService shores,
      SceneStore store) {
    this.crossings = crossings;
    this.storage = storage;
    this.jobs = jobs;
    this.events = events;
    this.shores = shores;
    this.store = store;
  }

  public List<Crossing> all() {
    return crossings.all();
  }

  public Crossing get(String id) {
    return crossings
        .find(id)
        .orElseThrow(() -> new NotFoundException("There is no such crossing; it may be deleted."));
  }

  public Crossing create(String name) {
    String id = UUID.randomUUID().toString();
    crossings.insert(id, checkedName(name));
    events.tell("crossing", id);
    return get(id);
  }

  public Crossing rename(String id, String name) {
    get(id);
    crossings.rename(id, checkedName(name));
    events.tell("crossing", id);
    return get(id);
  }

  private static String checkedName(String name) {
    String clean = name == null ? "" : name.strip();
    if (clean.isEmpty() || clean.length() > LONGEST_NAME) {
      throw new IllegalArgumentException("A crossing's name has 1 to 120 characters.");
    }
    return clean;
  }

  public void delete(String id) {
    jobs.cancelAll(id);
    store.remove(id);
    storage.freeing(() -> crossings.delete(id));
    events.tell("crossing", id);
  }

  /** The shore that a crossing goes to. */
  public Shore farShore(String id) {
    return shores.farOf(get(id).farShore());
  }

  /** Sends a crossing to another shore, which is remembered for the next. */
  public Crossing chooseShore(String id, String shore) {
    get(id);
    shores.remember(shore);
    crossings.farShore(id, shore);
    events.tell("crossing", id);
    return get(id);
  }

  /** Sends a crossing to a shore where that is one of those here; else it stays as it is. */
  public void sendTo(String id, Shore shore) {
    if (shores.all().contains(shore)) {
      crossings.farShore(id, shore.id());
    }
  }

  public Path blob(String hash) {
    return storage.blobs().path(hash);
  }
}
