package ferry.stone.server.routine;

import ferry.stone.core.format.Formats;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.routine.RoutineLanding;
import ferry.stone.core.routine.RoutineStep;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** Routines for people. */
final class RoutineWords {
  private RoutineWords() {}

  static String step(RoutineStep step) {
    String label = Steps.find(step.kind()).orElseThrow().label();
    String params =
        new TreeMap<>(step.params())
            .entrySet().stream()
                .map(e -> e.getKey() + " " + e.getValue())
                .collect(Collectors.joining(", "));
    String on =
        step.pattern().isEmpty() && step.ofKind().isEmpty()
            ? ""
            : ", on " + (step.pattern().isEmpty() ? step.ofKind() : step.pattern());
    return label + (params.isEmpty() ? "" : ": " + params) + on;
  }

  static String landing(RoutineLanding landing) {
    String name = Formats.find(landing.format()).orElseThrow().name();
    return name
        + (landing.parts() != null && landing.parts().each() ? ", a file for each part" : "");
  }
}
