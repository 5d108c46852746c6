package ferry.stone.core.format.usd.compose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.layer.spline.SplineValues;
import ferry.stone.core.format.usd.layer.spline.UsdSpline;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Curves at moments, held against what the standard's own library says of the same file (usd-core
 * 26.11, see {@code make-curves.py}).
 */
class CurvesTest {
  private static byte[] resource(String name) throws Exception {
    try (InputStream in = CurvesTest.class.getResourceAsStream("/usd/" + name)) {
      return in.readAllBytes();
    }
  }

  private static UsdPrim tide(String name) throws Exception {
    return UsdStageTest.stage(Map.of(name, resource(name)), name, true).prim("/Tide");
  }

  private static List<String[]> said() throws Exception {
    return new String(resource("curves.txt"), StandardCharsets.UTF_8)
        .lines()
        .map(l -> l.split(" "))
        .toList();
  }

  @ParameterizedTest
  @ValueSource(strings = {"curves.usda", "curves.usdc"})
  void aCurveIsAtEachMomentWhatTheLibrarySays(String name) throws Exception {
    UsdPrim tide = tide(name);
    SoftAssertions all = new SoftAssertions();
    for (String[] line : said()) {
      UsdSpline spline = tide.curve(line[0]);
      double own = new SplineValues(spline).at(Double.parseDouble(line[1]));
      String what = line[0] + " at " + line[1];
      if (line[2].equals("none")) {
        all.assertThat(own).as(what).isNaN();
      } else {
        // The library cuts tangents that are too wide a little shorter; half numbers are rounded.
        double most = Map.of("resetting", 2e-3, "wide", 1e-4).getOrDefault(line[0], 1e-5);
        all.assertThat(own).as(what).isCloseTo(Double.parseDouble(line[2]), within(most));
      }
    }
    all.assertAll();
  }

  @Test
  void samplesOfACurveFollowItOverTheWholeRange() throws Exception {
    UsdPrim tide = tide("curves.usdc");
    for (String[] line : said()) {
      double code = Double.parseDouble(line[1]);
      boolean inside = code >= -12 && code <= 60 && code == Math.rint(code);
      if (inside && !line[2].equals("none")) {
        UsdSamples samples = tide.property(line[0]).samples();
        assertThat(between(samples, code))
            .as(line[0] + " at " + code)
            .isCloseTo(Double.parseDouble(line[2]), within(2e-3));
      }
    }
  }

  /** As straight lines between samples have it; held before and after. */
  private static double between(UsdSamples samples, double code) throws Exception {
    double[] codes = samples.codes();
    int after = 0;
    while (after < codes.length && codes[after] < code) {
      after++;
    }
    if (after == 0 || after == codes.length || codes[after] == code) {
      int at = Math.min(after, codes.length - 1);
      return ((UsdValue) samples.value(at)).number(0);
    }
    double low = ((UsdValue) samples.value(after - 1)).number(0);
    double high = ((UsdValue) samples.value(after)).number(0);
    return low + (high - low) * (code - codes[after - 1]) / (codes[after] - codes[after - 1]);
  }

  @Test
  void aCurveOfASublayerRunsByTheTimesOfItsArc() throws Exception {
    String curve = "  double x.spline = { bezier, 0: 0; post linear, 10: 5; post linear }\n";
    Map<String, byte[]> files =
        Map.of(
            "top.usda", text("(\n  subLayers = [@low.usda@ (offset = 3; scale = 2)]\n)\n"),
            "low.usda", text("def \"a\" {\n" + curve + "}\n"));
    UsdStage stage = UsdStageTest.stage(files, "top.usda", true);
    UsdSamples samples = stage.prim("/a").property("x").samples();
    assertThat(between(samples, 13)).isCloseTo(2.5, within(1e-9));
    assertThat(between(samples, 30)).isEqualTo(5);
  }

  @Test
  void samplesOfTheSameLayerAreStrongerThanItsCurveAndThatThanItsValue() throws Exception {
    String body =
        """
        def "a" {
          double x = 7
          double x.spline = { bezier, 0: 1; post linear, 10: 2 }
          double y.timeSamples = { 0: 4, 2: 5 }
          double y.spline = { bezier, 0: 1; post linear, 10: 2 }
        }
        """;
    UsdPrim prim = UsdStageTest.stage(Map.of("a.usda", text(body)), "a.usda", true).prim("/a");
    assertThat(between(prim.property("x").samples(), 5)).isCloseTo(1.5, within(1e-9));
    assertThat(prim.property("y").samples().codes()).containsExactly(0, 2);
    assertThat(prim.curves()).containsExactly("x");
  }

  private static byte[] text(String body) {
    return ("#usda 1.0\n" + body).getBytes(StandardCharsets.UTF_8);
  }
}
