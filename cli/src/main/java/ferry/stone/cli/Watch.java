package ferry.stone.cli;

import ferry.stone.core.routine.RunSettings;
import ferry.stone.core.routine.WatchedFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Runs a routine on what arrives in a folder. */
@Command(
    name = "watch",
    mixinStandardHelpOptions = true,
    description =
        "Runs a routine on what arrives in a folder and files it, with what was written, under done or"
            + " trouble of DIR. Ctrl C ends it; what was not finished is taken up again.")
final class Watch implements Callable<Integer> {
  private static final long PAUSE_MILLIS = 1000;

  @Parameters(arity = "1", paramLabel = "FOLDER", description = "Folder to watch.")
  private Path folder;

  @Mixin private RoutineArgument routine;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "DIR",
      description = "Folder for the results, outside of the watched one.")
  private Path out;

  @Option(
      names = "--jobs",
      paramLabel = "N",
      defaultValue = "1",
      description = "Assets at once (${DEFAULT-VALUE}).")
  private int jobs;

  @Option(
      names = "--quiet-for",
      paramLabel = "SECONDS",
      defaultValue = "3",
      description =
          "An asset is taken when nothing of it has changed for so long (${DEFAULT-VALUE}).")
  private double quiet;

  @Option(names = "--reports", description = "A page with pictures for each landing too.")
  private boolean reports;

  @Option(
      names = "--pages",
      description = "The landed asset in one page that needs no server, for each landing too.")
  private boolean pages;

  @Option(names = "--once", description = "Take what is there and end.")
  private boolean once;

  @Mixin private LibraryArgument library;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() throws Exception {
    if (!Files.isDirectory(folder)) {
      throw new IOException(folder + ": there is no such folder. Check the path");
    }
    WatchedFolder watched;
    try {
      RunSettings settings =
          new RunSettings(Ferry.VERSION, reports, pages, jobs, library.folders());
      watched = new WatchedFolder(folder, out, routine.routine(), settings, quiet);
    } catch (IllegalArgumentException e) {
      throw new ParameterException(spec.commandLine(), e.getMessage() + ".", e);
    }
    boolean trouble = false;
    for (WatchedFolder.Filed filed : watched.resume()) {
      trouble |= say(filed);
    }
    while (true) {
      List<WatchedFolder.Filed> taken;
      try (ProgressLine line = ProgressLine.onTerminal()) {
        taken = watched.take(line);
      }
      for (WatchedFolder.Filed filed : taken) {
        trouble |= say(filed);
      }
      if (once) {
        return trouble ? Ferry.LOST : Ferry.KEPT;
      }
      Thread.sleep(PAUSE_MILLIS);
    }
  }

  private boolean say(WatchedFolder.Filed filed) {
    var to = spec.commandLine().getOut();
    to.println(filed.record().asset() + ": " + filed.record().line() + " → " + filed.place());
    to.flush();
    return filed.record().verdict().isTrouble();
  }
}
