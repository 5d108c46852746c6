package ferry.stone.server.routine;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.report.ReportSide.FileFact;
import ferry.stone.core.routine.Routine;
import ferry.stone.core.routine.RoutineHandling;
import ferry.stone.core.routine.RunRecord;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import ferry.stone.core.work.Release;
import ferry.stone.server.crossing.CargoService;
import ferry.stone.server.crossing.CrossingService;
import ferry.stone.server.crossing.HandlingService;
import ferry.stone.server.crossing.LoadedCrossing;
import ferry.stone.server.crossing.ReadingService;
import ferry.stone.server.crossing.SceneService;
import ferry.stone.server.jobs.EventHub;
import ferry.stone.server.landing.LandingRecord;
import ferry.stone.server.landing.LandingService;
import ferry.stone.server.routine.BatchRepository.AssetRow;
import ferry.stone.server.routine.BatchRepository.BatchRow;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Takes one asset of a batch through its routine: read, handled, landed in each format, proved. */
@Component
class AssetCarrier {
  private final BatchRepository repository;
  private final CrossingService crossings;
  private final CargoService cargos;
  private final ReadingService readings;
  private final SceneService scenes;
  private final HandlingService handlings;
  private final LandingService landings;
  private final EventHub events;

  AssetCarrier(
      BatchRepository repository,
      CrossingService crossings,
      CargoService cargos,
      ReadingService readings,
      SceneService scenes,
      HandlingService handlings,
      LandingService landings,
      EventHub events) {
    this.repository = repository;
    this.crossings = crossings;
    this.cargos = cargos;
    this.readings = readings;
    this.scenes = scenes;
    this.handlings = handlings;
    this.landings = landings;
    this.events = events;
  }

  void carry(BatchRow batch, AssetRow asset, Progress progress)
      throws IOException, FormatException {
    progress.checkCancelled();
    String id = asset.crossingId();
    Routine routine = batch.routine();
    repository.state(id, "running");
    events.tell("batch", batch.id());
    long start = System.nanoTime();
    crossings.sendTo(id, routine.shore());
    readings.readHere(id, routine.reading(), progress.part(0, 0.35));
    LoadedCrossing loaded = scenes.scenes(id);
    List<Finding> survey = loaded.survey(routine.shore()).findings();
    RoutineHandling.check(survey);
    List<Step> steps = RoutineHandling.steps(routine, loaded.near(), survey);
    handlings.change(id, crossings.get(id).history(), steps);
    List<Handling.Stage> stages = loaded.handle(handlings.steps(id), progress.part(0.35, 0.5));
    Scene far = Handling.result(loaded.near(), stages);
    List<LandingOptions> options = routine.landingOptions();
    List<String> folders = routine.folders();
    List<RunRecord.LandingFact> facts = new ArrayList<>();
    List<String> ids = new ArrayList<>();
    for (int i = 0; i < options.size(); i++) {
      progress.checkCancelled();
      double from = 0.5 + 0.5 * i / options.size();
      double to = 0.5 + 0.5 * (i + 1) / options.size();
      int foretold = Forecast.of(far, options.get(i), loaded.cargo()).items().size();
      LandingRecord landed = landings.landHere(id, options.get(i), progress.part(from, to));
      ids.add(landed.id());
      facts.add(fact(asset, landed, folders.get(i), foretold));
    }
    RunRecord record =
        RunRecord.carried(
            asset.name(),
            routine,
            Release.VERSION,
            inputs(id),
            stages,
            RunRecord.findings(RoutineHandling.told(loaded.near(), stages), survey),
            facts,
            (System.nanoTime() - start) / 1e9);
    repository.done(id, record, ids);
    progress.report(record.line(), 1);
    events.tell("batch", batch.id());
  }

  /** An asset that could not be carried. */
  void refused(BatchRow batch, AssetRow asset, String problem) {
    repository.done(
        asset.crossingId(),
        RunRecord.refused(
            asset.name(), batch.routine(), Release.VERSION, inputs(asset.crossingId()), problem),
        List.of());
  }

  private static RunRecord.LandingFact fact(
      AssetRow asset, LandingRecord landed, String folder, int foretold) {
    String stem =
        Landing.stem(asset.name()) + (folder.isEmpty() ? "" : "." + folder.replace("/", ""));
    return RunRecord.LandingFact.of(
        landed.options().format(),
        folder,
        landed.mainFile(),
        landed.files().stream().map(f -> new FileFact(f.path(), f.size(), f.blob())).toList(),
        foretold,
        landed.proof(),
        stem + ".proof.json",
        stem + ".report.html",
        "");
  }

  private List<FileFact> inputs(String id) {
    return cargos.files(id).stream().map(f -> new FileFact(f.path(), f.size(), f.blob())).toList();
  }
}
