package ferry.stone.core.survey;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import org.junit.jupiter.api.Test;

class BundlesTest {
  private static String key(String code, Severity severity, String message) {
    return Bundles.key(Finding.of(code, severity, "somewhere", message));
  }

  @Test
  void filesMissingFromOneFolderAreOneCause() {
    String oak = key("texture-missing", Severity.FIX, "The texture \"C:\\maps\\oak.png\" is gone.");
    assertEquals(
        oak, key("texture-missing", Severity.FIX, "The texture \"C:\\maps\\tar.png\" is gone."));
    assertNotEquals(
        oak, key("texture-missing", Severity.FIX, "The texture \"D:\\rope.png\" is gone."));
  }

  @Test
  void otherWordsSeveritiesAndKindsAreOthers() {
    String bare = key("no-normals", Severity.LOOK, "The mesh has no normals.");
    assertEquals(bare, key("no-normals", Severity.LOOK, "The mesh has no normals."));
    assertNotEquals(bare, key("no-normals", Severity.NOTE, "The mesh has no normals."));
    assertNotEquals(bare, key("no-uvs", Severity.LOOK, "The mesh has no normals."));
    assertNotEquals(bare, key("no-normals", Severity.LOOK, "Half of the mesh has no normals."));
  }
}
