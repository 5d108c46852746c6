package ferry.stone.core.survey;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Budgets;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A sound scene has no faults; one fault is found as such, and its first offer answers it. */
class FindingsAndOffersTest {
  /** A shore with one limit, for what is over a limit only. */
  private static Shore shore(String code) {
    Budgets limits =
        switch (code) {
          case "over-triangles" -> new Budgets(0, 3, 0, 0, 0, 0, 0, 0);
          case "over-vertices" -> new Budgets(0, 0, 7, 0, 0, 0, 0, 0);
          case "over-joints" -> new Budgets(0, 0, 0, 2, 0, 0, 0, 0);
          case "over-influences" -> new Budgets(0, 0, 0, 0, 1, 0, 0, 0);
          case "over-morphs" -> new Budgets(0, 0, 0, 0, 0, 1, 0, 0);
          case "over-materials" -> new Budgets(0, 0, 0, 0, 0, 0, 0, 1);
          default -> Budgets.NONE;
        };
    Shore usual = Shores.usual();
    return new Shore(
        usual.id(),
        usual.name(),
        usual.note(),
        usual.frame(),
        usual.formats(),
        limits,
        usual.wishes(),
        usual.names(),
        usual.tolerances(),
        usual.reasons());
  }

  private static List<Finding> survey(Scene scene, String code) {
    return Survey.of(scene, List.of(), shore(code), new SurveyMemo(), Progress.NONE).findings();
  }

  private static Set<String> codes(Scene scene, String code) {
    return survey(scene, code).stream().map(Finding::code).collect(Collectors.toSet());
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "normals-broken",
        "normals-against-faces",
        "no-uvs",
        "missing-uvs",
        "uvs-outside",
        "uvs-overlap",
        "uvs-not-numbers",
        "no-material",
        "unused-material",
        "duplicate-material-names",
        "open-edges",
        "coincident-vertices",
        "non-manifold-edges",
        "opposed-faces",
        "not-a-number",
        "degenerate-faces",
        "duplicate-faces",
        "unused-vertices",
        "gigantic",
        "tiny",
        "far-away",
        "scaled-to-nothing",
        "over-triangles",
        "over-vertices",
        "over-joints",
        "over-influences",
        "over-morphs",
        "over-materials",
        "morph-empty",
        "morph-left-on",
        "pivot-off",
        "equal-meshes",
        "vertices-without-joint",
        "weights-not-one",
        "joints-without-weight",
        "joints-share-a-name",
        "scaled-joints"
      })
  void aFaultIsFoundAndItsOfferAnswersIt(String code) {
    Scene sound = FaultySlab.sound(true);
    // Any rig has influences, and a slab is a sheet.
    boolean always = code.equals("over-influences") || code.equals("open-edges");
    assertEquals(always, codes(sound, code).contains(code), "a sound scene has no " + code);
    Scene scene = FaultySlab.with(code);
    Finding finding =
        survey(scene, code).stream().filter(f -> f.code().equals(code)).findFirst().orElseThrow();
    assertFalse(finding.message().isEmpty());
    assertFalse(finding.offers().isEmpty(), code + " has an offer");
    for (Offer offer : finding.offers()) {
      Step step = new Step("a", offer.kind(), offer.params(), true, offer.nodeIds());
      var stages = Handling.run(scene, List.of(step), Progress.NONE);
      assertNull(stages.get(0).failure(), offer.label());
    }
    Offer offer = finding.offers().get(0);
    Step step = new Step("a", offer.kind(), offer.params(), true, offer.nodeIds());
    var stages = Handling.run(scene, List.of(step), Progress.NONE);
    assertNull(stages.get(0).failure());
    Scene far = Handling.result(scene, stages);
    List<Finding> left = survey(far, code).stream().filter(f -> f.code().equals(code)).toList();
    if (code.equals("open-edges")) {
      // The hole is closed, the outline of the ring stays.
      assertEquals("16 edges", finding.measured());
      assertEquals("8 edges", left.get(0).measured());
    } else {
      assertEquals(List.of(), left);
    }
  }

  @Test
  void aSoundSlabHasNothingToPutRight() {
    assertTrue(
        survey(FaultySlab.sound(false), "").stream()
            .noneMatch(f -> f.severity().name().equals("FIX")));
  }

  /** One row for several findings of a kind has one offer that answers them all. */
  @Test
  void joinedFindingsHaveAnOfferForAll() {
    Scene scene = FaultySlab.with("two morphs left on");
    List<Finding> left =
        survey(scene, "").stream().filter(f -> f.code().equals("morph-left-on")).toList();
    assertEquals(1, left.size());
    Offer offer = left.get(0).offers().get(0);
    Step step = new Step("a", offer.kind(), offer.params(), true, offer.nodeIds());
    var stages = Handling.run(scene, List.of(step), Progress.NONE);
    assertEquals("2 targets", stages.get(0).figure());
    assertFalse(codes(Handling.result(scene, stages), "").contains("morph-left-on"));
  }
}
