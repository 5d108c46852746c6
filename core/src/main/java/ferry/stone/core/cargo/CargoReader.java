package ferry.stone.core.cargo;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.flat.FittingLayers;
import ferry.stone.core.format.losses.ReaderSays;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Reads all scene files of a cargo into one scene. */
public final class CargoReader {
  private CargoReader() {}

  /**
   * @param name what the scene is called when several files make it
   */
  public static Scene read(String name, ReadContext context) throws IOException, FormatException {
    List<String> files = new ArrayList<>();
    List<String> caches = new ArrayList<>();
    for (String path : context.resources().paths()) {
      CargoRole role = CargoRole.of(path, context.resources());
      if (role == CargoRole.SCENE) {
        files.add(path);
      } else if (role == CargoRole.CACHE) {
        caches.add(path);
      }
    }
    files.addAll(caches);
    return read(name, files, context);
  }

  /**
   * @param files the scene files to read; the others of the cargo are only looked up
   */
  public static Scene read(String name, List<String> files, ReadContext context)
      throws IOException, FormatException {
    if (files.isEmpty()) {
      throw nothingToRead(context);
    }
    List<String> scenes = new ArrayList<>();
    List<String> caches = new ArrayList<>();
    for (String file : files) {
      boolean cache = CargoRole.of(file, context.resources()) == CargoRole.CACHE;
      (cache ? caches : scenes).add(file);
    }
    if (scenes.isEmpty()) {
      // Without a mesh its points are shown by themselves.
      scenes.addAll(caches);
      caches.clear();
    }
    scenes = MainFiles.of(scenes, context);
    Map<String, List<String>> frames = frames(scenes, context);
    Gathering gathering = new Gathering(name, scenes, context);
    scenes = gathering.read();
    for (int i = 0; i < scenes.size(); i++) {
      ReadContext own = part(context, i, scenes.size() + caches.size(), 0);
      Scene one = readOne(scenes.get(i), own);
      List<String> run = frames.get(scenes.get(i));
      gathering.add(scenes.get(i), run == null ? one : inMotion(one, run, own));
    }
    noteRuns(scenes, context);
    Scene scene = gathering.scene();
    List<Scene> cached = new ArrayList<>();
    for (int i = 0; i < caches.size(); i++) {
      ReadContext own =
          part(context, scenes.size() + i, scenes.size() + caches.size(), scene.framesPerSecond());
      cached.add(readOne(caches.get(i), own));
    }
    Scene whole =
        cached.isEmpty() ? scene : CacheMatch.put(scene, cached, caches, context.findings());
    return whole.toBuilder().images(new CargoImages(context.resources())).build();
  }

  /** Where numbered files are frames: only the first of each run stays among the scenes. */
  private static Map<String, List<String>> frames(List<String> scenes, ReadContext context) {
    Map<String, List<String>> byFirst = new LinkedHashMap<>();
    if (context.values(ReadFields.CARGO).text(ReadFields.RUNS).equals(ReadFields.FRAMES)) {
      for (List<String> run : FrameRun.runs(scenes).values()) {
        byFirst.put(run.get(0), run);
        scenes.removeAll(run.subList(1, run.size()));
      }
    }
    return byFirst;
  }

  private static Scene inMotion(Scene first, List<String> run, ReadContext context)
      throws IOException, FormatException {
    if (SpanRun.is(first)) {
      List<Scene> spans = new ArrayList<>(List.of(first));
      for (String path : run.subList(1, run.size())) {
        spans.add(readOne(path, context));
      }
      return SpanRun.join(spans, run, context.findings());
    }
    Findings lost = new Findings();
    RunFiles.Source source =
        path -> {
          Findings own = new Findings();
          ReadContext quiet =
              new ReadContext(context.resources(), context.bindings(), own, Progress.NONE)
                  .withOptions(context.options());
          Scene frame = withoutBrokenLayers(readFile(path, quiet), own);
          // What is worth a look in a frame was told of the first; what is lost in one is its own.
          own.list().stream().filter(f -> ReaderSays.isLoss(f.code())).forEach(lost::add);
          return frame;
        };
    double rate = context.values(ReadFields.CARGO).number(ReadFields.RATE);
    FrameRun frames = new FrameRun(run, source, first, rate, context.findings());
    return told(frames.scene(context.progress()), lost, context);
  }

  private static ReadContext part(ReadContext context, int file, int files, double rate) {
    return new ReadContext(
        context.resources(),
        context.bindings(),
        context.options(),
        context.findings(),
        context.progress().part((double) file / files, (file + 1.0) / files),
        rate);
  }

  /**
   * Reads a file; what its reader has no place for stays with the scene, so that no proof omits it.
   */
  private static Scene readOne(String path, ReadContext context)
      throws IOException, FormatException {
    Findings own = new Findings();
    ReadContext inside = context.of(context.resources(), own);
    return told(withoutBrokenLayers(readFile(path, inside), own), own, context);
  }

  private static Scene told(Scene scene, Findings findings, ReadContext context) {
    context.findings().addAll(findings.list());
    SceneBuilder told = scene.toBuilder();
    for (Finding finding : findings.list()) {
      if (ReaderSays.isLoss(finding.code())) {
        told.unread(finding.where() + ": " + finding.message());
      }
    }
    return told.build();
  }

  /** A layer that has too few values for its mesh helps nobody further on. */
  private static Scene withoutBrokenLayers(Scene scene, Findings findings) {
    return FittingLayers.of(
        scene,
        (mesh, layer) ->
            findings.add(
                Finding.of(
                    "layer-too-short",
                    Severity.FIX,
                    mesh.name() + ", " + layer.name(),
                    "The layer has fewer values than its mesh needs: it is left out.")));
  }

  private static Scene readFile(String path, ReadContext context)
      throws IOException, FormatException {
    Optional<Format> format = Formats.of(path, context.resources());
    SceneReader reader = format.flatMap(Format::reader).orElse(null);
    if (reader == null) {
      throw new FormatException(
          FormatException.Kind.NOT_THIS_FORMAT,
          path,
          "",
          "this is no scene file. Expected " + Formats.readNames() + ".");
    }
    if (!format.get().extensions().contains(CargoPath.extension(path))) {
      context
          .findings()
          .add(
              Finding.of(
                  "named-as-another-format",
                  Severity.NOTE,
                  path,
                  "The file's name does not end as those of its format do: by its content it is "
                      + format.get().name()
                      + ", and was read as that."));
    }
    return reader.read(path, context);
  }

  private static FormatException nothingToRead(ReadContext context) {
    List<String> paths = context.resources().paths();
    String first = paths.isEmpty() ? "the cargo" : paths.get(0);
    return new FormatException(
        FormatException.Kind.MISSING,
        first,
        "",
        "there is no scene file to read. Expected " + Formats.readNames() + ", alone or in a zip.");
  }

  /** Numbered files may be parts or frames: says which reading was taken. */
  private static void noteRuns(List<String> files, ReadContext context) {
    FrameRun.runs(files)
        .forEach(
            (name, run) -> {
              if (run.size() >= 3) {
                context
                    .findings()
                    .add(
                        Finding.of(
                                "numbered-run",
                                Severity.LOOK,
                                run.get(0) + " … " + CargoPath.name(run.get(run.size() - 1)),
                                "These numbered files were read as different parts, not as frames of"
                                    + " one motion.")
                            .measured(run.size() + " files")
                            .offer(
                                Offer.read(
                                    "Read them as frames", ReadFields.RUNS, ReadFields.FRAMES)));
              }
            });
  }
}
