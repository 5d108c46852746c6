package ferry.stone.cli;

import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import java.io.PrintWriter;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Lists shores. */
@Command(
    name = "shores",
    mixinStandardHelpOptions = true,
    description = "Lists the built-in shores, or prints one as JSON.")
final class ListShores implements Callable<Integer> {
  @Parameters(
      arity = "0..1",
      paramLabel = "ID",
      description = "A shore to print as JSON, to save, change and name with --shore.")
  private String id;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() throws Exception {
    PrintWriter to = spec.commandLine().getOut();
    if (id == null) {
      Shores.builtIn().forEach(s -> to.println(s.id() + "  " + s.name() + ". " + s.note()));
    } else {
      Shore shore =
          Shores.builtIn(id)
              .orElseThrow(
                  () ->
                      new ParameterException(
                          spec.commandLine(), "There is no built-in shore \"" + id + "\"."));
      to.println(new ObjectMapper().writerWithDefaultPrettyPrinter().writeValueAsString(shore));
    }
    to.flush();
    return Ferry.KEPT;
  }
}
