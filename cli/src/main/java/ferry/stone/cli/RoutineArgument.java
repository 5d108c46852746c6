package ferry.stone.cli;

import ferry.stone.core.handling.StepKind;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.routine.Routine;
import ferry.stone.core.routine.RoutineLanding;
import ferry.stone.core.routine.RoutineStep;
import ferry.stone.core.routine.Routines;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** The routine of a command: built in, a JSON file, or made of a list on the command line. */
final class RoutineArgument {
  @Spec(Spec.Target.MIXEE)
  private CommandSpec spec;

  @Option(
      names = "--routine",
      paramLabel = "ROUTINE",
      description = "A built-in routine, or a JSON file of one; 'ferry routines' lists them.")
  private String routine;

  @Option(
      names = "--to",
      split = ",",
      paramLabel = "FORMAT",
      description = "Without --routine: formats to land in, several apart by commas.")
  private List<String> formats = List.of();

  @Option(
      names = "--step",
      paramLabel = "STEP",
      description =
          "Without --routine: a step, in order, such as 'ground', 'scale factor=2' or"
              + " 'remove what=parts on=crate*'; 'ferry routines --steps' lists them.")
  private List<String> steps = List.of();

  @Option(
      names = "--accept",
      description =
          "Without --routine: accept what the survey offers, where nothing is taken away.")
  private boolean accept;

  @Mixin private ShoreArgument shore;

  Routine routine() {
    try {
      if (routine == null) {
        return listed();
      }
      if (!formats.isEmpty() || !steps.isEmpty() || accept || shore.isChosen()) {
        throw new IllegalArgumentException(
            "--routine says all of it: leave out --to, --step, --accept and --shore");
      }
      return Routines.builtIn(routine).orElseGet(this::fromFile);
    } catch (IllegalArgumentException e) {
      throw new ParameterException(spec.commandLine(), e.getMessage() + ".", e);
    }
  }

  private Routine fromFile() {
    Path file = Path.of(routine);
    if (!Files.isRegularFile(file)) {
      throw new IllegalArgumentException(
          "--routine takes a JSON file or one of "
              + Routines.builtIn().stream().map(Routine::id).collect(Collectors.joining(", "))
              + ", not \""
              + routine
              + "\"");
    }
    try {
      return Routines.read(Files.readString(file));
    } catch (IllegalArgumentException e) {
      throw new IllegalArgumentException("\"" + routine + "\" is no routine: " + e.getMessage(), e);
    } catch (IOException e) {
      throw new IllegalArgumentException(
          "\"" + routine + "\" cannot be read: " + e.getMessage(), e);
    }
  }

  private Routine listed() {
    if (formats.isEmpty()) {
      throw new IllegalArgumentException("--routine ROUTINE or --to FORMAT is needed");
    }
    List<RoutineStep> all = new ArrayList<>();
    for (String step : steps) {
      all.add(step(step));
    }
    return new Routine(
        Routine.SCHEMA,
        "listed",
        "From the command line",
        "",
        1,
        FormatArguments.reading(spec),
        "",
        "",
        shore.shore(),
        accept,
        all,
        formats.stream().map(f -> new RoutineLanding(f, null, null, false, null, null)).toList());
  }

  /** A kind, then values of its fields and {@code on=} a pattern of names. */
  private static RoutineStep step(String text) {
    String[] words = text.strip().split("\\s+(?=[A-Za-z]+=)");
    StepKind<?> kind =
        Steps.find(words[0])
            .orElseThrow(
                () ->
                    new IllegalArgumentException(
                        "--step: there is no step \""
                            + words[0]
                            + "\"; 'ferry routines --steps' lists them"));
    Map<String, Object> params = new HashMap<>();
    String pattern = "";
    String ofKind = "";
    for (int i = 1; i < words.length; i++) {
      String name = words[i].substring(0, words[i].indexOf('='));
      String value = words[i].substring(words[i].indexOf('=') + 1);
      if (name.equals("on")) {
        pattern = value;
      } else if (name.equals("kind")) {
        ofKind = value;
      } else if (kind.fields().stream().noneMatch(f -> f.name().equals(name))) {
        throw new IllegalArgumentException(
            "--step: \"" + kind.kind() + "\" has no \"" + name + "\"");
      } else {
        params.put(name, value);
      }
    }
    return new RoutineStep(kind.kind(), params, pattern, ofKind, Map.of());
  }
}
