package ferry.stone.server.landing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Alternates;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.Landings;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.work.Progress;
import ferry.stone.server.crossing.Crossing;
import ferry.stone.server.crossing.CrossingRepository;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.crossing.HandlingService;
import ferry.stone.server.crossing.LoadedCrossing;
import ferry.stone.server.crossing.SceneService;
import ferry.stone.server.jobs.EventHub;
import ferry.stone.server.jobs.Job;
import ferry.stone.server.jobs.JobService;
import ferry.stone.server.landing.LandingRecord.LandedFile;
import ferry.stone.server.store.BlobStore;
import ferry.stone.server.store.Json;
import ferry.stone.server.store.Storage;
import ferry.stone.server.web.ConflictException;
import ferry.stone.server.web.NotFoundException;
import java.io.IOException;
import java.lang.ref.SoftReference;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Lands a far side and proves it, as a job. */
@Service
public class LandingService {
  /** The rows of a landing's proof. */
  private record Looked(String id, List<LedgerRow> rows) {}

  /** Those that were looked at last: pages of them are asked for one after another. */
  private volatile SoftReference<Looked> looked = new SoftReference<>(null);

  private final CrossingService crossings;
  private final SceneService scenes;
  private final CrossingRepository crossingRows;
  private final HandlingService handlings;
  private final LandingRepository landings;
  private final BlobStore blobs;
  private final JobService jobs;
  private final EventHub events;
  private final Json json;
  private final Storage storage;

  public LandingService(
      CrossingService crossings,
      SceneService scenes,
      CrossingRepository crossingRows,
      HandlingService handlings,
      LandingRepository landings,
      Storage storage,
      JobService jobs,
      EventHub events,
      Json json) {
    this.storage = storage;
    this.crossings = crossings;
    this.scenes = scenes;
    this.crossingRows = crossingRows;
    this.handlings = handlings;
    this.landings = landings;
    blobs = storage.blobs();
    this.jobs = jobs;
    this.events = events;
    this.json = json;
  }

  public LandingRecord start(String crossingId, LandingOptions options)
      throws IOException, FormatException {
    Crossing crossing = crossings.get(crossingId);
    LoadedCrossing loaded = scenes.scenes(crossingId);
    loaded.survey().findings().stream()
        .filter(f -> f.code().equals("buffer-missing"))
        .findFirst()
        .ifPresent(
            f -> {
              throw new ConflictException(
                  "The data file of "
                      + f.where()
                      + " is missing, so the landing would be empty. Choose the file at the survey"
                      + " or add it to the cargo, then land again.");
            });
    List<Step> steps = handlings.steps(crossingId);
    String id = UUID.randomUUID().toString();
    landings.insert(id, crossingId, options, json.write(steps));
    Job job =
        jobs.submit(
            "land",
            crossingId,
            "Landing " + crossing.name(),
            progress -> land(id, crossing, loaded, steps, options, progress),
            (state, problem) -> {
              landings.failed(id, state, problem);
              events.tell("landing", crossingId);
            });
    landings.job(id, job.id());
    return get(id);
  }

  /** Lands on the thread that asks for it, as part of longer work. */
  public LandingRecord landHere(String crossingId, LandingOptions options, Progress progress)
      throws IOException, FormatException {
    Crossing crossing = crossings.get(crossingId);
    LoadedCrossing loaded = scenes.scenes(crossingId);
    List<Step> steps = handlings.steps(crossingId);
    String id = UUID.randomUUID().toString();
    landings.insert(id, crossingId, options, json.write(steps));
    try {
      land(id, crossing, loaded, steps, options, progress);
    } catch (IOException | FormatException | RuntimeException e) {
      landings.failed(id, "failed", e.getMessage());
      throw e;
    }
    return get(id);
  }

  /** Says of landings that nobody works at any more that they were cut off. */
  public void cutOff(String crossingId) {
    for (LandingView landing : landings.views(crossingId)) {
      if (landing.state().equals("running")) {
        landings.failed(landing.id(), "failed", "The server was stopped meanwhile. Land again.");
      }
    }
  }

  private void land(
      String id,
      Crossing crossing,
      LoadedCrossing loaded,
      List<Step> steps,
      LandingOptions options,
      Progress progress)
      throws IOException, FormatException {
    Scene far = Handling.result(loaded.near(), loaded.handle(steps));
    try (BlobStore.Batch batch = blobs.batch()) {
      Landings written =
          Landings.write(
              far,
              options,
              crossing.name(),
              loaded.cargo(),
              batch::create,
              new Alternates(
                  loaded.near(), steps, variants -> scenes.near(crossing.id(), variants)),
              progress.part(0, 0.6));
      List<LandedFile> files = new ArrayList<>();
      Map<String, Path> places = new TreeMap<>();
      batch
          .keep()
          .forEach(
              (path, blob) -> {
                files.add(new LandedFile(path, blob.hash(), blob.size()));
                places.put(path, blobs.path(blob.hash()));
              });
      Proof proof =
          written.proof(
              loaded.near(),
              far,
              options,
              new CargoFolder(places),
              loaded.cargo(),
              progress.part(0.6, 1));
      files.forEach(f -> landings.addFile(id, f));
      landings.done(
          id, written.mainFile(), proof, tooLarge(files, crossings.farShore(crossing.id())));
      summarise(crossing, options, proof);
      long bytes = files.stream().mapToLong(LandedFile::size).sum();
      progress.report(
          Figures.count(files.size(), "file")
              + ", "
              + Figures.bytes(bytes)
              + ": "
              + proof.kept()
              + " kept, "
              + proof.changed()
              + " changed, "
              + proof.lost()
              + " lost",
          1);
    }
    events.tell("landing", crossing.id());
  }

  private void summarise(Crossing crossing, LandingOptions options, Proof proof) {
    Crossing now = crossings.get(crossing.id());
    crossingRows.summary(
        crossing.id(),
        now.summary()
            .withProof(
                Formats.find(options.format()).orElseThrow().name(),
                options.frame().label().replaceFirst(" · [a-z]+-handed$", ""),
                proof.kept(),
                proof.changed(),
                proof.lost()));
  }

  /** What is over the shore's limit; {@code null} for nothing. */
  private static String tooLarge(List<LandedFile> files, Shore shore) {
    long bytes = files.stream().mapToLong(LandedFile::size).sum();
    long limit = shore.budgets().fileBytes();
    return limit > 0 && bytes > limit
        ? String.format(
            Locale.ROOT,
            "%.1f MB, more than the %.1f MB that %s takes. Smaller textures or packing help.",
            bytes / 1e6,
            limit / 1e6,
            shore.name())
        : null;
  }

  public LandingRecord get(String id) {
    return landings
        .find(id)
        .map(this::live)
        .orElseThrow(() -> new NotFoundException("There is no such landing."));
  }

  /** The landings of a crossing without the rows of their proofs. */
  public List<LandingView> views(String crossingId) {
    crossings.get(crossingId);
    return landings.views(crossingId).stream()
        .map(
            l ->
                l.state().equals("running")
                    ? jobs.ended(l.jobId()).map(j -> l.ended(j.state(), j.problem())).orElse(l)
                    : l)
        .toList();
  }

  /** The rows of a landing's proof. */
  public List<LedgerRow> rows(String id) {
    Looked last = looked.get();
    if (last == null || !last.id().equals(id) || !landings.exists(id)) {
      LandingRecord landing = get(id);
      if (landing.proof() == null) {
        throw new NotFoundException("This landing has no proof yet.");
      }
      last = new Looked(id, landing.proof().rows());
      looked = new SoftReference<>(last);
    }
    return last.rows();
  }

  /** How a landing's job ended counts, even while that cannot be written down. */
  private LandingRecord live(LandingRecord landing) {
    return landing.state().equals("running")
        ? jobs.ended(landing.jobId())
            .map(j -> landing.ended(j.state(), j.problem()))
            .orElse(landing)
        : landing;
  }

  /** Deletes a landing with its files; one that runs is cancelled. */
  public void delete(String id) {
    LandingRecord landing = get(id);
    jobs.cancel(landing.jobId());
    storage.freeing(() -> landings.delete(id));
    events.tell("landing", landing.crossingId());
  }
}
