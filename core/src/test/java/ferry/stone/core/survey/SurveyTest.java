package ferry.stone.core.survey;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Marks;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.work.Progress;
import java.util.List;
import org.junit.jupiter.api.Test;

class SurveyTest {
  private static Survey survey(String obj) throws Exception {
    ReadContext context = ReadContext.of(TestFiles.of("a.obj", obj));
    return Survey.of(ObjReader.read("a.obj", context), context.findings().list(), Progress.NONE);
  }

  private static Finding find(Survey survey, String code) {
    return survey.findings().stream()
        .filter(f -> f.code().equals(code))
        .findFirst()
        .orElseThrow(() -> new AssertionError(code + " not among " + survey.findings()));
  }

  private static boolean has(Survey survey, String code) {
    return survey.findings().stream().anyMatch(f -> f.code().equals(code));
  }

  /** A closed box from corner to corner. */
  private static String box(String name, double... c) {
    StringBuilder text = new StringBuilder("o " + name + "\n");
    for (int i = 0; i < 8; i++) {
      text.append("v ")
          .append(c[(i & 1) == 0 ? 0 : 3])
          .append(' ')
          .append(c[(i & 2) == 0 ? 1 : 4])
          .append(' ')
          .append(c[(i & 4) == 0 ? 2 : 5])
          .append('\n');
    }
    return text
        + "f -8 -6 -5 -7\nf -4 -3 -1 -2\nf -8 -7 -3 -4\nf -6 -2 -1 -5\nf -8 -4 -2 -6\nf -7 -5 -1 -3\n";
  }

  @Test
  void aSoundBoxHasNoSurfaceFindings() throws Exception {
    Survey survey = survey(box("crate", -0.4, 0, -0.4, 0.4, 0.8, 0.4));
    for (String code :
        List.of(
            "open-edges",
            "non-manifold-edges",
            "opposed-faces",
            "degenerate-faces",
            "duplicate-faces",
            "unused-vertices",
            "loose-pieces",
            "not-a-number")) {
      assertFalse(has(survey, code), code);
    }
    assertTrue(survey.inventory().perMesh().get(0).closed());
    assertEquals(12, survey.inventory().triangles());
    assertEquals(0.8, survey.inventory().meanEdge(), 1e-6);
  }

  @Test
  void namesTheElements() throws Exception {
    Survey survey =
        survey(
            "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 5 5 5\nv 2 0 0\nv 1 0 1\n"
                + "f 1 2 3\nf 3 1 2\nf 1 3 4\nf 1 2 6\nf 2 3 7\nf 2 1 7\n");
    assertEquals(1, find(survey, "unused-vertices").marks().get(0).indices()[0] - 3);
    Finding duplicate = find(survey, "duplicate-faces");
    assertEquals(Marks.Kind.FACES, duplicate.marks().get(0).kind());
    assertEquals(1, duplicate.marks().get(0).indices()[0]);
    assertEquals(3, find(survey, "degenerate-faces").marks().get(0).indices()[0]);
    Finding crowded = find(survey, "non-manifold-edges");
    assertEquals(Marks.Kind.EDGES, crowded.marks().get(0).kind());
    assertTrue(has(survey, "open-edges"));
    assertEquals(1, crowded.nodeIds().size());
  }

  @Test
  void findsFacesWoundAgainstEachOther() throws Exception {
    Survey survey = survey("v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3\nf 1 4 3\n");
    assertEquals("1 edge", find(survey, "opposed-faces").measured());
    assertFalse(
        has(survey("v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3\nf 1 3 4\n"), "opposed-faces"));
  }

  @Test
  void tellsSeamsFromBorders() throws Exception {
    Survey survey =
        survey("v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3\nf 4 5 6\n");
    assertTrue(find(survey, "open-edges").evidence().startsWith("2 of them"));
    Finding pieces = find(survey, "loose-pieces");
    assertEquals("2 pieces", pieces.measured());
    assertTrue(pieces.evidence().startsWith("1 piece"));
  }

  @Test
  void positionsThatAreNoNumbers() throws Exception {
    Survey survey = survey("v 0 0 0\nv 1 0 0\nv 0 1 0\nv nan 1 1\nf 1 2 3\nf 1 2 4\n");
    assertEquals(3, find(survey, "not-a-number").marks().get(0).indices()[0]);
  }

  @Test
  void duplicateNamesAndMissingNormals() throws Exception {
    Survey survey = survey(box("lantern", 0, 0, 0, 1, 1, 1) + box("lantern", 2, 0, 0, 3, 1, 1));
    assertEquals(2, find(survey, "duplicate-names").nodeIds().size());
    Finding normals = find(survey, "no-normals");
    assertEquals("2 parts", normals.measured());
    assertEquals("normals", normals.offers().get(0).kind());
  }

  @Test
  void readsTheUnitFromSizesNamesAndComments() throws Exception {
    assertEquals(
        LengthUnit.CENTIMETRE, survey(box("door", 0, 0, 0, 90, 205, 4)).units().get(0).unit());
    assertEquals(
        LengthUnit.METRE, survey(box("door", 0, 0, 0, 0.9, 2.05, 0.04)).units().get(0).unit());
    assertEquals(
        LengthUnit.MILLIMETRE, survey(box("door", 0, 0, 0, 900, 2050, 40)).units().get(0).unit());
    assertEquals(
        LengthUnit.INCH,
        survey("# Units: inches\n" + box("thing", 0, 0, 0, 30, 40, 20)).units().get(0).unit());
    double sum =
        survey(box("x", 0, 0, 0, 1, 1, 1)).units().stream()
            .mapToDouble(UnitReading::confidence)
            .sum();
    assertEquals(1, sum, 1e-9);
  }

  @Test
  void readsTheUpAxisFromBaseAndGround() throws Exception {
    // A pedestal: wide base at Z 0, narrow top.
    String pedestal = box("foot", -2, -2, 0, 2, 2, 0.5) + box("post", -0.4, -0.4, 0.5, 0.4, 0.4, 5);
    Survey survey = survey(pedestal);
    assertEquals(SignedAxis.PLUS_Z, survey.ups().get(0).up());
    Finding lying = find(survey, "lying-down");
    assertEquals("z", lying.offers().get(0).params().get("up"));
    String upright = box("foot", -2, 0, -2, 2, 0.5, 2) + box("post", -0.4, 0.5, -0.4, 0.4, 5, 0.4);
    assertEquals(SignedAxis.PLUS_Y, survey(upright).ups().get(0).up());
  }

  @Test
  void findsALostAsset() throws Exception {
    assertTrue(has(survey(box("a", 9000, 0, 0, 9001, 1, 1)), "far-away"));
    assertFalse(has(survey(box("a", 0, 0, 0, 1, 1, 1)), "far-away"));
  }
}
