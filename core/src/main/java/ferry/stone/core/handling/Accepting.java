package ferry.stone.core.handling;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;

/**
 * What becomes of a handling when offers are accepted: what is set once for the whole scene is set
 * again, what another step does already is widened to more parts, what the numbers mean comes
 * before what is done with them.
 */
public final class Accepting {
  /** Kinds of which a handling needs only one: what the numbers mean, and where all stands. */
  private static final Set<String> SINGLE =
      Set.of("sourceUnit", "sourceUp", "sourceFront", "centre", "ground");

  private static final String MEANING = "source";

  private Accepting() {}

  /**
   * The offers that may be accepted all at once: the first of each finding to put right or to look
   * at, unless it takes something away or guesses.
   */
  public static List<Offer> together(List<Finding> findings) {
    List<Offer> offers = new ArrayList<>();
    for (Finding finding : findings) {
      if (finding.severity() != Severity.NOTE && !finding.offers().isEmpty()) {
        Offer first = finding.offers().get(0);
        if (!first.asks()) {
          offers.add(first);
        }
      }
    }
    return offers;
  }

  /**
   * The steps with those that offers ask for; offers of other actions are passed over.
   *
   * @param ids gives each new step an id of its own
   */
  public static List<Step> with(List<Step> steps, List<Offer> offers, Supplier<String> ids) {
    List<Step> result = new ArrayList<>(steps);
    for (Offer offer : offers) {
      if (offer.action().equals("step")) {
        offer.first().forEach(before -> accept(result, before, ids));
        accept(result, offer, ids);
      }
    }
    return result;
  }

  private static void accept(List<Step> steps, Offer offer, Supplier<String> ids) {
    boolean single = SINGLE.contains(offer.kind()) && offer.nodeIds().isEmpty();
    for (int i = 0; i < steps.size() && single; i++) {
      if (steps.get(i).kind().equals(offer.kind())) {
        Step old = steps.get(i);
        steps.set(i, changed(old, offer.params(), old.nodeIds(), old.parts()));
        return;
      }
    }
    for (int i = 0; i < steps.size(); i++) {
      Step same = steps.get(i);
      boolean fits =
          same.kind().equals(offer.kind())
              && numbers(same.params()).equals(numbers(offer.params()))
              && same.enabled()
              && same.pattern().isEmpty()
              && same.ofKind().isEmpty();
      if (fits) {
        steps.set(i, wider(same, offer.nodeIds()));
        return;
      }
    }
    Step step = new Step(ids.get(), offer.kind(), offer.params(), true, offer.nodeIds());
    int place = steps.size();
    for (int i = steps.size() - 1; i >= 0 && offer.kind().startsWith(MEANING); i--) {
      place = steps.get(i).kind().startsWith(MEANING) ? place : i;
    }
    steps.add(place, step);
  }

  /** On more parts; parts that are named already stay, and no parts are all. */
  private static Step wider(Step step, List<Integer> more) {
    boolean all = step.nodeIds().isEmpty() && step.parts().isEmpty() || more.isEmpty();
    Set<Integer> ids = new LinkedHashSet<>(step.nodeIds());
    ids.addAll(more);
    return all
        ? changed(step, step.params(), List.of(), List.of())
        : changed(step, step.params(), List.copyOf(ids), step.parts());
  }

  private static Step changed(
      Step step, Map<String, Object> params, List<Integer> nodeIds, List<PartRef> parts) {
    return new Step(
        step.id(),
        step.kind(),
        params,
        true,
        nodeIds,
        step.pattern(),
        step.ofKind(),
        parts,
        step.paramParts());
  }

  /** A number is the same whether it was read as a whole one or not. */
  private static Map<String, Object> numbers(Map<String, Object> params) {
    Map<String, Object> same = new HashMap<>(params);
    same.replaceAll((name, value) -> value instanceof Number n ? n.doubleValue() : value);
    return same;
  }
}
