package ferry.stone.core.landing;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Far sides of the variants that are not chosen: the cargo is read once more with another choice,
 * and the same steps are taken. Parts that steps name are found by their paths.
 */
public final class Alternates {
  private final Scene near;
  private final List<Step> steps;
  private final Reread reread;

  /** Reads the cargo once more. */
  public interface Reread {
    /**
     * @param variants for the option {@link Composition#VARIANTS}
     */
    Scene with(String variants) throws IOException, FormatException;
  }

  /**
   * @param near as it was read
   * @param steps that make the far side of it
   */
  public Alternates(Scene near, List<Step> steps, Reread reread) {
    this.near = near;
    this.steps = List.copyOf(steps);
    this.reread = reread;
  }

  /** The far side with one more variant chosen. */
  public Scene far(Composition.Choice choice, String name) throws IOException, FormatException {
    StringBuilder variants = new StringBuilder();
    for (Composition.Choice other : near.composition().choices()) {
      boolean own = other.prim().equals(choice.prim()) && other.set().equals(choice.set());
      String chosen = own ? name : other.chosen();
      if (!chosen.isEmpty()) {
        variants.append(other.text(chosen)).append(' ');
      }
    }
    Scene other = reread.with(variants.toString().strip());
    List<Step> own = own(other);
    return Handling.result(other, Handling.run(other, own, Progress.NONE));
  }

  private List<Step> own(Scene other) {
    Map<Integer, String> paths = new HashMap<>();
    for (int i = 0; i < near.nodes().size(); i++) {
      paths.put(near.nodes().get(i).id(), near.paths().get(i));
    }
    Map<String, Integer> there = new HashMap<>();
    for (int i = 0; i < other.nodes().size(); i++) {
      there.putIfAbsent(other.paths().get(i), other.nodes().get(i).id());
    }
    List<Step> all = new ArrayList<>();
    for (Step step : steps) {
      List<Integer> ids =
          step.nodeIds().stream()
              .map(id -> there.get(paths.getOrDefault(id, "")))
              .filter(id -> id != null)
              .toList();
      // A step on parts that are not there has nothing to do.
      if (step.nodeIds().isEmpty() || !ids.isEmpty()) {
        all.add(
            new Step(
                step.id(),
                step.kind(),
                step.params(),
                step.enabled(),
                ids,
                step.pattern(),
                step.ofKind(),
                step.parts(),
                step.paramParts()));
      }
    }
    return all;
  }
}
