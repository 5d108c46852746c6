package ferry.stone.cli;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.StepKind;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.routine.Routine;
import ferry.stone.core.routine.Routines;
import java.io.PrintWriter;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Lists routines and the steps that they may have. */
@Command(
    name = "routines",
    mixinStandardHelpOptions = true,
    description = "Lists the built-in routines, prints one as JSON, or lists all steps.")
final class ListRoutines implements Callable<Integer> {
  @Parameters(
      arity = "0..1",
      paramLabel = "ID",
      description = "A built-in routine to print as JSON, to save and change.")
  private String id;

  @Option(names = "--steps", description = "List all kinds of steps with their fields.")
  private boolean steps;

  @Option(names = "--schema", description = "Print the JSON Schema of routines.")
  private boolean schema;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() {
    PrintWriter to = spec.commandLine().getOut();
    if (schema) {
      to.print(Routines.schema());
    } else if (steps) {
      Steps.all().forEach(kind -> to.println(line(kind)));
    } else if (id != null) {
      Routine routine =
          Routines.builtIn(id)
              .orElseThrow(
                  () ->
                      new ParameterException(
                          spec.commandLine(), "There is no built-in routine \"" + id + "\"."));
      to.print(Routines.write(routine));
    } else {
      Routines.builtIn().forEach(r -> to.println(r.id() + "  " + r.name() + ". " + r.note()));
    }
    to.flush();
    return Ferry.KEPT;
  }

  private static String line(StepKind<?> kind) {
    return kind.kind()
        + "  "
        + kind.label()
        + kind.fields().stream().map(ListRoutines::field).collect(Collectors.joining());
  }

  private static String field(Field field) {
    String choices =
        field.options().isEmpty()
            ? field.type()
            : field.options().stream().map(Field.Option::value).collect(Collectors.joining("|"));
    return "\n    " + field.name() + "=" + choices + "  (" + field.standard() + ")";
  }
}
