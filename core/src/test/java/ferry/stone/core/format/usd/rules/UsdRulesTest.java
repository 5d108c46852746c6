package ferry.stone.core.format.usd.rules;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.usd.layer.UsdFiles;
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
import org.junit.jupiter.params.provider.ValueSource;

/**
 * What the schemas of Universal Scene Description (OpenUSD 26.11: UsdGeom, UsdShade, UsdSkel, and
 * "USDZ File Format Specification") demand, broken one by one in a layer that keeps it all.
 */
class UsdRulesTest {
  private final Scene scene = FaultScene.with(Fault.NONE);
  private final TestFiles files = new TestFiles();

  private Landing land(String format) throws Exception {
    LandingOptions options = LandingOptions.of(format);
    return Landing.write(scene, options, "a", new TestFiles(), files, Progress.NONE);
  }

  private List<Finding> told(String main) throws Exception {
    Findings findings = new Findings();
    UsdRules.check(main, files, new UsdFiles(files, Budget.of(main, files)), findings);
    return findings.list();
  }

  private void change(String what, String to) {
    String text = new String(files.bytes("a.usda"), StandardCharsets.UTF_8);
    Matcher found = Pattern.compile(what).matcher(text);
    assertThat(found.find()).as("\"%s\" stands in the layer", what).isTrue();
    files.with("a.usda", found.replaceFirst(to).getBytes(StandardCharsets.UTF_8));
  }

  @ParameterizedTest
  @ValueSource(strings = {"usda", "usdc", "usdz"})
  void whatWeWriteKeepsThemAll(String format) throws Exception {
    assertThat(told(land(format).mainFile())).isEmpty();
  }

  @ParameterizedTest(name = "{2}")
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          defaultPrim = "buoy"         | defaultPrim = "boy"  | does not name the prim at its top
          upAxis = "Y"                 | upAxis = "X"         | does not say Y or Z as up
          metersPerUnit = 1            |                      | does not say its unit
          timeCodesPerSecond = 24      | timeCodesPerSecond = 0 | Time does not run
          startTimeCode = 0            | startTimeCode = 99   | ends before it begins
          \\["MaterialBindingAPI"\\]   | []                   | where MaterialBindingAPI is not applied
          binding = </buoy/Looks/\\w+> | binding = </buoy/bell> | What is bound is no material
          </buoy/skeleton>             | </buoy/gone>         | A path leads to what is not there
          \\["xformOp:translate"\\]    | ["xformOp:translate", "xformOp:translate"] | stands twice in the order
          \\["xformOp:translate"\\]    | ["xformOp:rotateX"]  | names an operation that has no value
          faceVertexCounts = \\[4,     | faceVertexCounts = [5, | more or fewer corners than are named
          faceVertexCounts = \\[4, 4,  | faceVertexCounts = [6, 2, | fewer than three corners
          faceVertexIndices = \\[\\d+  | faceVertexIndices = [777 | names a point that is not there
          "none"                       | "smooth"             | No way of subdivision
          extent = \\[\\([^)]*\\)      | extent = [(9, 9, 9)  | reaches out of the box
          float3\\[\\] extent =[^\\n]* |                      | does not say its box
          int\\[\\] indices = \\[0    | int[] indices = [555, 0 | A set names an element
          interpolation = "faceVarying" | interpolation = "uniform" | values than what carries them
          interpolation = "faceVarying" | interpolation = "edge" | not said what carries the values
          st:indices = \\[\\d+         | st:indices = [8888   | An index names a value
          \\["SkelBindingAPI"\\]       | []                   | where SkelBindingAPI is not applied
          jointIndices = \\[\\d+       | jointIndices = [66   | a joint that its skeleton does not have
          elementSize = 2              | elementSize = 3      | joints or weights than points have
          jointWeights = \\[[\\d.]+    | jointWeights = [0.3  | weights of a point are not 1 together
          \\["foot", "foot/tip"\\]     | ["foot/tip", "foot"] | before their parents
          \\["foot", "foot/tip"\\]     | ["foot"]             | more or fewer matrices than joints
          joints = \\["foot/tip"\\]    | joints = ["foot", "foot/tip"] | values than joints or shapes
          0: \\[\\([\\d.]+,            | 0: [(5,              | has not the length 1
          \\["flutter"\\]              | ["a", "b"]           | more or fewer names than blend shapes
          pointIndices = \\[12         | pointIndices = [11, 12 | more or fewer offsets than points
          """)
  void eachIsToldWithItsPlace(String what, String to, String words) throws Exception {
    land("usda");
    change(what, to == null ? "" : Matcher.quoteReplacement(to));
    assertThat(told("a.usda"))
        .anySatisfy(
            finding -> {
              assertThat(finding.message()).contains(words);
              assertThat(finding.where()).startsWith("a.usda ");
            });
  }

  @Test
  void aPackageIsAligned() throws Exception {
    land("usdz");
    byte[] pack = files.bytes("a.usdz");
    byte[] moved = new byte[pack.length + 4];
    // Four more bytes before all else: what the lists name is moved along, and stands elsewhere.
    System.arraycopy(pack, 0, moved, 4, pack.length);
    int end = moved.length - 22;
    int list = at(moved, end + 16) + 4;
    put(moved, end + 16, list);
    int count = moved[end + 10];
    for (int i = 0; i < count; i++) {
      put(moved, list + 42, at(moved, list + 42) + 4);
      list +=
          46 + (moved[list + 28] & 0xff) + (moved[list + 30] & 0xff) + (moved[list + 32] & 0xff);
    }
    System.arraycopy(pack, 0, moved, 0, 4);
    files.with("a.usdz", moved);
    assertThat(told("a.usdz")).extracting(Finding::message).anyMatch(m -> m.contains("64 bytes"));
  }

  private static int at(byte[] bytes, int place) {
    return java.nio.ByteBuffer.wrap(bytes).order(java.nio.ByteOrder.LITTLE_ENDIAN).getInt(place);
  }

  private static void put(byte[] bytes, int place, int value) {
    java.nio.ByteBuffer.wrap(bytes).order(java.nio.ByteOrder.LITTLE_ENDIAN).putInt(place, value);
  }

  /** Other readers may take such a file otherwise: its proof is not all kept. */
  @Test
  void theProofTellsOfIt() throws Exception {
    Landing landing = land("usda");
    change("\\[\"MaterialBindingAPI\"\\]", "[]");
    LandingOptions options = LandingOptions.of("usda");
    Proof proof =
        Proof.of(scene, scene, landing.landed(options, files), new TestFiles(), Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(r -> r.group().startsWith("Where the file is not as its standard says"))
        .isNotEmpty()
        .allSatisfy(r -> assertThat(r.verdict()).isEqualTo(LedgerRow.Verdict.CHANGED));
  }
}
