package ferry.stone.core.handling;

import ferry.stone.core.field.Field;
import ferry.stone.core.scene.Scene;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Turns ids of parts in steps into names that outlive them, and back. Steps hold ids of parts in
 * their selection, and in parameters of the types {@code part}, {@code vertex} and {@code faces}.
 */
public final class PartNaming {
  private final PartIndex near;

  public PartNaming(Scene near) {
    this.near = new PartIndex(near);
  }

  /**
   * A part that a step names and that is not there, with the one that it may have become.
   *
   * @param likely or {@code null}
   */
  public record Missing(PartRef part, PartRef likely) {}

  /**
   * A step whose parts have ids, ready to run.
   *
   * @param failure why it cannot run, or {@code null}
   */
  public record Resolved(Step step, List<Missing> missing, String failure) {}

  /** Finds the parts of a step: those of the near side there, those of earlier steps before it. */
  public Resolved resolve(Step step, Scene before) {
    if (step.parts().isEmpty() && step.paramParts().isEmpty()) {
      return new Resolved(step, List.of(), null);
    }
    PartIndex[] here = new PartIndex[1];
    List<Missing> missing = new ArrayList<>();
    List<String> problems = new ArrayList<>();
    Set<Integer> ids = new LinkedHashSet<>();
    for (PartRef ref : step.parts()) {
      Integer id = find(ref, before, here, missing, problems);
      if (id != null) {
        ids.add(id);
      }
    }
    ids.addAll(step.nodeIds());
    Map<String, Object> params = new HashMap<>(step.params());
    step.paramParts()
        .forEach(
            (field, ref) -> {
              Integer id = find(ref, before, here, missing, problems);
              if (id != null) {
                params.put(field, withId(step.params().get(field), id));
              }
            });
    return new Resolved(
        step.with(List.copyOf(ids), params),
        missing,
        problems.isEmpty()
            ? null
            : problems.get(0)
                + (problems.size() > 1 ? " (" + (problems.size() - 1) + " more)" : "")
                + ".");
  }

  private Integer find(
      PartRef ref, Scene before, PartIndex[] here, List<Missing> missing, List<String> problems) {
    PartIndex index = near;
    if (ref.made()) {
      here[0] = here[0] == null ? new PartIndex(before) : here[0];
      index = here[0];
    }
    Integer id = index.id(ref).orElse(null);
    if (id == null) {
      missing.add(new Missing(ref, index.likely(ref).orElse(null)));
      problems.add(index.problem(ref));
    }
    return id;
  }

  /**
   * The step with all its parts named.
   *
   * @param scenes what steps made so far, the nearest first, for parts that are not on the near
   *     side
   * @throws IllegalArgumentException when a part is in none of them
   */
  public Step named(Step step, List<Scene> scenes) {
    List<PartIndex> made = new ArrayList<>();
    List<Scene> left = new ArrayList<>(scenes);
    Map<String, PartRef> paramParts = new HashMap<>(step.paramParts());
    StepKind<?> kind = Steps.find(step.kind()).orElse(null);
    if (kind != null) {
      for (Field field : kind.fields()) {
        int id = idIn(field, step.params().get(field.name()));
        if (id > 0 && !paramParts.containsKey(field.name())) {
          paramParts.put(field.name(), named(id, made, left));
        }
      }
    }
    Set<PartRef> parts = new LinkedHashSet<>(step.parts());
    step.nodeIds().forEach(id -> parts.add(named(id, made, left)));
    return step.named(List.copyOf(parts), paramParts);
  }

  private PartRef named(int id, List<PartIndex> made, List<Scene> left) {
    PartRef ref = near.ref(id, false).orElse(null);
    for (int i = 0; ref == null && i < made.size() + left.size(); i++) {
      if (i == made.size()) {
        made.add(new PartIndex(left.remove(0)));
      }
      ref = made.get(i).ref(id, true).orElse(null);
    }
    if (ref == null) {
      throw new IllegalArgumentException(
          "A part that was chosen is not there any more. Choose it again.");
    }
    return ref;
  }

  private static int idIn(Field field, Object value) {
    return switch (field.type()) {
      case "part" -> value instanceof Number n ? n.intValue() : 0;
      case "vertex", "faces" ->
          value instanceof String s && s.matches("\\d{1,9}:.*")
              ? Integer.parseInt(s.substring(0, s.indexOf(':')))
              : 0;
      default -> 0;
    };
  }

  private static Object withId(Object value, int id) {
    return value instanceof String s && s.contains(":") ? id + s.substring(s.indexOf(':')) : id;
  }
}
