package ferry.stone.core.handling;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** Which steps accepted offers become. */
class AcceptingTest {
  private static final Offer CENTIMETRE =
      Offer.step("Set unit", "sourceUnit", Map.of("unit", "cm"));

  private static Step step(String kind, Map<String, Object> params, List<Integer> ids) {
    return new Step(kind, kind, params, true, ids);
  }

  private static List<Step> with(List<Step> steps, Offer... offers) {
    AtomicInteger next = new AtomicInteger();
    return Accepting.with(steps, List.of(offers), () -> "new" + next.incrementAndGet());
  }

  private static List<String> kinds(List<Step> steps) {
    return steps.stream().map(Step::kind).toList();
  }

  @Test
  void theMeaningOfNumbersComesBeforeWhatIsDoneWithThem() {
    List<Step> ground = List.of(step("ground", Map.of(), List.of()));
    assertEquals(List.of("sourceUnit", "ground"), kinds(with(ground, CENTIMETRE)));
    Offer up = Offer.step("Read Z as up", "sourceUp", Map.of("up", "z"));
    assertEquals(List.of("sourceUnit", "sourceUp", "ground"), kinds(with(ground, CENTIMETRE, up)));
  }

  @Test
  void whatIsThereOnceIsSetAgainAndSwitchedOn() {
    Step off = new Step("a", "sourceUnit", Map.of("unit", "m"), false, List.of());
    List<Step> steps = with(List.of(off), CENTIMETRE);
    assertEquals(1, steps.size());
    assertTrue(steps.get(0).enabled());
    assertEquals("cm", steps.get(0).params().get("unit"));
  }

  @Test
  void whatDoesTheSameIsWidenedToMoreParts() {
    Offer weld = Offer.step("Weld", "weld", Map.of("distance", 1.0)).on(List.of(4, 9));
    List<Step> one = List.of(step("weld", Map.of("distance", 1), List.of(4)));
    assertEquals(List.of(4, 9), with(one, weld).get(0).nodeIds());
    List<Step> all = List.of(step("weld", Map.of("distance", 1), List.of()));
    assertEquals(List.of(), with(all, weld).get(0).nodeIds());
    assertEquals(2, with(one, weld.with(Map.of("distance", 2))).size());
    PartRef post = new PartRef("post", 1, 1, false);
    Step named =
        new Step(
            "a", "weld", Map.of("distance", 1), true, List.of(), "", "", List.of(post), Map.of());
    Step wider = with(List.of(named), weld).get(0);
    assertEquals(List.of(post), wider.parts());
    assertEquals(List.of(4, 9), wider.nodeIds());
  }

  @Test
  void whatMustComeFirstComesFirst() {
    Offer weld = Offer.step("Weld", "weld", Map.of("distance", 1)).after(CENTIMETRE);
    assertEquals(List.of("sourceUnit", "weld"), kinds(with(List.of(), weld)));
  }

  @Test
  void whatTakesAwayOrIsOnlyToKnowIsNotAcceptedTogether() {
    Offer remove = Offer.step("Remove", "remove", Map.of("what", "parts")).asking();
    Finding fix = Finding.of("a", Severity.FIX, "", "").offer(CENTIMETRE);
    Finding asks = Finding.of("b", Severity.FIX, "", "").offer(remove);
    Finding note = Finding.of("c", Severity.NOTE, "", "").offer(CENTIMETRE);
    assertEquals(List.of(CENTIMETRE), Accepting.together(List.of(fix, asks, note)));
    assertFalse(Accepting.with(List.of(), List.of(remove), () -> "x").isEmpty());
  }
}
