package ferry.stone.core.shore;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.math.Frame;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

class ShoresTest {
  private static final ObjectMapper JSON = new ObjectMapper();

  @Test
  void builtInShoresAreNamedByTheirConventionsAndSurviveJson() throws Exception {
    Set<String> ids = new HashSet<>();
    assertTrue(Shores.builtIn().size() >= 8);
    for (Shore shore : Shores.builtIn()) {
      assertTrue(ids.add(shore.id()));
      String conventions = shore.frame().label();
      String start = conventions.substring(0, conventions.lastIndexOf(" · "));
      assertTrue(shore.name().startsWith(start), shore.name() + " is " + conventions);
      assertEquals(shore, JSON.readValue(JSON.writeValueAsString(shore), Shore.class));
      // Whatever is limited or asked for against the usual says why.
      boolean limits = !shore.budgets().equals(Budgets.NONE);
      assertTrue(!limits || !shore.reasons().isEmpty(), shore.name());
    }
  }

  @Test
  void theNearestShoreHasTheSceneFrame() {
    for (Shore shore : Shores.builtIn()) {
      assertEquals(shore.frame(), Shores.nearest(shore.frame()).frame());
    }
    assertEquals("y-up-metre", Shores.nearest(Frame.Y_UP_METRE).id());
  }

  @Test
  void whatDoesNotFitIsRefusedInWords() {
    Frame frame = Frame.Y_UP_METRE;
    var noName =
        assertThrows(
            IllegalArgumentException.class,
            () -> new Shore("a", " ", "", frame, List.of(), null, null, null, null, null));
    assertTrue(noName.getMessage().contains("1 to 80"));
    assertThrows(
        IllegalArgumentException.class,
        () -> new Shore("a", "a", "", frame, List.of("A b"), null, null, null, null, null));
    assertThrows(IllegalArgumentException.class, () -> new NameRules("z-a", 0, false));
    for (double no : new double[] {-1, Double.NaN, Double.POSITIVE_INFINITY}) {
      assertThrows(
          IllegalArgumentException.class, () -> new Tolerances(no, null, null, null, null));
    }
    assertThrows(IllegalArgumentException.class, () -> new Tolerances(null, null, null, null, 0.0));
    assertThrows(IllegalArgumentException.class, () -> new Budgets(0, -1, 0, 0, 0, 0, 0, 0));
  }

  /** A fitted name fits, and a name that fits stays. */
  @Test
  void fittedNamesFit() {
    Random random = new Random(11);
    List<NameRules> all =
        List.of(
            new NameRules(NameRules.PLAIN, 12, false),
            new NameRules("a-z", 0, false),
            new NameRules("", 5, false));
    for (int i = 0; i < 2000; i++) {
      StringBuilder name = new StringBuilder();
      for (int c = 0; c < 1 + random.nextInt(20); c++) {
        name.appendCodePoint(32 + random.nextInt(400));
      }
      for (NameRules rules : all) {
        String fitted = rules.fit(name.toString());
        assertTrue(fitted.isEmpty() || rules.fits(fitted), name + " → " + fitted);
        assertEquals(fitted, rules.fit(fitted));
      }
    }
  }
}
