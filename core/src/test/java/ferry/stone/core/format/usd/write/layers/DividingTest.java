package ferry.stone.core.format.usd.write.layers;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.out.UsdaWriter;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Layers that are divided say the same again when they are laid over each other. */
class DividingTest {
  private static UsdLayer read(String text) throws Exception {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    MemoryFiles held = new MemoryFiles(Map.of("a.usda", bytes));
    return new UsdFiles(held, Budget.of("a.usda", held)).layer("a.usda");
  }

  private static UsdLayer prims(String body) throws Exception {
    return read("#usda 1.0\n" + body);
  }

  private static String resource(String name) throws Exception {
    try (InputStream in = DividingTest.class.getResourceAsStream("/usd/" + name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  private static String text(PrimSpec root) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    UsdaWriter.write(new UsdLayer("", root, List.of()), out);
    return out.toString(StandardCharsets.UTF_8);
  }

  /** Every line of a text, so that the order of what is said does not count. */
  private static List<String> lines(PrimSpec root) throws Exception {
    return text(root)
        .lines()
        .map(String::strip)
        .map(l -> l.startsWith("prepend apiSchemas") ? words(l) : l)
        .filter(l -> !l.isEmpty())
        .sorted()
        .toList();
  }

  /** Of schemas that are applied the order does not count either. */
  private static String words(String line) {
    return String.join(" ", new TreeSet<>(List.of(line.split("[\\[\\], ]+"))));
  }

  @ParameterizedTest
  @ValueSource(strings = {"carried.usda", "scene/heron.usda", "compose/moved-flat.usda"})
  void geometryLookAndMotionTogetherAreTheLayer(String name) throws Exception {
    UsdLayer layer = read(resource(name));
    LayerSplit split = new LayerSplit(layer.root());
    PrimSpec again = new PrimSpec("");
    again.fields().putAll(layer.root().fields());
    Specs.lay(again, split.geometry);
    Specs.lay(again, split.look);
    Specs.lay(again, split.motion);
    assertThat(lines(again)).isEqualTo(lines(layer.root()));
    assertThat(text(split.geometry)).doesNotContain("timeSamples", "material:binding");
    assertThat(text(split.look)).doesNotContain("timeSamples", "def Mesh");
  }

  @Test
  void whatALayerSaysOtherwiseIsAllThatIsWritten() throws Exception {
    UsdLayer base =
        prims(
            "def Xform \"a\" { int x = 1 int y = 2 def Mesh \"m\" { int z = 3 } rel to = </a/m> }");
    UsdLayer wanted =
        prims(
            "def Xform \"a\" { int x = 1 int y = 5 def Mesh \"m\" { int z = 3 } rel to = </a>"
                + " def \"new\" { } }");
    PrimSpec over = new PrimSpec("");
    LayerDiff.over(base.root(), wanted.root(), over);
    assertThat(text(over))
        .contains("over \"a\"", "int y = 5", "rel to = </a>", "def \"new\"")
        .doesNotContain("int x", "int z", "\"m\"");
    PrimSpec same = new PrimSpec("");
    LayerDiff.over(base.root(), base.root(), same);
    assertThat(same.children()).isEmpty();
  }

  private static boolean add(UsdLayer chosen, String set, String other, UsdLayer... layers)
      throws Exception {
    return new VariantSets(chosen.root()).add(set, "one", Map.of(other, layers[0].root()));
  }

  @Test
  void variantsStandAtTheNearestPrimAboveAllThatDiffers() throws Exception {
    UsdLayer one =
        prims(
            "def Xform \"yard\" { def Xform \"deep\" { def Mesh \"a\" { int x = 1 }"
                + " def Mesh \"b\" { int x = 1 } } def Mesh \"c\" { int x = 1 } }");
    UsdLayer two =
        prims(
            "def Xform \"yard\" { def Xform \"deep\" { def Mesh \"a\" { int x = 2 }"
                + " def Mesh \"b\" { int x = 2 } } def Mesh \"c\" { int x = 1 } }");
    assertThat(add(one, "size", "two", two)).isTrue();
    PrimSpec deep = one.root().children().get("yard").children().get("deep");
    assertThat(deep.variantSets()).containsOnlyKeys("size");
    assertThat(deep.variantSets().get("size").keySet()).containsExactly("one", "two");
    assertThat(deep.children().get("a").properties()).isEmpty();
    assertThat(text(one.root())).contains("string size = \"one\"", "int x = 2");
    assertThat(one.root().children().get("yard").children().get("c").properties()).hasSize(1);
  }

  @Test
  void aPrimThatOneVariantHasStandsInItAndTheOrderStays() throws Exception {
    UsdLayer one =
        prims("def Xform \"yard\" { def \"first\" { } def \"mid\" { } def \"last\" { } }");
    UsdLayer two = prims("def Xform \"yard\" { def \"first\" { } def \"last\" { } }");
    assertThat(add(one, "set", "two", two)).isTrue();
    PrimSpec yard = one.root().children().get("yard");
    assertThat(yard.children()).containsOnlyKeys("first", "last");
    assertThat(yard.childOrder()).containsExactly("first", "mid", "last");
    assertThat(yard.variantSets().get("set").get("one").children()).containsOnlyKeys("mid");
    assertThat(yard.variantSets().get("set").get("two").children()).isEmpty();
  }

  @Test
  void whatDiffersAtTheTopOrInClassesCannotBeASet() throws Exception {
    UsdLayer one = prims("def \"a\" { } def \"b\" { }");
    String before = text(one.root());
    assertThat(add(one, "set", "two", prims("def \"a\" { }"))).isFalse();
    assertThat(text(one.root())).isEqualTo(before);
    UsdLayer shared = prims("class \"Meshes\" { def \"m\" { int x = 1 } } def \"a\" { int y = 1 }");
    UsdLayer other = prims("class \"Meshes\" { def \"m\" { int x = 2 } } def \"a\" { int y = 2 }");
    assertThat(add(shared, "set", "two", other)).isFalse();
  }

  @Test
  void theStrongerOfTwoSetsSaysAPropertyOnlyWhereItIsAnotherOne() throws Exception {
    UsdLayer one = prims("def \"a\" { int y = 1 int z = 1 }");
    VariantSets sets = new VariantSets(one.root());
    UsdLayer other = prims("def \"a\" { int y = 2 int z = 1 }");
    assertThat(sets.add("first", "one", Map.of("two", other.root()))).isTrue();
    UsdLayer more = prims("def \"a\" { int y = 3 int z = 2 }");
    assertThat(sets.add("second", "one", Map.of("two", more.root()))).isTrue();
    PrimSpec a = one.root().children().get("a");
    assertThat(a.properties()).isEmpty();
    Map<String, PrimSpec> first = a.variantSets().get("first");
    assertThat(first.get("one").properties()).as("follows the second").isEmpty();
    assertThat(first.get("two").properties()).containsOnlyKeys("y");
    Map<String, PrimSpec> second = a.variantSets().get("second");
    assertThat(second.get("one").properties()).containsOnlyKeys("y", "z");
    assertThat(second.get("two").properties()).containsOnlyKeys("y", "z");
  }

  @Test
  void aPrimThatTwoSetsTakeAwayIsInOneOfThem() throws Exception {
    UsdLayer one = prims("def \"a\" { def \"b\" { } int z = 1 }");
    VariantSets sets = new VariantSets(one.root());
    UsdLayer without = prims("def \"a\" { int z = 1 }");
    assertThat(sets.add("first", "one", Map.of("two", without.root()))).isTrue();
    UsdLayer both = prims("def \"a\" { int z = 2 }");
    assertThat(sets.add("second", "one", Map.of("two", both.root()))).isFalse();
    assertThat(one.root().children().get("a").variantSets()).containsOnlyKeys("first");
    assertThat(one.root().children().get("a").properties()).containsOnlyKeys("z");
  }

  @Test
  void classesThatOnlyOneVariantUsesAreThereForAll() throws Exception {
    UsdLayer one = prims("def \"a\" { int y = 1 }");
    UsdLayer two = prims("def \"a\" { int y = 2 } class \"Meshes\" { def \"m\" { int x = 1 } }");
    assertThat(add(one, "set", "two", two)).isTrue();
    assertThat(one.root().children()).containsKey("Meshes");
    assertThat(one.root().children().get("a").variantSets()).containsOnlyKeys("set");
  }

  @Test
  void layersThatSayTheSameNeedNoSet() throws Exception {
    UsdLayer one = prims("def \"a\" { int y = 1 double z.timeSamples = { 0: 1, 2: 3 } }");
    UsdLayer two = prims("def \"a\" { int y = 1 double z.timeSamples = { 0: 1, 2: 3 } }");
    assertThat(add(one, "set", "two", two)).isTrue();
    assertThat(one.root().children().get("a").variantSets()).isEmpty();
    UsdLayer three = prims("def \"a\" { int y = 1 double z.timeSamples = { 0: 1, 2: 4 } }");
    assertThat(add(one, "set", "two", three)).isTrue();
    assertThat(one.root().children().get("a").variantSets()).containsOnlyKeys("set");
  }
}
