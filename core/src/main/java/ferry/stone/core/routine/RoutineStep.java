package ferry.stone.core.routine;

import ferry.stone.core.handling.PartRef;
import ferry.stone.core.handling.Step;
import ferry.stone.core.handling.Steps;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * A step of a routine: on all parts, or on those of a name and kind, whatever the cargo.
 *
 * @param kind of step, as the page and {@code docs/cli.md} list them
 * @param params by field name; the standard of each that is left out
 * @param pattern of names of parts: {@code *} for any run and {@code ?} for any one character,
 *     several apart by commas; empty for any
 * @param ofKind kind of parts: {@code mesh}, {@code group}, {@code joint} …; empty for any
 * @param parts parts that parameters name, by field name: paths of the cargo
 */
public record RoutineStep(
    String kind,
    Map<String, Object> params,
    String pattern,
    String ofKind,
    Map<String, String> parts) {
  public RoutineStep {
    params = params == null ? Map.of() : Map.copyOf(params);
    pattern = pattern == null ? "" : pattern.strip();
    ofKind = ofKind == null ? "" : ofKind.strip();
    parts = parts == null ? Map.of() : Map.copyOf(parts);
    if (kind == null) {
      throw new IllegalArgumentException("a step needs a kind");
    }
    Steps.validate(new Step("s", kind, params, true, List.of()));
  }

  /**
   * A step of a crossing as one of a routine: parts that were picked by hand are told by their
   * names.
   */
  public static RoutineStep of(Step step) {
    Map<String, String> parts = new HashMap<>();
    step.paramParts().forEach((field, ref) -> parts.put(field, ref.path()));
    Map<String, Object> params = new HashMap<>(step.params());
    String pattern = step.pattern();
    if (!step.parts().isEmpty() && pattern.isEmpty()) {
      pattern =
          String.join(
              ", ",
              step.parts().stream()
                  .map(p -> p.path().substring(p.path().lastIndexOf('/') + 1))
                  // A comma would part the name in two.
                  .map(name -> name.replace(',', '?'))
                  .distinct()
                  .toList());
    }
    return new RoutineStep(step.kind(), params, pattern, step.ofKind(), parts);
  }

  /** The step as a handling takes it. */
  public Step step(String id) {
    Map<String, PartRef> refs = new HashMap<>();
    parts.forEach((field, path) -> refs.put(field, new PartRef(path, 1, 1, false)));
    return new Step(id, kind, params, true, List.of(), pattern, ofKind, List.of(), refs);
  }
}
