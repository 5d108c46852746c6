package ferry.stone.server.crossing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.cargo.ZipUnpacker;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.CargoPath;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageException;
import ferry.stone.core.view.SideView;
import ferry.stone.core.work.Progress;
import ferry.stone.server.FerrySettings;
import ferry.stone.server.crossing.CargoRepository.StoredFile;
import ferry.stone.server.jobs.EventHub;
import ferry.stone.server.jobs.Job;
import ferry.stone.server.jobs.JobService;
import ferry.stone.server.shore.ShoreService;
import ferry.stone.server.store.BlobStore;
import ferry.stone.server.store.Storage;
import ferry.stone.server.web.ConflictException;
import ferry.stone.server.web.NotFoundException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Service;

/** Crossings, their cargo, and their scenes in memory. */
@Service
public class CrossingService {
  private static final int LONGEST_NAME = 120;
  private static final long LONGEST_WAIT_NANOS = 20_000_000_000L;
  private static final long WAIT_MILLIS = 50;

  private final CrossingRepository crossings;
  private final CargoRepository cargo;
  private final BlobStore blobs;
  private final JobService jobs;
  private final EventHub events;
  private final FerrySettings settings;
  private final ShoreService shores;
  private final Map<String, Object> reads = new ConcurrentHashMap<>();
  private final SceneStore store;
  private final HandlingMigration migration;
  private final Storage storage;

  public CrossingService(
      CrossingRepository crossings,
      CargoRepository cargo,
      Storage storage,
      JobService jobs,
      EventHub events,
      FerrySettings settings,
      ShoreService shores,
      SceneStore store,
      HandlingMigration migration) {
    this.storage = storage;
    this.store = store;
    this.migration = migration;
    this.shores = shores;
    this.crossings = crossings;
    this.cargo = cargo;
    blobs = storage.blobs();
    this.jobs = jobs;
    this.events = events;
    this.settings = settings;
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
    reads.remove(id);
    storage.freeing(() -> crossings.delete(id));
    events.tell("crossing", id);
  }

  public List<StoredFile> files(String id) {
    get(id);
    return cargo.files(id);
  }

  /** Takes a file in; {@code path} is relative, as the user's folder has it. */
  public StoredFile upload(String id, String path, long claimedSize, InputStream content)
      throws IOException, FormatException {
    get(id);
    String safe =
        CargoPath.safe(path)
            .orElseThrow(
                () ->
                    new FormatException(
                        FormatException.Kind.CORRUPT,
                        path,
                        "",
                        "the path leads outside the cargo. Bring the file under a plain name."));
    if (claimedSize > settings.maxUploadBytes()) {
      throw new BlobStore.TooLargeException(settings.maxUploadBytes());
    }
    BlobStore.Blob blob = blobs.put(content, settings.maxUploadBytes());
    try {
      StoredFile file = new StoredFile(safe, blob.hash(), blob.size(), null);
      cargo.put(id, file);
      return file;
    } finally {
      blobs.release(blob.hash());
    }
  }

  public void removeFile(String id, String path) {
    get(id);
    storage.freeing(() -> cargo.remove(id, path));
  }

  /** Starts reading the cargo anew. */
  public Job read(String id) {
    Crossing crossing = get(id);
    if (cargo.files(id).isEmpty()) {
      throw new ConflictException("Bring files first: there is nothing to read.");
    }
    Object turn = new Object();
    reads.put(id, turn);
    jobs.cancelAll(id);
    crossings.state(id, "reading", null);
    events.tell("crossing", id);
    return jobs.submit(
        "read",
        id,
        "Reading " + crossing.name(),
        progress -> readNow(id, progress),
        (state, problem) -> {
          // A reading that a newer one took the place of has no say any more.
          if (reads.get(id) == turn) {
            crossings.state(id, "failed", problem);
            events.tell("crossing", id);
          }
        });
  }

  public Job bind(String id, String reference, String file) {
    get(id);
    if (reference == null || reference.isBlank()) {
      throw new IllegalArgumentException(
          "reference must say which missing file is meant, as the survey names it.");
    }
    if (file == null || file.isEmpty()) {
      cargo.unbind(id, reference);
    } else {
      // Which scene of a file is read is kept like a chosen file: as its number.
      boolean known =
          (reference.startsWith("gltf:") && file.matches("\\d{1,6}"))
              || cargo.files(id).stream().anyMatch(f -> f.path().equals(file));
      if (!known) {
        throw new IllegalArgumentException("\"" + file + "\" is not in this cargo.");
      }
      cargo.bind(id, reference, file);
    }
    return read(id);
  }

  private void readNow(String id, Progress progress) throws IOException, FormatException {
    crossings.readingTries(id, crossings.readingTries(id) + 1);
    try {
      readAll(id, progress);
    } finally {
      crossings.readingTries(id, 0);
    }
  }

  /** What was being read when the program stopped is read again once, and no more. */
  void resumeReading(String id) {
    if (crossings.readingTries(id) > 1) {
      crossings.readingTries(id, 0);
      crossings.state(
          id,
          "failed",
          "The program stopped twice while it read this cargo, so it is not tried again by itself."
              + " It may need more memory than there is: give it more, or split the asset, then"
              + " read again.");
      events.tell("crossing", id);
      return;
    }
    read(id);
  }

  private void readAll(String id, Progress progress) throws IOException, FormatException {
    unpackZips(id, progress.part(0, 0.2));
    LoadedCrossing crossing = load(id, progress.part(0.2, 1));
    store.put(id, crossing);
    crossings.summary(id, summary(id, crossing));
    crossings.state(id, "ready", null);
    events.tell("crossing", id);
    progress.report(outcome(crossing), 1);
  }

  /** How much was read, in a few words. */
  private static String outcome(LoadedCrossing crossing) {
    CargoFolder cargo = crossing.cargo();
    long bytes = cargo.paths().stream().mapToLong(cargo::size).sum();
    var inventory = crossing.survey().inventory();
    return Figures.count(cargo.paths().size(), "file")
        + ", "
        + Figures.bytes(bytes)
        + ": "
        + Figures.count(inventory.nodes(), "part")
        + ", "
        + Figures.count(inventory.triangles(), "triangle");
  }

  private Crossing.Summary summary(String id, LoadedCrossing crossing) throws IOException {
    Set<String> formats = new LinkedHashSet<>();
    for (String path : crossing.cargo().paths()) {
      if (CargoRole.of(path, crossing.cargo()).isRead()) {
        Formats.of(path, crossing.cargo()).ifPresent(f -> formats.add(f.name()));
      }
    }
    var findings = crossing.survey().findings();
    Crossing.Summary before = get(id).summary();
    return new Crossing.Summary(
        String.join(", ", formats),
        crossing.cargo().paths().size(),
        SideView.heightText(crossing.near()),
        (int) findings.stream().filter(f -> f.severity() == Severity.FIX).count(),
        (int) findings.stream().filter(f -> f.severity() == Severity.LOOK).count(),
        before == null ? null : before.landed(),
        before == null ? null : before.landedFrame(),
        before == null ? -1 : before.kept(),
        before == null ? 0 : before.changed(),
        before == null ? 0 : before.lost());
  }

  private void unpackZips(String id, Progress progress) throws IOException, FormatException {
    for (StoredFile zip : cargo.files(id)) {
      if (CargoRole.of(zip.path()) != CargoRole.ARCHIVE || zip.unpackedFrom() != null) {
        continue;
      }
      try (BlobStore.Batch batch = blobs.batch()) {
        ZipUnpacker.unpack(
            blobs.path(zip.blob()),
            CargoPath.name(zip.path()),
            ZipUnpacker.Limits.USUAL,
            batch::create,
            progress);
        List<StoredFile> files = new ArrayList<>();
        batch
            .keep()
            .forEach(
                (path, blob) ->
                    files.add(new StoredFile(path, blob.hash(), blob.size(), zip.path())));
        cargo.putAll(id, files);
      }
      cargo.remove(id, zip.path());
    }
  }

  /** The files of a crossing's cargo. */
  public CargoFolder folder(String id) {
    Map<String, Path> paths = new TreeMap<>();
    for (StoredFile file : cargo.files(id)) {
      paths.put(file.path(), blobs.path(file.blob()));
    }
    return new CargoFolder(paths);
  }

  private LoadedCrossing load(String id, Progress progress) throws IOException, FormatException {
    CargoFolder folder = folder(id);
    Findings findings = new Findings();
    ReadContext context =
        new ReadContext(folder, cargo.bindings(id), findings, progress.part(0, 0.7));
    Scene near = CargoReader.read(get(id).name(), context);
    return new LoadedCrossing(near, findings.list(), folder, farShore(id), progress.part(0.7, 1));
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

  /** The crossing's scenes; read again from its files when they are no longer in memory. */
  public LoadedCrossing scenes(String id) throws IOException, FormatException {
    Crossing crossing = get(id);
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
    Crossing crossing = get(id);
    long end = System.nanoTime() + LONGEST_WAIT_NANOS;
    while (crossing.state().equals("reading") && System.nanoTime() < end) {
      try {
        Thread.sleep(WAIT_MILLIS);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return crossing;
      }
      crossing = get(id);
    }
    return crossing;
  }

  /** Lets a crossing's scenes go; they are loaded again when somebody asks. */
  public void forget(String id) {
    store.remove(id);
  }

  /** What a crossing's scenes weigh may have changed. */
  void weigh(String id) {
    store.weigh(id);
  }

  /** Keeps a small picture for the list. */
  public void thumbnail(String id, InputStream content, long most) throws IOException {
    get(id);
    byte[] bytes = content.readNBytes((int) Math.min(most + 1, Integer.MAX_VALUE - 8));
    if (bytes.length > most) {
      throw new BlobStore.TooLargeException(most);
    }
    try {
      if (!ImageCodec.probe(bytes, "thumbnail.png").kind().equals("png")) {
        throw new IllegalArgumentException("A crossing's picture is a PNG.");
      }
    } catch (ImageException e) {
      throw new IllegalArgumentException("A crossing's picture is a PNG.", e);
    }
    String hash = blobs.put(new java.io.ByteArrayInputStream(bytes), most).hash();
    try {
      crossings.thumbnail(id, hash);
    } finally {
      blobs.release(hash);
    }
  }

  public Path blob(String hash) {
    return blobs.path(hash);
  }
}
