package ferry.stone.core.format.usd.compose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Paths of prims, of files from the layers that write them, and time codes through arcs. */
class PathsTest {
  @ParameterizedTest
  @ValueSource(
      strings = {"/", "/Yard", "/Yard/mast", "/Yard{lamps=lit}mast/x", "/A{s=x}{t=}b", "/A{s=x}"})
  void pathsOfPrimsComeBack(String path) {
    assertThat(SitePath.of(path)).hasToString(path);
  }

  @ParameterizedTest
  @ValueSource(strings = {"Yard", "", "/Yard.points", "/A{s=x", "//a"})
  void whatIsNoPathOfAPrimIsNone(String path) {
    assertThat(SitePath.of(path)).isNull();
  }

  @Test
  void variantsAreNoNames() {
    SitePath path = SitePath.of("/Yard{lamps=lit}mast");
    assertThat(path.depth()).isEqualTo(2);
    assertThat(path.plain()).hasToString("/Yard/mast");
    assertThat(path.startsWith(SitePath.of("/Yard"))).isTrue();
    assertThat(SitePath.of("/B").and(path.from(2))).hasToString("/B/mast");
    assertThat(SitePath.ROOT.child("a").variant("s", "x").steps()).isEqualTo(List.of("a", "{s=x}"));
  }

  @ParameterizedTest
  @CsvSource({
    "./b.usda, a.usda, b.usda",
    "b.usda, yard/a.usda, yard/b.usda",
    "../b.usda, yard/parts/a.usda, yard/b.usda",
    "../../../b.usda, yard/a.usda, b.usda",
    "/mnt/x/b.usda, yard/a.usda, yard/mnt/x/b.usda",
    "tex/oak.png, yard.usdz[parts/a.usda], yard.usdz[parts/tex/oak.png]",
    "../b.usda, yard.usdz[parts/in.usdz[c/a.usda]], yard.usdz[parts/in.usdz[b.usda]]",
    "boat.usdz[oak.png], a.usda, boat.usdz[oak.png]"
  })
  void filesAreNamedFromTheLayerThatWritesThem(String written, String layer, String wanted) {
    assertThat(AssetPaths.resolved(written, layer)).isEqualTo(wanted);
  }

  @Test
  void timeCodesGoThroughAllArcs() {
    TimeMap reference = new TimeMap(5, 0.5);
    TimeMap sublayer = new TimeMap(10, 2);
    // First the inner one: 2 · (0.5 · 8 + 5) + 10.
    assertThat(sublayer.after(reference).of(8)).isCloseTo(28, within(1e-12));
    assertThat(TimeMap.SAME.after(reference)).isEqualTo(reference);
  }
}
