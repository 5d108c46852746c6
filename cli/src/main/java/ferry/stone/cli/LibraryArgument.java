package ferry.stone.cli;

import ferry.stone.core.cargo.SharedFolders;
import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** Folders of images that many assets use. */
final class LibraryArgument {
  @Spec(Spec.Target.MIXEE)
  private CommandSpec spec;

  @Option(
      names = "--library",
      paramLabel = "FOLDER",
      description =
          "A folder of images that many assets use: what a file names and is not beside it is looked"
              + " for there; as often as needed. FERRY_LIBRARY has them for all calls.")
  private List<Path> library;

  SharedFolders folders() {
    try {
      return library == null
          ? SharedFolders.of(System.getenv("FERRY_LIBRARY"))
          : SharedFolders.of(library);
    } catch (IllegalArgumentException e) {
      throw new ParameterException(spec.commandLine(), "--library: " + e.getMessage() + ".", e);
    }
  }
}
