package ferry.stone.cli;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.routine.Asset;
import ferry.stone.core.routine.AssetReading;
import ferry.stone.core.shore.Shore;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** The files a command works on, and how to read them when they do not say. */
final class CargoArguments {

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

  @Mixin private LibraryArgument library;

  /** The landing in a format as the shore asks for it; the standard one when none was named. */
  LandingOptions landing(String format) {
    return shore.isChosen()
        ? LandingOptions.on(shore.shore(), format)
        : LandingOptions.of(format).judgedBy(shore.shore());
  }

  /** The shore that the survey goes by. */
  Shore shore() {
    return shore.shore();
  }

  /**
   * Reads the files; the scene's frame is the stated, the given or the likeliest one.
   *
   * @param workFolder where zips are unpacked to
   */
  Asset read(Path workFolder) throws IOException, FormatException {
    return read(files, workFolder);
  }

  /** The files that were given. */
  List<Path> files() {
    return files;
  }

  /** The same of some of the files alone. */
  Asset read(List<Path> files, Path workFolder) throws IOException, FormatException {
    try (ProgressLine line = ProgressLine.onTerminal()) {
      return reading().read(files, workFolder, line);
    }
  }

  private AssetReading reading() {
    return new AssetReading(
        FormatArguments.reading(spec),
        unitIn == null ? null : unit(),
        upIn == null ? null : up(),
        skipBad,
        shore.shore(),
        library.folders());
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
}
