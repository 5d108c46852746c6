package ferry.stone.server.crossing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import ferry.stone.server.web.ConflictException;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import org.springframework.stereotype.Service;

/** The scenes of crossings: in memory, or read again from their files. */
@Service
public class SceneService {
  private static final long LONGEST_WAIT_NANOS = 20_000_000_000L;
  private static final long WAIT_MILLIS = 50;

  private final CrossingService crossings;
  private final CargoService cargo;
  private final CargoRepository bindings;
  private final SceneStore store;
  private final HandlingMigration migration;

  public SceneService(
      CrossingService crossings,
      CargoService cargo,
      CargoRepository bindings,
      SceneStore store,
      HandlingMigration migration) {
    this.crossings = crossings;
    this.cargo = cargo;
    this.bindings = bindings;
    this.store = store;
    this.migration = migration;
  }

  /** The crossing's scenes; read again from its files when they are no longer in memory. */
  public LoadedCrossing scenes(String id) throws IOException, FormatException {
    Crossing crossing = crossings.get(id);
    LoadedCrossing before = store.known(id).orElse(null);
    if (crossing.state().equals("reading") && before != null) {
      // While the cargo is read anew the page goes on with what it shows.
      return before;
    }
    if (crossing.state().equals("reading")) {
      // Who asks while the cargo is read gets what is read, unless that takes long.
      crossing = whenRead(id);
    }
    if (!crossing.state().equals("ready")) {
      throw new ConflictException(
          crossing.state().equals("failed")
              ? crossing.problem()
              : "The cargo has not been read yet.");
    }
    before = store.known(id).orElse(null);
    return before != null
        ? before
        : store.get(
            id,
            () -> {
              LoadedCrossing made = load(id, Progress.NONE);
              migration.run(id, made);
              return made;
            });
  }

  private Crossing whenRead(String id) {
    Crossing crossing = crossings.get(id);
    long end = System.nanoTime() + LONGEST_WAIT_NANOS;
    while (crossing.state().equals("reading") && System.nanoTime() < end) {
      try {
        Thread.sleep(WAIT_MILLIS);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return crossing;
      }
      crossing = crossings.get(id);
    }
    return crossing;
  }

  /** Reads a crossing's cargo anew and keeps what was read. */
  LoadedCrossing reload(String id, Progress progress) throws IOException, FormatException {
    LoadedCrossing loaded = load(id, progress);
    store.put(id, loaded);
    return loaded;
  }

  /** Reads a crossing's cargo. */
  private LoadedCrossing load(String id, Progress progress) throws IOException, FormatException {
    CargoFolder folder = cargo.folder(id);
    Findings findings = new Findings();
    ReadContext context =
        new ReadContext(folder, bindings.bindings(id), findings, progress.part(0, 0.7))
            .withOptions(bindings.readOptions(id));
    Scene near = CargoReader.read(crossings.get(id).name(), context);
    return new LoadedCrossing(
        near, findings.list(), folder, crossings.farShore(id), progress.part(0.7, 1));
  }

  /** A crossing's near side as it is read with other variants; it is not kept. */
  public Scene near(String id, String variants) throws IOException, FormatException {
    Map<String, Object> options = new HashMap<>(bindings.readOptions(id));
    options.put(Composition.VARIANTS, variants);
    ReadContext context =
        new ReadContext(cargo.folder(id), bindings.bindings(id), new Findings(), Progress.NONE)
            .withOptions(options);
    return CargoReader.read(crossings.get(id).name(), context);
  }

  /** Lets a crossing's scenes go; they are loaded again when somebody asks. */
  public void forget(String id) {
    store.remove(id);
  }

  /** What a crossing's scenes weigh may have changed. */
  void weigh(String id) {
    store.weigh(id);
  }
}
