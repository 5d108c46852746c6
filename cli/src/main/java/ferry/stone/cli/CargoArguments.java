package ferry.stone.cli;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.cargo.ZipUnpacker;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.landing.Alternates;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** The files a command works on, and how to read them when they do not say. */
final class CargoArguments {
  /** How far around a given file its textures and materials are looked for. */
  private static final int SEARCH_DEPTH = 4;

  private static final int SEARCH_FILES = 5000;

  @Spec(Spec.Target.MIXEE)
  private CommandSpec spec;

  @Parameters(
      arity = "1..*",
      paramLabel = "FILE",
      description = "Scene files, folders or zips. Textures and materials are found around them.")
  private List<Path> files;

  @Option(
      names = "--unit-in",
      paramLabel = "UNIT",
      description = "Unit of the numbers where a file does not say: " + LengthUnit.SYMBOLS + ".")
  private String unitIn;

  @Option(
      names = "--up-in",
      paramLabel = "AXIS",
      description = "Up axis where a file does not say: y, z, x, -y …")
  private String upIn;

  @Option(
      names = "--skip-bad",
      description = "Carry the rest when some of several scene files cannot be read.")
  private boolean skipBad;

  @Mixin private ShoreArgument shore;

  /** The landing in a format as the shore asks for it; the standard one when none was named. */
  LandingOptions landing(String format) {
    return shore.isChosen()
        ? LandingOptions.on(shore.shore(), format)
        : LandingOptions.of(format).withSkinMove(shore.shore().budgets().skinMove());
  }

  /** The shore that the survey goes by. */
  Shore shore() {
    return shore.shore();
  }

  /**
   * A scene as it was read, with what was found.
   *
   * @param inputs files on the disk that were or may have been read
   */
  record Cargo(
      Scene near,
      Survey survey,
      Resources resources,
      String name,
      Collection<Path> inputs,
      Alternates.Reread reread) {}

  /**
   * Reads the files; the scene's frame is the stated, the given or the likeliest one.
   *
   * @param workFolder where zips are unpacked to
   */
  Cargo read(Path workFolder) throws IOException, FormatException {
    return read(files, workFolder);
  }

  /** The files that were given. */
  List<Path> files() {
    return files;
  }

  /** The same of some of the files alone. */
  Cargo read(List<Path> files, Path workFolder) throws IOException, FormatException {
    LengthUnit unit = unitIn == null ? null : unit();
    SignedAxis up = upIn == null ? null : up();
    Map<String, Path> listed = new TreeMap<>();
    List<String> scenes = new ArrayList<>();
    for (int i = 0; i < files.size(); i++) {
      gather(files.get(i), prefix(files, i), workFolder, listed, scenes);
    }
    Resources resources = new CargoFolder(listed);
    String name =
        CargoPath.stem(files.get(0).toAbsolutePath().normalize().getFileName().toString());
    Findings findings = new Findings();
    ReadContext context =
        new ReadContext(resources, Map.of(), findings, Progress.NONE)
            .withOptions(FormatArguments.reading(spec));
    Scene read = readAll(name, scenes, context);
    Survey survey =
        Survey.of(read, findings.list(), shore.shore(), new SurveyMemo(), Progress.NONE);
    Frame frame = survey.likelyFrame(read);
    FrameSource unitSource = read.unitSource();
    FrameSource axesSource = read.axesSource();
    if (unit != null && unitSource == FrameSource.ASSUMED) {
      frame = frame.withMetresPerUnit(unit.metres());
      unitSource = FrameSource.CHOSEN;
    }
    if (up != null && axesSource == FrameSource.ASSUMED) {
      frame = frame.withUp(up);
      axesSource = FrameSource.CHOSEN;
    }
    Scene near = read.toBuilder().frame(frame, unitSource, axesSource).build();
    Alternates.Reread again =
        variants -> {
          Map<String, Object> options = new HashMap<>(FormatArguments.reading(spec));
          options.put(Composition.VARIANTS, variants);
          ReadContext other =
              new ReadContext(resources, Map.of(), new Findings(), Progress.NONE)
                  .withOptions(options);
          return readAll(name, scenes, other).toBuilder()
              .frame(near.frame(), near.unitSource(), near.axesSource())
              .build();
        };
    return new Cargo(
        near, reread(survey, near), resources, name, inputs(files, near, listed, scenes), again);
  }

  /** The files that the scene was read from, and those that it goes on needing. */
  private static Set<Path> inputs(
      List<Path> files, Scene read, Map<String, Path> listed, List<String> scenes) {
    Set<Path> inputs = new HashSet<>(files);
    scenes.forEach(s -> inputs.add(listed.get(s)));
    read.textures().stream()
        .filter(t -> t.resource() != null)
        .forEach(t -> inputs.add(listed.get(t.resource())));
    listed.forEach(
        (path, place) -> {
          if (List.of("mtl", "bin").contains(CargoPath.extension(path))) {
            inputs.add(place);
          }
        });
    inputs.remove(null);
    return inputs;
  }

  /** Reads all, or all that can be read: what cannot is a finding with its file. */
  private Scene readAll(String name, List<String> scenes, ReadContext context)
      throws IOException, FormatException {
    List<String> left = new ArrayList<>(scenes);
    while (true) {
      try {
        return CargoReader.read(name, left, context);
      } catch (FormatException e) {
        if (!skipBad || left.size() < 2 || !left.remove(e.resource())) {
          boolean others = left.size() > 1 && left.contains(e.resource());
          throw others
              ? new FormatException(
                  e.kind(),
                  e.resource(),
                  e.place(),
                  e.problem()
                      + " So none of the "
                      + left.size()
                      + " scene files was carried; --skip-bad carries the others.")
              : e;
        }
        context
            .findings()
            .add(Finding.of("file-skipped", Severity.FIX, e.resource(), e.getMessage()));
      }
    }
  }

  /** Findings about the frame say what was done with it here. */
  private static Survey reread(Survey survey, Scene near) {
    List<Finding> findings = new ArrayList<>();
    for (Finding f : survey.findings()) {
      boolean unit = f.code().equals("unit-likely");
      boolean axes = f.code().equals("lying-down") || f.code().equals("up-axis-likely");
      FrameSource source = unit ? near.unitSource() : near.axesSource();
      if (!unit && !axes) {
        findings.add(f);
      } else if (source == FrameSource.ASSUMED) {
        String used =
            unit
                ? LengthUnit.ofMetres(near.frame().metresPerUnit()).orElseThrow().word()
                : near.frame().up().label() + " up";
        findings.add(
            Finding.of(
                unit ? "unit-assumed" : "up-axis-assumed",
                Severity.LOOK,
                f.where(),
                "The file does not say; read as "
                    + used
                    + ", the likeliest ("
                    + f.evidence()
                    + ")."));
      }
    }
    return new Survey(survey.inventory(), survey.units(), survey.ups(), findings, survey.checks());
  }

  private LengthUnit unit() {
    return LengthUnit.parse(unitIn)
        .orElseThrow(
            () ->
                new ParameterException(
                    spec.commandLine(),
                    "--unit-in takes " + LengthUnit.SYMBOLS + ", not \"" + unitIn + "\"."));
  }

  private SignedAxis up() {
    return SignedAxis.parse(upIn)
        .orElseThrow(
            () ->
                new ParameterException(
                    spec.commandLine(),
                    "--up-in takes x, y, z or one of them with a minus, not \"" + upIn + "\"."));
  }

  /** What stands before the paths of one of several files. */
  private static String prefix(List<Path> files, int number) {
    return files.size() == 1 ? "" : "input_" + (number + 1) + "/";
  }

  private void gather(
      Path file, String prefix, Path workFolder, Map<String, Path> listed, List<String> scenes)
      throws IOException, FormatException {
    if (!Files.exists(file)) {
      throw new IOException(file + ": there is no such file. Check the path.");
    }
    if (Files.isDirectory(file)) {
      list(file, prefix, Integer.MAX_VALUE, listed);
      addScenes(listed, prefix, scenes);
    } else if (CargoPath.extension(file.getFileName().toString()).equals("zip")) {
      Path target = workFolder.resolve("zip_" + prefix.replace("/", ""));
      String shown = file.getFileName().toString();
      ZipUnpacker.unpack(
          file,
          shown,
          ZipUnpacker.Limits.USUAL,
          path -> {
            Path place = target.resolve(path);
            Files.createDirectories(place.getParent());
            return Files.newOutputStream(place);
          },
          Progress.NONE);
      list(target, prefix, Integer.MAX_VALUE, listed);
      addScenes(listed, prefix, scenes);
    } else {
      Path folder = file.toAbsolutePath().normalize().getParent();
      list(folder, prefix, SEARCH_DEPTH, listed);
      String own = prefix + file.getFileName();
      listed.put(own, file);
      scenes.add(own);
      CargoRole role = CargoRole.of(own, new CargoFolder(Map.of(own, file)));
      if (!role.isRead()) {
        throw new FormatException(
            FormatException.Kind.NOT_THIS_FORMAT,
            file.toString(),
            "",
            "this is no scene file. Expected "
                + Formats.readNames()
                + ", or a folder or zip of such files.");
      }
    }
  }

  private static void addScenes(Map<String, Path> listed, String prefix, List<String> scenes)
      throws IOException {
    Resources resources = new CargoFolder(listed);
    for (String path : listed.keySet()) {
      if (path.startsWith(prefix) && CargoRole.of(path, resources).isRead()) {
        scenes.add(path);
      }
    }
  }

  private static void list(Path folder, String prefix, int depth, Map<String, Path> listed)
      throws IOException {
    if (!Files.isDirectory(folder)) {
      return;
    }
    try (Stream<Path> walk = Files.walk(folder, depth)) {
      walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .limit(depth == Integer.MAX_VALUE ? Long.MAX_VALUE : SEARCH_FILES)
          .forEach(p -> listed.put(prefix + folder.relativize(p).toString().replace('\\', '/'), p));
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }
}
