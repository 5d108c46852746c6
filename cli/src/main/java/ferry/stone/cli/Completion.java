package ferry.stone.cli;

import java.util.concurrent.Callable;
import picocli.AutoComplete;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** Prints what a shell needs to complete commands and options. */
@Command(
    name = "completion",
    mixinStandardHelpOptions = true,
    description = "Prints a completion script for bash and zsh: source <(ferry completion).")
final class Completion implements Callable<Integer> {
  @Spec private CommandSpec spec;

  @Override
  public Integer call() {
    spec.commandLine().getOut().println(AutoComplete.bash("ferry", spec.root().commandLine()));
    spec.commandLine().getOut().flush();
    return Ferry.KEPT;
  }
}
