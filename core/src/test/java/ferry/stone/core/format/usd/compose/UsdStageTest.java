package ferry.stone.core.format.usd.compose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.IOException;
import java.io.InputStream;
import java.lang.reflect.Array;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * What is composed is held against what the standard's own library makes of the same layers: {@code
 * flat.usda}, which it flattened (usd-core 26.11, see {@code make-flat.py}).
 */
class UsdStageTest {
  private static final List<String> FILES =
      List.of("root.usda", "strong.usda", "weak.usda", "parts/lamp.usda", "parts/heavy.usda");

  private static Map<String, byte[]> cargo(List<String> names) throws IOException {
    Map<String, byte[]> files = new HashMap<>();
    for (String name : names) {
      try (InputStream in = UsdStageTest.class.getResourceAsStream("/usd/compose/" + name)) {
        files.put(name, in.readAllBytes());
      }
    }
    return files;
  }

  static UsdStage stage(Map<String, byte[]> files, String root, boolean payloads) throws Exception {
    MemoryFiles held = new MemoryFiles(files);
    UsdFiles layers = new UsdFiles(held, Budget.of(root, held));
    return UsdStage.open(layers, root, Map.of(), payloads);
  }

  private static UsdStage text(String body) throws Exception {
    byte[] bytes = ("#usda 1.0\n" + body).getBytes(StandardCharsets.UTF_8);
    return stage(Map.of("a.usda", bytes), "a.usda", true);
  }

  /** All of a stage as one text. */
  static String text(UsdStage stage) throws Exception {
    StringBuilder out = new StringBuilder();
    text(stage.root(), out);
    return out.toString();
  }

  private static void text(UsdPrim prim, StringBuilder out) throws Exception {
    out.append(prim.path()).append(' ').append(prim.specifier()).append(' ');
    out.append(prim.typeName()).append(" kind ").append(value(prim.field("kind")));
    out.append(" custom ").append(value(prim.field("customData"))).append('\n');
    for (String name : prim.propertyNames()) {
      UsdProperty property = prim.property(name);
      out.append("  ").append(name).append(' ').append(property.typeName());
      out.append(" = ").append(value(property.value()));
      out.append(" -> ").append(property.targets());
      UsdSamples samples = property.samples();
      for (int i = 0; samples != null && i < samples.codes().length; i++) {
        out.append(' ').append(samples.codes()[i]).append(": ").append(value(samples.value(i)));
      }
      out.append('\n');
    }
    for (UsdPrim child : prim.children()) {
      text(child, out);
    }
  }

  private static String value(Object value) {
    if (value instanceof Map<?, ?> map) {
      Map<String, String> sorted = new TreeMap<>();
      map.forEach((k, v) -> sorted.put(String.valueOf(k), value(v)));
      return sorted.toString();
    }
    if (!(value instanceof UsdValue own)) {
      return String.valueOf(value);
    }
    StringBuilder all = new StringBuilder();
    for (int i = 0; i < own.length(); i++) {
      all.append(Array.get(own.data(), i)).append(' ');
    }
    return all.toString();
  }

  @Test
  void layersComposeAsTheStandardsLibraryComposesThem() throws Exception {
    UsdStage stage = stage(cargo(FILES), "root.usda", true);
    String wanted = text(stage(cargo(List.of("flat.usda")), "flat.usda", true));
    assertThat(text(stage)).isEqualTo(wanted);
    assertThat(stage.problems())
        .extracting(UsdProblem::code)
        .contains("usd-layer-missing", "usd-circle");
    assertThat(stage.problems())
        .filteredOn(p -> p.code().equals("usd-layer-missing"))
        .allMatch(p -> p.written().equals("parts/nowhere.usda") && p.prim().equals("/Barge/lost"));
  }

  @Test
  void primsThatAreMovedStandWhereTheStandardsLibraryPutsThem() throws Exception {
    List<String> files =
        List.of("moved.usda", "moved-weak.usda", "parts/crane.usda", "parts/crane-part.usda");
    UsdStage stage = stage(cargo(files), "moved.usda", true);
    String wanted = text(stage(cargo(List.of("moved-flat.usda")), "moved-flat.usda", true));
    assertThat(text(stage)).isEqualTo(wanted);
    // Two moves to one place: neither counts.
    assertThat(stage.problems())
        .extracting(UsdProblem::code, UsdProblem::prim)
        .containsExactlyInAnyOrder(
            tuple("usd-move-wrong", "/Yard/Crane/Arm/Twin"),
            tuple("usd-move-wrong", "/Yard/Crane/Arm/Other"));
    assertThat(stage.prim("/Yard/Crane/Arm/Hook")).isNull();
    assertThat(stage.prim("/Yard/Crane/Load").arcs())
        .anyMatch(a -> a.kind().equals("relocate") && a.prim().equals("/Crane/Arm/Hook"));
  }

  @Test
  void damagedMovesEndInAStageOrASentence() throws Exception {
    List<String> names =
        List.of("moved.usda", "moved-weak.usda", "parts/crane.usda", "parts/crane-part.usda");
    String marks = "<>/{}=:@\"";
    int stages = 0;
    for (int seed = 0; seed < 500; seed++) {
      Random random = new Random(seed);
      Map<String, byte[]> files = cargo(names);
      byte[] bytes = files.get(names.get(random.nextInt(names.size())));
      // Names and marks are swapped, so that many of them still are layers.
      for (int i = 0; i < 2; i++) {
        int at = 10 + random.nextInt(bytes.length - 10);
        bytes[at] =
            random.nextBoolean()
                ? bytes[10 + random.nextInt(bytes.length - 10)]
                : (byte) marks.charAt(random.nextInt(marks.length()));
      }
      try {
        text(stage(files, "moved.usda", true));
        stages++;
      } catch (FormatException e) {
        assertThat(e.getMessage()).isNotBlank();
      }
    }
    assertThat(stages).as("some of them are stages still").isGreaterThan(40);
  }

  @ParameterizedTest
  @CsvSource({
    "/B, /A/x, moves a prim to or from the top",
    "/A/b, /B, moves a prim to or from the top",
    "/A/b, /B/b, leads below another prim at the top",
    "/A/b, /A/b/c, leads into or above itself",
    "/A/b/c, /A/b, leads into or above itself",
  })
  void aMoveThatCannotBeIsToldAndLeavesAllWhereItIs(String from, String to, String why)
      throws Exception {
    UsdStage stage =
        stage(
            Map.of(
                "a.usda",
                ("#usda 1.0\n( relocates = { <"
                        + from
                        + "> : <"
                        + to
                        + "> } )\ndef \"A\" ( references = </Src> ) { }\n"
                        + "def \"B\" { }\ndef \"Src\" { def \"b\" { def \"c\" { int x = 1 } } }")
                    .getBytes(StandardCharsets.UTF_8)),
            "a.usda",
            true);
    assertThat(stage.prim("/A/b/c").property("x")).isNotNull();
    assertThat(stage.problems()).singleElement().matches(p -> p.message().contains(why));
  }

  @Test
  void payloadsStayOutWhereTheyAreNotWanted() throws Exception {
    UsdStage stage = stage(cargo(FILES), "root.usda", false);
    UsdPrim barge = stage.root().children().get(0);
    UsdPrim hull =
        barge.children().stream().filter(p -> p.name().equals("hull")).findFirst().orElseThrow();
    assertThat(hull.children()).hasSize(1);
    assertThat(hull.children().get(0).typeName()).isEmpty();
  }

  @Test
  void aVariantIsChosenFromOutside() throws Exception {
    MemoryFiles held = new MemoryFiles(cargo(FILES));
    UsdStage stage =
        UsdStage.open(
            new UsdFiles(held, Budget.of("root.usda", held)),
            "root.usda",
            Map.of("/Barge", Map.of("lamps", "dark")),
            true);
    UsdPrim barge = stage.root().children().get(0);
    assertThat(((UsdValue) barge.property("light").value()).number(0)).isZero();
    assertThat(barge.property("paper")).isNull();
    assertThat(barge.property("light").valueLayer()).isEqualTo("weak.usda");
  }

  @Test
  void whatIsSaidBelowAnInstanceDoesNotCount() throws Exception {
    UsdStage stage =
        text(
            """
            def "Proto" { def "part" { int a = 1 } }
            def "One" ( instanceable = true references = </Proto> ) {
              int own = 2
              over "part" { int a = 9 int b = 9 }
            }
            def "Two" ( references = </Proto> ) { over "part" { int a = 9 } }
            """);
    UsdPrim one = stage.root().children().get(1);
    assertThat(one.isInstance()).isTrue();
    assertThat(((UsdValue) one.property("own").value()).number(0)).isEqualTo(2);
    UsdPrim part = one.children().get(0);
    assertThat(((UsdValue) part.property("a").value()).number(0)).isEqualTo(1);
    assertThat(part.property("b")).isNull();
    UsdPrim other = stage.root().children().get(2).children().get(0);
    assertThat(((UsdValue) other.property("a").value()).number(0)).isEqualTo(9);
  }

  @Test
  void circlesAndArcsThatMultiplyEnd() throws Exception {
    StringBuilder many = new StringBuilder("def \"a0\" { int x = 1 }\n");
    for (int i = 1; i < 40; i++) {
      String two = "[</a" + (i - 1) + ">, </a" + (i - 1) + "> (offset = 1)]";
      many.append("def \"a").append(i).append("\" ( references = ").append(two).append(" ) {}\n");
    }
    UsdStage stage =
        text(many + "def \"b\" ( references = </c> ) {}\ndef \"c\" ( inherits = </b> ) {}");
    text(stage);
    assertThat(stage.problems()).extracting(UsdProblem::code).contains("usd-circle");
  }

  private static double number(UsdPrim prim, String property) {
    return ((UsdValue) prim.property(property).value()).number(0);
  }

  private static UsdPrim child(UsdPrim parent, String name) throws Exception {
    return parent.children().stream()
        .filter(c -> c.name().equals(name))
        .findFirst()
        .orElseThrow(() -> new AssertionError("no prim " + name));
  }

  /** Some layers by their names. */
  private static UsdStage layers(String... namesAndBodies) throws Exception {
    Map<String, byte[]> files = new HashMap<>();
    for (int i = 0; i < namesAndBodies.length; i += 2) {
      String text = "#usda 1.0\n" + namesAndBodies[i + 1];
      files.put(namesAndBodies[i], text.getBytes(StandardCharsets.UTF_8));
    }
    return stage(files, namesAndBodies[0], true);
  }

  @Test
  void strengthGoesFromLocalToSpecialized() throws Exception {
    UsdStage stage =
        text(
            """
            class "I" { int a = 2 int b = 2 int c = 2 int d = 2 int e = 2 }
            def "R" { int a = 4 int b = 4 int c = 4 int d = 4 int e = 4 int f = 4 }
            def "S" { int a = 5 int b = 5 int c = 5 int d = 5 int e = 5 int f = 5 int g = 5 }
            def "P" (
              inherits = </I> references = </R> specializes = </S>
              variantSets = ["v"] variants = { string v = "on" }
            ) {
              int a = 1
              variantSet "v" = { "on" { int a = 3 int b = 3 int h = 3 int f = 3 } }
            }
            """);
    UsdPrim p = child(stage.root(), "P");
    assertThat(number(p, "a")).isEqualTo(1);
    assertThat(number(p, "b")).isEqualTo(2);
    assertThat(number(p, "f")).isEqualTo(3);
    assertThat(number(p, "g")).isEqualTo(5);
    assertThat(number(p, "h")).isEqualTo(3);
  }

  @Test
  void listsAndDictionariesAreComposedThroughArcs() throws Exception {
    UsdStage stage =
        layers(
            "a.usda",
            """
            over "P" (
              references = @b.usda@</Q>
              append apiSchemas = ["C"]
              delete apiSchemas = ["B"]
              customData = { string own = "a" dictionary in = { int x = 1 } }
            ) {
              prepend rel ways = </P/first>
            }
            """,
            "b.usda",
            """
            def Xform "Q" (
              prepend apiSchemas = ["A", "B"]
              customData = { string own = "b" dictionary in = { int x = 2 int y = 3 } }
            ) {
              rel ways = [</Q/second>, </Elsewhere>]
              def "first" {}
            }
            """);
    UsdPrim p = child(stage.root(), "P");
    assertThat(p.field("apiSchemas")).isEqualTo(List.of("A", "C"));
    assertThat(value(p.field("customData"))).isEqualTo("{in={x=1 , y=3 }, own=a }");
    assertThat(p.property("ways").targets()).containsExactly("/P/first", "/P/second");
    assertThat(p.typeName()).isEqualTo("Xform");
    assertThat(p.children()).extracting(UsdPrim::path).containsExactly("/P/first");
  }

  @Test
  void samplesOfTheStrongestLayerCountAtTheCodesOfTheWhole() throws Exception {
    UsdStage stage =
        layers(
            "a.usda",
            "( subLayers = [@b.usda@ (offset = 100)] timeCodesPerSecond = 24 )\n"
                + "over \"P\" { double held = 7 }\n",
            "b.usda",
            "( timeCodesPerSecond = 24 )\n"
                + "def \"P\" ( references = @c.usda@</Q> (offset = 1; scale = 3) ) {}\n",
            "c.usda",
            "( timeCodesPerSecond = 12 )\n"
                + "def \"Q\" { double held.timeSamples = { 0: 1 }\n"
                + "double moved.timeSamples = { 0: 1, 10: None } }\n");
    UsdPrim p = child(stage.root(), "P");
    assertThat(p.property("held").samples()).isNull();
    assertThat(number(p, "held")).isEqualTo(7);
    UsdSamples moved = p.property("moved").samples();
    // 100 + 1 + 3 · 24 / 12 · code
    assertThat(moved.codes()).containsExactly(101, 161);
    assertThat(UsdPrim.isBlocked(moved.value(1))).isTrue();
    assertThat(p.property("moved").valueLayer()).isEqualTo("c.usda");
  }

  @Test
  void layersThatLeadBackAndPrimsThatAreNotNamedAreTold() throws Exception {
    UsdStage stage =
        layers(
            "a.usda",
            "( subLayers = [@b.usda@, @gone.usda@] )\n"
                + "def \"P\" ( references = @c.usda@ ) { int own = 1 }\n",
            "b.usda",
            "( subLayers = [@a.usda@] )\nover \"P\" { int weak = 2 }\n",
            "c.usda",
            "def \"Q\" {}\n");
    UsdPrim p = child(stage.root(), "P");
    assertThat(number(p, "own")).isEqualTo(1);
    assertThat(number(p, "weak")).isEqualTo(2);
    assertThat(stage.problems())
        .extracting(UsdProblem::code)
        .containsExactlyInAnyOrder("usd-circle", "usd-layer-missing", "usd-prim-missing");
    assertThat(stage.problems()).allMatch(x -> !x.message().isBlank());
  }

  @Test
  void variantsInVariantsAreChosen() throws Exception {
    UsdStage stage =
        text(
            """
            def "P" ( variants = { string out = "x" string in = "deep" } variantSets = ["out"] ) {
              variantSet "out" = {
                "x" ( prepend variantSets = "in" ) {
                  variantSet "in" = { "deep" { int found = 1 def "lamp" { int watt = 60 } } }
                }
                "y" { int found = 2 }
              }
            }
            """);
    UsdPrim p = child(stage.root(), "P");
    assertThat(number(p, "found")).isEqualTo(1);
    assertThat(number(child(p, "lamp"), "watt")).isEqualTo(60);
    assertThat(child(p, "lamp").path()).isEqualTo("/P/lamp");
  }
}
