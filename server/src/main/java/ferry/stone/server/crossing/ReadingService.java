package ferry.stone.server.crossing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.ReadFields;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.math.Figures;
import ferry.stone.core.view.SideView;
import ferry.stone.core.work.Progress;
import ferry.stone.server.jobs.EventHub;
import ferry.stone.server.jobs.Job;
import ferry.stone.server.jobs.JobService;
import ferry.stone.server.web.ConflictException;
import java.io.IOException;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Service;

/** Reading a cargo as a job. */
@Service
public class ReadingService {
  private final CrossingService crossings;
  private final CrossingRepository repository;
  private final CargoService cargo;
  private final CargoRepository bindings;
  private final SceneService scenes;
  private final ThumbnailService thumbnails;
  private final JobService jobs;
  private final EventHub events;
  private final Map<String, Object> reads = new ConcurrentHashMap<>();

  public ReadingService(
      CrossingService crossings,
      CrossingRepository repository,
      CargoService cargo,
      CargoRepository bindings,
      SceneService scenes,
      JobService jobs,
      ThumbnailService thumbnails,
      EventHub events) {
    this.crossings = crossings;
    this.repository = repository;
    this.cargo = cargo;
    this.bindings = bindings;
    this.scenes = scenes;
    this.jobs = jobs;
    this.thumbnails = thumbnails;
    this.events = events;
  }

  /** Starts reading the cargo anew. */
  public Job read(String id) {
    Crossing crossing = crossings.get(id);
    if (cargo.files(id).isEmpty()) {
      throw new ConflictException("Bring files first: there is nothing to read.");
    }
    Object turn = new Object();
    reads.put(id, turn);
    jobs.cancelAll(id);
    repository.state(id, "reading", null);
    events.tell("crossing", id);
    return jobs.submit(
        "read",
        id,
        "Reading " + crossing.name(),
        progress -> {
          readNow(id, progress);
          reads.remove(id, turn);
        },
        (state, problem) -> {
          // A reading that a newer one took the place of has no say any more.
          if (reads.remove(id, turn)) {
            repository.state(id, "failed", problem);
            events.tell("crossing", id);
          }
        });
  }

  public Job bind(String id, String reference, String file) {
    crossings.get(id);
    if (reference == null || reference.isBlank()) {
      throw new IllegalArgumentException(
          "reference must say which missing file is meant, as the survey names it.");
    }
    if (file == null || file.isEmpty()) {
      bindings.unbind(id, reference);
    } else {
      if (cargo.files(id).stream().noneMatch(f -> f.path().equals(file))) {
        throw new IllegalArgumentException("\"" + file + "\" is not in this cargo.");
      }
      bindings.bind(id, reference, file);
    }
    return read(id);
  }

  /** Reads the cargo anew with other choices; those that are not named stay. */
  public Job choose(String id, Map<String, Object> options) {
    crossings.get(id);
    ReadFields.check(options);
    options.forEach((name, value) -> bindings.readOption(id, name, value));
    return read(id);
  }

  /** What was being read when the program stopped is read again once, and no more. */
  void resumeReading(String id) {
    if (repository.readingTries(id) > 1) {
      repository.readingTries(id, 0);
      repository.state(
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

  /**
   * Reads the cargo on the thread that asks for it, as part of longer work.
   *
   * @param options choices about the reading; those that are not named stay
   * @throws FormatException when it cannot be read; the crossing says so too
   */
  public void readHere(String id, Map<String, Object> options, Progress progress)
      throws IOException, FormatException {
    options.forEach((name, value) -> bindings.readOption(id, name, value));
    repository.state(id, "reading", null);
    try {
      readNow(id, progress);
    } catch (IOException | FormatException | RuntimeException e) {
      repository.state(id, "failed", e.getMessage());
      events.tell("crossing", id);
      throw e;
    }
  }

  private void readNow(String id, Progress progress) throws IOException, FormatException {
    repository.readingTries(id, repository.readingTries(id) + 1);
    try {
      readAll(id, progress);
    } finally {
      repository.readingTries(id, 0);
    }
  }

  private void readAll(String id, Progress progress) throws IOException, FormatException {
    cargo.unpack(id, progress.part(0, 0.2));
    LoadedCrossing crossing = scenes.reload(id, progress.part(0.2, 1));
    repository.summary(id, summary(id, crossing));
    repository.state(id, "ready", null);
    events.tell("crossing", id);
    thumbnails.now(id);
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
    Crossing.Summary before = crossings.get(id).summary();
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
}
