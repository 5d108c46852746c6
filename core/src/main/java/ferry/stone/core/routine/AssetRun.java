package ferry.stone.core.routine;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.ObjectWriter;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.handover.HandoverPage;
import ferry.stone.core.handover.PageAsset;
import ferry.stone.core.landing.Alternates;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.Landings;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.report.Report;
import ferry.stone.core.report.ReportSide;
import ferry.stone.core.report.ReportSide.FileFact;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.view.picture.Picture;
import ferry.stone.core.view.picture.ViewFrom;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Folders;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * A routine on one asset: read, handled, landed in each format, proved. All of it stands in a
 * folder of its own with {@code run.json}, or none of it does.
 */
final class AssetRun {
  static final String RECORD = "run.json";
  static final String PICTURE = "picture.png";

  /** About which part of the work is done when it was read, and when it was handled. */
  private static final double READ = 0.3;

  private static final double HANDLED = 0.4;

  /** Of a landing: when it was written, and when it was proved. */
  private static final double WRITTEN = 0.4;

  private static final double PROVED = 0.8;
  private static final int WIDTH = 240;
  private static final int HEIGHT = 180;

  /** Made once: what it learns of the records takes a tenth of a small asset's time. */
  private static final ObjectWriter JSON = new ObjectMapper().writerWithDefaultPrettyPrinter();

  private final Routine routine;
  private final BatchTask task;
  private final RunSettings settings;
  private final Progress progress;

  AssetRun(Routine routine, BatchTask task, RunSettings settings, Progress progress) {
    this.routine = routine;
    this.task = task;
    this.settings = settings;
    this.progress = progress;
  }

  /**
   * @param target the asset's folder; its parent is there
   */
  RunRecord run(Path target) throws IOException {
    Path work = Files.createTempDirectory("ferry-");
    try (StagedFolder folder = new StagedFolder(target)) {
      RunRecord record = carried(folder, work);
      try (OutputStream to = folder.create(RECORD)) {
        JSON.writeValue(to, record);
      }
      folder.keep();
      return record;
    } finally {
      Folders.delete(work);
    }
  }

  /** What cannot be carried is refused in a sentence; the others go on. */
  private RunRecord carried(StagedFolder folder, Path work) throws IOException {
    String problem;
    try {
      return landed(folder, work);
    } catch (CancelledException e) {
      throw e;
    } catch (FormatException | IOException | UncheckedIOException | IllegalArgumentException e) {
      problem = String.valueOf(e.getMessage());
    } catch (OutOfMemoryError e) {
      problem =
          "This needs more memory than the "
              + Figures.bytes(Runtime.getRuntime().maxMemory())
              + " that is there. Run fewer at once, or give it more.";
    } catch (RuntimeException e) {
      problem = "Unexpected fault: " + e;
    }
    if (Thread.currentThread().isInterrupted()) {
      // The batch was ended, which is no fault of the asset.
      throw new CancelledException();
    }
    folder.forget();
    return RunRecord.refused(task.name(), routine, settings.ferry(), inputs(task.given()), problem);
  }

  private RunRecord landed(StagedFolder folder, Path work) throws IOException, FormatException {
    long start = System.nanoTime();
    Asset asset =
        routine
            .assetReading()
            .with(settings.shared())
            .read(task.given(), work, progress.part(0, READ));
    List<FileFact> inputs = inputs(asset.inputs());
    RoutineHandling.check(asset.survey().findings());
    RoutineHandling handling =
        RoutineHandling.of(
            routine, asset.near(), asset.survey().findings(), progress.part(READ, HANDLED));
    List<LandingOptions> options = routine.landingOptions();
    List<String> folders = routine.folders();
    List<RunRecord.LandingFact> landings = new ArrayList<>();
    for (int i = 0; i < options.size(); i++) {
      progress.checkCancelled();
      double each = (1 - HANDLED) / options.size();
      Progress own = progress.part(HANDLED + each * i, HANDLED + each * (i + 1));
      landings.add(land(asset, handling, options.get(i), folders.get(i), folder, inputs, own));
    }
    picture(handling.far(), asset.resources(), folder);
    return RunRecord.carried(
        task.name(),
        routine,
        settings.ferry(),
        inputs,
        handling.stages(),
        RunRecord.findings(handling.findings(), asset.survey().findings()),
        landings,
        (System.nanoTime() - start) / 1e9);
  }

  private RunRecord.LandingFact land(
      Asset asset,
      RoutineHandling handling,
      LandingOptions options,
      String below,
      StagedFolder folder,
      List<FileFact> inputs,
      Progress own)
      throws IOException, FormatException {
    int foretold = Forecast.of(handling.far(), options, asset.resources()).items().size();
    Landings landings =
        Landings.write(
            handling.far(),
            options,
            task.name(),
            asset.resources(),
            folder.below(below),
            new Alternates(asset.near(), handling.steps(), asset.reread()),
            own.part(0, WRITTEN));
    Map<String, Path> written = folder.written(below);
    CargoFolder files = new CargoFolder(written);
    Proof proof =
        landings.proof(
            asset.near(),
            handling.far(),
            options,
            files,
            asset.resources(),
            own.part(WRITTEN, PROVED));
    String stem = Landing.stem(task.name()) + (below.isEmpty() ? "" : "." + below.replace("/", ""));
    String proofName = stem + ".proof.json";
    List<FileFact> facts = facts(written);
    String reportName = settings.reports() ? stem + ".report.html" : "";
    String page =
        settings.reports()
            ? page(
                asset,
                proof,
                landings,
                files,
                options,
                inputs,
                facts,
                handling.far(),
                own.part(PROVED, 1))
            : "";
    try (OutputStream to = folder.create(proofName)) {
      JSON.writeValue(to, proof);
    }
    if (settings.reports()) {
      try (OutputStream to = folder.create(reportName)) {
        to.write(page.getBytes(StandardCharsets.UTF_8));
      }
    }
    String handover = handOver(landings, files, folder, stem, own);
    return RunRecord.LandingFact.of(
        options.format(),
        below,
        landings.mainFile(),
        facts,
        foretold,
        proof,
        proofName,
        reportName,
        handover);
  }

  /** The name of the page, empty where none is asked for. */
  private String handOver(
      Landings landings, CargoFolder files, StagedFolder folder, String stem, Progress own)
      throws IOException, FormatException {
    if (!settings.pages()) {
      return "";
    }
    String name = stem + ".page.html";
    String made = "Made by Stone Ferry " + settings.ferry() + " with the routine " + routine.name();
    try (PageAsset landed =
            PageAsset.landed("landed", task.name(), landings.mainFiles(), files, own);
        OutputStream to = folder.create(name)) {
      new HandoverPage(task.name(), made, List.of(landed), null).write(to, own);
    }
    return name;
  }

  private String page(
      Asset asset,
      Proof proof,
      Landings landings,
      CargoFolder files,
      LandingOptions options,
      List<FileFact> inputs,
      List<FileFact> facts,
      Scene far,
      Progress own)
      throws IOException, FormatException {
    Scene landed = CargoReader.read(task.name(), landings.mainFiles(), ReadContext.of(files));
    Map<String, String> named = new TreeMap<>();
    named.put("Routine", routine.name() + ", version " + routine.version());
    named.put("Shore", routine.shore().name());
    named.put("Format", options.format());
    options.options().forEach((name, value) -> named.put(name, String.valueOf(value)));
    return new Report(
            Report.Kind.LANDING,
            task.name() + " to " + options.format(),
            "Made by Stone Ferry " + settings.ferry() + " with the routine " + routine.name(),
            proof,
            new ReportSide("near", asset.near(), asset.resources(), inputs),
            new ReportSide("landed", landed, files, facts),
            Report.Against.far(far),
            named)
        .html(own);
  }

  private void picture(Scene far, Resources files, StagedFolder folder) throws IOException {
    Picture picture = Picture.of(far, files, Double.NaN, progress);
    if (picture.isEmpty()) {
      return;
    }
    try (OutputStream to = folder.create(PICTURE)) {
      to.write(ImageCodec.encodePng(picture.taken(ViewFrom.CORNER, WIDTH, HEIGHT, progress)));
    }
  }

  private static List<FileFact> facts(Map<String, Path> files) throws IOException {
    return ReportSide.facts(new CargoFolder(files), new ArrayList<>(new TreeMap<>(files).keySet()));
  }

  /** Files on the disk, from the folder of what was given. */
  private List<FileFact> inputs(Iterable<Path> files) throws IOException {
    Map<String, Path> named = new TreeMap<>();
    for (Path file : files) {
      if (Files.isRegularFile(file) && task.holds(file)) {
        named.put(task.relative(file), file);
      }
    }
    return facts(named);
  }
}
