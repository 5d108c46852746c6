package ferry.stone.core.format.usd.out;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.layer.spline.UsdSpline;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Curves come back from the text that is written of them, whichever form they were read from. */
class CurvesOutTest {
  private static UsdLayer layer(String name, byte[] bytes) throws Exception {
    MemoryFiles files = new MemoryFiles(Map.of(name, bytes));
    return new UsdFiles(files, Budget.of(name, files)).layer(name);
  }

  private static byte[] resource(String name) throws Exception {
    try (InputStream in = CurvesOutTest.class.getResourceAsStream("/usd/" + name)) {
      return in.readAllBytes();
    }
  }

  private static byte[] text(UsdLayer layer) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    UsdaWriter.write(layer, out);
    return out.toByteArray();
  }

  @ParameterizedTest
  @ValueSource(strings = {"curves.usda", "curves.usdc"})
  void everyCurveIsWrittenAsItWasRead(String name) throws Exception {
    UsdLayer read = layer(name, resource(name));
    PrimSpec was = read.root().children().get("Tide");
    PrimSpec is = layer("again.usda", text(read)).root().children().get("Tide");
    assertThat(is.properties().keySet()).isEqualTo(was.properties().keySet());
    int knots = 0;
    for (String property : was.properties().keySet()) {
      UsdSpline own = was.properties().get(property).spline();
      assertThat(is.properties().get(property).spline()).as(property).isEqualTo(own);
      knots += own.knots().size();
    }
    assertThat(knots).isGreaterThan(25);
  }

  @Test
  void bothFormsOfTheLibraryHoldTheSameCurves() throws Exception {
    PrimSpec text = layer("a.usda", resource("curves.usda")).root().children().get("Tide");
    PrimSpec crate = layer("a.usdc", resource("curves.usdc")).root().children().get("Tide");
    for (String property : text.properties().keySet()) {
      assertThat(crate.properties().get(property).spline())
          .as(property)
          .isEqualTo(text.properties().get(property).spline());
    }
  }
}
