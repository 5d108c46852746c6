package ferry.stone.server.routine;

import ferry.stone.core.field.Field;
import ferry.stone.core.format.Formats;
import ferry.stone.core.handling.StepKind;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.routine.RoutineLanding;
import ferry.stone.core.routine.RoutineStep;
import java.util.Locale;
import java.util.stream.Collectors;

/** Routines for people. */
final class RoutineWords {
  private RoutineWords() {}

  static String step(RoutineStep step) {
    StepKind<?> kind = Steps.find(step.kind()).orElseThrow();
    String label = kind.label();
    String params =
        kind.fields().stream()
            .filter(field -> step.params().containsKey(field.name()))
            .map(field -> param(field, step.params().get(field.name())))
            .collect(Collectors.joining(", "));
    String on =
        step.pattern().isEmpty() && step.ofKind().isEmpty()
            ? ""
            : ", on " + (step.pattern().isEmpty() ? step.ofKind() : step.pattern());
    return label + (params.isEmpty() ? "" : ": " + params) + on;
  }

  /** A choice by its name; other values with the name of their field. */
  private static String param(Field field, Object value) {
    for (Field.Option option : field.options()) {
      if (option.value().equals(String.valueOf(value)) && field.type().equals("choice")) {
        return option.label().substring(0, 1).toLowerCase(Locale.ROOT)
            + option.label().substring(1);
      }
    }
    return field.label().toLowerCase(Locale.ROOT) + " " + value;
  }

  static String landing(RoutineLanding landing) {
    String name = Formats.find(landing.format()).orElseThrow().name();
    return name
        + (landing.parts() == null
            ? ""
            : landing.parts().each()
                ? ", a file for each part"
                : landing.parts().clips() ? ", a file for each clip" : "");
  }
}
