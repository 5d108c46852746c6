package ferry.stone.cli;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.math.Figures;
import ferry.stone.core.work.Release;
import java.io.IOException;
import java.io.PrintWriter;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** The {@code ferry} command. Exit codes: 0 kept, 1 something lost or refused, 2 wrong usage. */
@Command(
    name = "ferry",
    mixinStandardHelpOptions = true,
    version = "Stone Ferry " + Ferry.VERSION,
    description = "Carries 3D assets from one shore to another and proves that they arrived.",
    subcommands = {
      Inspect.class,
      Convert.class,
      Prove.class,
      Run.class,
      Watch.class,
      TakePicture.class,
      ListShores.class,
      ListRoutines.class,
      ListFormats.class,
      Completion.class,
      Manual.class
    })
public final class Ferry {
  static final String VERSION = Release.VERSION;
  static final int KEPT = 0;
  static final int LOST = 1;
  static final int USAGE = 2;

  private Ferry() {}

  public static void main(String[] args) {
    System.setProperty("java.awt.headless", "true");
    System.exit(run(args, new PrintWriter(System.out, true), new PrintWriter(System.err, true)));
  }

  /** Runs a command and returns its exit code. */
  static int run(String[] args, PrintWriter out, PrintWriter err) {
    CommandLine command = new CommandLine(new Ferry()).setOut(out).setErr(err);
    command.setCaseInsensitiveEnumValuesAllowed(true);
    command.getSubcommands().values().stream()
        .map(CommandLine::getCommandSpec)
        .filter(
            spec ->
                spec.mixins().values().stream()
                    .anyMatch(
                        m ->
                            m.userObject() instanceof CargoArguments
                                || m.userObject() instanceof RoutineArgument))
        .forEach(FormatArguments::addReading);
    FormatArguments.addTo(command.getSubcommands().get("convert").getCommandSpec());
    command.setParameterExceptionHandler(
        (e, a) -> {
          err.println(oneLine(e.getMessage()) + " Run 'ferry --help' for the usage.");
          return USAGE;
        });
    command.setExecutionExceptionHandler(
        (e, c, parsed) -> {
          boolean known = e instanceof FormatException || e instanceof IOException;
          err.println(oneLine(known ? e.getMessage() : "Unexpected fault: " + e));
          return LOST;
        });
    if (args.length == 0) {
      command.usage(err);
      return USAGE;
    }
    // A task of its own, so that faults of any kind end in a sentence.
    FutureTask<Integer> task = new FutureTask<>(() -> command.execute(args));
    try {
      task.run();
      return task.get();
    } catch (ExecutionException e) {
      Throwable cause = e.getCause();
      err.println(
          cause instanceof OutOfMemoryError
              ? "This needs more memory than the "
                  + Figures.bytes(Runtime.getRuntime().maxMemory())
                  + " that it has. Give it more, e.g. FERRY_MEMORY=8g, or split the asset."
              : oneLine("Unexpected fault: " + cause));
      return LOST;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return LOST;
    }
  }

  private static String oneLine(String message) {
    String line = message == null ? "Unknown fault." : message.replaceAll("\\s*\\R\\s*", " ");
    return line.endsWith(".") ? line : line + ".";
  }
}
