package ferry.stone.core.format.obj.rules;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.FaultScene;
import ferry.stone.core.proof.FaultScene.Fault;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Wavefront's "Object Files (.obj)" and "MTL material format" (appendix B, 1995), broken line by
 * line in files that keep them.
 */
class ObjRulesTest {
  private final Scene scene = FaultScene.with(Fault.NONE);
  private final TestFiles files = new TestFiles();
  private final LandingOptions options = LandingOptions.of("obj");
  private final Landing landing;

  ObjRulesTest() throws Exception {
    landing = Landing.write(scene, options, "a", new TestFiles(), files, Progress.NONE);
  }

  private List<Finding> told() throws Exception {
    Findings findings = new Findings();
    ObjRules.check("a.obj", files, findings);
    return findings.list();
  }

  private void change(String file, String what, String to) {
    String text = new String(files.bytes(file), StandardCharsets.UTF_8);
    Matcher found = Pattern.compile(what).matcher(text);
    assertThat(found.find()).as("\"%s\" stands in the file", what).isTrue();
    files.with(file, found.replaceFirst(to).getBytes(StandardCharsets.UTF_8));
  }

  @Test
  void whatWeWriteKeepsThemAll() throws Exception {
    assertThat(told()).isEmpty();
  }

  /** Lines may be joined, references may count back, corners may lack UVs. */
  @Test
  void whatTheStandardAllowsIsNotTold() throws Exception {
    files.with(
        "a.obj",
        "v 1 2 3\r\nv 1.5e-3 .5 -2 1\nv 0 0 0 1 0.5 0\nvn 0 0 1\nf -3//1 \\\n-2//-1 3//1\nl 1 2\np 1\ns off"
            .getBytes(StandardCharsets.UTF_8));
    assertThat(told()).isEmpty();
  }

  @ParameterizedTest(name = "{2}")
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          v 0 0 0           | v 0 0             | position is not 3 numbers
          v 0 0 0           | v 0 0 nan         | stands where a number has to
          v 0 0 0           | v 0 0 1-2         | stands where a number has to
          vt 0 0            | vt 0 0 0 0        | UV is not 1 to 3
          vt 0 0            | vn 0 0            | normal is not 3 numbers
          f 1/1 2/2 8/8     | f 1/1 2/2 9999/8  | does not stand before it
          f 1/1 2/2 8/8     | f 0/1 2/2 8/8     | does not stand before it
          f 1/1 2/2 8/8     | f 1/1 2 8/8       | not all of one form
          f 1/1 2/2 8/8     | f 1/1 2/2/x 8/8   | not said as v, v/vt
          f 1/1 2/2 8/8 7/7 | f 1/1 2/2         | fewer corners than it needs
          usemtl striped    | usemtl spotted    | that no library before it says
          mtllib a.mtl      | mtllib b.mtl      | library of materials is not where
          usemtl striped    | s on              | neither a number nor off
          usemtl striped    | paint striped     | no statement of this name
          """)
  void eachIsToldWithItsLine(String what, String to, String words) throws Exception {
    change("a.obj", what, to);
    assertThat(told())
        .anySatisfy(
            finding -> {
              assertThat(finding.message()).contains(words);
              assertThat(finding.where()).matches("a.obj line \\d+");
            });
  }

  @ParameterizedTest(name = "{2}")
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          newmtl plain     | newmtl striped | Two materials have one name
          newmtl striped   | Kd 1 1 1       | before any material
          Kd [^\\n]*       | Kd 1 1         | colour is not 3 numbers
          Pr [^\\n]*       | Ns shiny       | value of a material is not one number
          Pr [^\\n]*       | Sheen 1        | no value of this name
          map_Kd [^\\n]*   | map_Kd         | A map names no image
          """)
  void andOfMaterials(String what, String to, String words) throws Exception {
    change("a.mtl", what, to);
    assertThat(told())
        .anySatisfy(
            finding -> {
              assertThat(finding.message()).contains(words);
              assertThat(finding.where()).matches("a.obj a.mtl line \\d+");
            });
  }

  /** Other readers may take such a file otherwise: its proof is not all kept. */
  @Test
  void theProofTellsOfIt() throws Exception {
    change("a.obj", "usemtl striped", "s on\nusemtl striped");
    Proof proof =
        Proof.of(scene, scene, landing.landed(options, files), new TestFiles(), Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(r -> r.group().startsWith("Where the file is not as its standard says"))
        .isNotEmpty()
        .allSatisfy(r -> assertThat(r.verdict()).isEqualTo(LedgerRow.Verdict.CHANGED));
  }
}
