package ferry.stone.core.format.usd.layer;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.usd.layer.text.UsdaParser;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The crates were written by the standard's own library (usd-core 26.11, see {@code
 * make-layers.py}) from the text layers; so was {@code rich-again.usda}.
 */
class UsdLayerTest {
  private static byte[] resource(String name) throws IOException {
    try (InputStream in = UsdLayerTest.class.getResourceAsStream("/usd/" + name)) {
      return in.readAllBytes();
    }
  }

  private static UsdLayer read(String name, byte[] bytes) throws IOException, FormatException {
    if (UsdaParser.isText(bytes)) {
      return UsdaParser.parse("layer", bytes);
    }
    MemoryFiles files = new MemoryFiles(Map.of(name, bytes));
    return CrateReader.read("layer", files.random(name), Budget.of(name, files));
  }

  private static UsdLayer text(String body) throws FormatException {
    return UsdaParser.parse("yard.usda", ("#usda 1.0\n" + body).getBytes(StandardCharsets.UTF_8));
  }

  @ParameterizedTest
  @CsvSource({
    "rich.usda, rich.usdc",
    "rich.usda, rich-again.usda",
    "newer.usda, newer.usdc",
    "newest.usda, newest.usdc",
    "old.usda, old-4.usdc",
    "old.usda, old-5.usdc",
    "old.usda, old-6.usdc",
    "old.usda, old-7.usdc",
    "old.usda, old-8.usdc"
  })
  void aLayerIsTheSameInWhateverFileTheStandardsLibraryWroteIt(String text, String other)
      throws Exception {
    String wanted = LayerText.of(read(text, resource(text)));
    assertThat(LayerText.of(read(other, resource(other)))).isEqualTo(wanted);
    assertThat(wanted.lines().count()).isGreaterThan(4);
  }

  @Test
  void valuesAreWhatIsWritten() throws Exception {
    UsdLayer layer = read("rich.usdc", resource("rich.usdc"));
    assertThat(layer.number("metersPerUnit", 1)).isEqualTo(0.01);
    assertThat(layer.text("upAxis", "Y")).isEqualTo("Z");
    assertThat(layer.sublayers())
        .extracting(UsdArc::asset)
        .containsExactly("./look.usda", "odd@name.usda");
    assertThat(layer.sublayers().get(1).scale()).isEqualTo(0.5);
    PrimSpec deck = layer.root().children().get("Yard").children().get("deck");
    assertThat(deck.specifier()).isEqualTo(PrimSpec.Specifier.OVER);
    UsdValue turn = (UsdValue) deck.properties().get("turn").value();
    assertThat(turn.floats()).containsExactly(0.5f, 0.1f, 0.2f, 0.3f);
    UsdValue identity = (UsdValue) deck.properties().get("m4").value();
    assertThat(identity.doubles()).containsExactly(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);
    UsdValue huge = (UsdValue) deck.properties().get("huge").value();
    assertThat(((long[]) huge.data())[0]).isEqualTo(-1);
    UsdValue thin = (UsdValue) deck.properties().get("thin").value();
    assertThat(thin.type().name()).isEqualTo("half");
    assertThat(((UsdValue) deck.properties().get("c4").value()).type().name()).isEqualTo("color4d");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "def Xform \"a\" { float x = } | line 2, column 27 | expected a number",
        "def Xform a {} | line 2, column 11 | expected the name of a prim in quotes",
        "def \"a\" { float3 x = (1, 2) } | line 2, column 28 | has 2 numbers; it has 3",
        "def \"a\" {} def \"a\" {} | line 2, column 19 | is here a second time",
        "def \"a\" { int x = 1.5 } | line 2, column 19 | expected a whole number",
        "def \"a\" { rel x = <b } | line 2, column 19 | never ends",
        "def \"a\" { float[] x = [1 2] } | line 2, column 26 | expected \",\" or \"]\"",
        "def \"a\" ( kind = ) {} | line 2, column 18 | expected a value",
        "def \"a\" { float x.wind = 1 } | line 2, column 25 | an attribute has no \"wind\"",
        "def \"a\" ( subLayers = [@b@] ) {} | line 2, column 22 | only a layer has sublayers",
        "def \"a\" { float x rel x } | line 2, column 24 | is an attribute and a relationship",
        "fed \"a\" {} | line 2, column 1 | expected def, over or class",
      })
  void aFaultIsToldWithItsPlace(String body, String place, String problem) {
    assertThatThrownBy(() -> text(body))
        .isInstanceOfSatisfying(
            FormatException.class,
            e -> {
              assertThat(e.place()).isEqualTo(place);
              assertThat(e.problem()).contains(problem);
            });
  }

  @Test
  void listsAreEditedInTheOrderOfTheStandard() throws Exception {
    PrimSpec a =
        text("def \"a\" (\n append apiSchemas = [\"x\", \"b\"]\n"
                + " prepend apiSchemas = [\"p\"]\n delete apiSchemas = [\"c\"]\n) {}")
            .root()
            .children()
            .get("a");
    @SuppressWarnings("unchecked")
    ListOp<Object> edit = (ListOp<Object>) a.fields().get("apiSchemas");
    assertThat(edit.over(List.of("a", "b", "c", "p"))).containsExactly("p", "a", "x", "b");
    assertThat(ListOp.explicit(List.of("z")).over(List.of("a"))).containsExactly("z");
    ListOp<String> ordered = ListOp.<String>none().and(ListOp.Edit.REORDER, List.of("c", "a"));
    // Each takes along what follows it (SdfListOp, ApplyOperations).
    assertThat(ordered.over(List.of("q", "a", "1", "2", "b", "c", "3")))
        .containsExactly("q", "c", "3", "a", "1", "2", "b");
  }

  @ParameterizedTest
  @ValueSource(strings = {"old-3.usdc", "rich.usda", "rich.usdc"})
  void otherVersionsAreRefusedInASentence(String name) throws Exception {
    byte[] bytes = resource(name);
    if (name.endsWith("usda")) {
      bytes[6] = '2';
    } else if (name.startsWith("rich")) {
      bytes[9] = 99;
    }
    assertThatThrownBy(() -> read(name, bytes))
        .isInstanceOfSatisfying(
            FormatException.class,
            e ->
                assertThat(e.kind())
                    .isIn(FormatException.Kind.TOO_OLD, FormatException.Kind.TOO_NEW));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "rich.usda",
        "rich.usdc",
        "old-4.usdc",
        "curves.usda",
        "curves.usdc",
        "edits.usda",
        "edits.usdc"
      })
  void whateverIsBrokenEndsInALayerOrASentence(String name) throws Exception {
    byte[] bytes = resource(name);
    Random random = new Random(11);
    for (int i = 0; i < 6000; i++) {
      byte[] wrong = bytes.clone();
      if (i % 3 == 0) {
        wrong = Arrays.copyOf(bytes, random.nextInt(bytes.length));
      }
      for (int k = 0; k < 1 + i % 4 && wrong.length > 0; k++) {
        wrong[random.nextInt(wrong.length)] = (byte) random.nextInt(256);
      }
      try {
        LayerText.of(read(name, wrong));
      } catch (FormatException e) {
        assertThat(e.problem()).isNotBlank();
      }
    }
  }

  @Test
  void curvesAreKeptAsTheyAreFound() throws Exception {
    for (String name : List.of("newer.usda", "newer.usdc")) {
      PrimSpec yard = read(name, resource(name)).root().children().get("Yard");
      assertThat(yard.properties().get("swing").spline()).isNotNull();
      assertThat(((UsdValue) yard.properties().get("after").value()).number(0)).isEqualTo(2);
    }
  }

  private static UsdFiles files(byte[] packed) {
    MemoryFiles files = new MemoryFiles(Map.of("yard.usdz", packed));
    return new UsdFiles(files, Budget.of("yard.usdz", files));
  }

  @Test
  void filesOfAPackageAreReadWhereTheyLie() throws Exception {
    UsdFiles files = files(resource("yard.usdz"));
    String rich = LayerText.of(read("rich.usdc", resource("rich.usdc")));
    assertThat(LayerText.of(files.layer("yard.usdz"))).isEqualTo(rich);
    assertThat(files.layer("yard.usdz")).isSameAs(files.layer("yard.usdz[rich.usdc]"));
    String newer = LayerText.of(read("newer.usda", resource("newer.usda")));
    assertThat(LayerText.of(files.layer("yard.usdz[parts/newer.usda]"))).isEqualTo(newer);
    // A package in a package: its first file is its root layer.
    assertThat(LayerText.of(files.layer("yard.usdz[parts/inner.usdz]"))).isEqualTo(newer);
    assertThat(LayerText.of(files.layer("yard.usdz[parts/inner.usdz[newer.usdc]]")))
        .isEqualTo(newer);
    assertThat(files.has("yard.usdz[oak.png]")).isFalse();
    assertThatThrownBy(() -> files.layer("yard.usdz[oak.png]"))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("not in the cargo");
  }

  @Test
  void aBrokenPackageEndsInASentence() throws Exception {
    byte[] bytes = resource("yard.usdz");
    Random random = new Random(3);
    int said = 0;
    for (int i = 0; i < 3000; i++) {
      byte[] wrong =
          i % 3 == 0 ? Arrays.copyOf(bytes, random.nextInt(bytes.length)) : bytes.clone();
      int from = i % 2 == 0 ? 0 : wrong.length - Math.min(wrong.length, 400);
      for (int k = 0; k < 3 && wrong.length > 0; k++) {
        wrong[from + random.nextInt(wrong.length - from)] = (byte) random.nextInt(256);
      }
      try {
        UsdFiles files = files(wrong);
        LayerText.of(files.layer("yard.usdz"));
        LayerText.of(files.layer("yard.usdz[parts/inner.usdz]"));
      } catch (FormatException e) {
        said++;
      }
    }
    assertThat(said).isGreaterThan(500);
  }

  @Test
  void whatIsCompressedInAPackageIsRefused() throws Exception {
    byte[] bytes = resource("yard.usdz");
    for (int i = bytes.length - 4; i > 0; i--) {
      if (bytes[i] == 'P' && bytes[i + 1] == 'K' && bytes[i + 2] == 1 && bytes[i + 3] == 2) {
        bytes[i + 10] = 8;
        break;
      }
    }
    assertThatThrownBy(() -> files(bytes).layer("yard.usdz"))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("compressed or encrypted");
  }
}
