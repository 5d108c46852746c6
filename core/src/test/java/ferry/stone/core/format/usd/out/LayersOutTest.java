package ferry.stone.core.format.usd.out;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.files.SeekableOutput;
import ferry.stone.core.format.usd.layer.LayerText;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdBlock;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * A layer that is written and read again says the same. That the standard's own library reads the
 * same from it was seen when it was made (usd-core 26.11: the text that it exports of each of these
 * layers is equal line by line).
 */
class LayersOutTest {
  private static byte[] resource(String name) throws IOException {
    try (InputStream in = LayersOutTest.class.getResourceAsStream("/usd/" + name)) {
      return in.readAllBytes();
    }
  }

  private static UsdLayer read(String name, byte[] bytes) throws Exception {
    MemoryFiles files = new MemoryFiles(Map.of(name, bytes));
    return new UsdFiles(files, Budget.of(name, files)).layer(name);
  }

  private static byte[] text(UsdLayer layer) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    UsdaWriter.write(layer, out);
    return out.toByteArray();
  }

  private static byte[] crate(UsdLayer layer) throws Exception {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (SeekableOutput out = new SeekableOutput(bytes)) {
      CrateWriter.write(layer, out);
      out.complete();
    }
    return bytes.toByteArray();
  }

  private static byte[] packed(UsdLayer layer, Map<String, byte[]> files) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    UsdzWriter.write(Map.of("yard.usdc", layer), files, out);
    return out.toByteArray();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "rich.usda",
        "rich.usdc",
        "old.usda",
        "newest.usda",
        "scene/yard.usda",
        "scene/heron.usda",
        "compose/root.usda",
        "compose/strong.usda",
        "compose/flat.usda"
      })
  void aLayerComesBackFromEachForm(String name) throws Exception {
    UsdLayer layer = read(name, resource(name));
    String wanted = LayerText.of(layer);
    assertThat(LayerText.of(read("a.usda", text(layer)))).isEqualTo(wanted);
    assertThat(LayerText.of(read("a.usdc", crate(layer)))).isEqualTo(wanted);
    assertThat(LayerText.of(read("a.usdz", packed(layer, Map.of())))).isEqualTo(wanted);
  }

  @Test
  void aCurveThatWasFoundInTextIsWrittenAsText() throws Exception {
    UsdLayer layer = read("newer.usda", resource("newer.usda"));
    assertThat(LayerText.of(read("a.usda", text(layer)))).isEqualTo(LayerText.of(layer));
  }

  @Test
  void randomLayersComeBack() throws Exception {
    for (int seed = 0; seed < 60; seed++) {
      UsdLayer layer = random(new Random(seed));
      String wanted = LayerText.of(layer);
      assertThat(LayerText.of(read("a.usda", text(layer)))).as("text " + seed).isEqualTo(wanted);
      assertThat(LayerText.of(read("a.usdc", crate(layer)))).as("crate " + seed).isEqualTo(wanted);
    }
  }

  @Test
  void theSameLayerGivesTheSameBytes() throws Exception {
    UsdLayer layer = random(new Random(7));
    assertThat(text(layer)).isEqualTo(text(layer));
    assertThat(crate(layer)).isEqualTo(crate(layer));
    Map<String, byte[]> files = Map.of("textures/oak.png", new byte[] {1, 2, 3});
    assertThat(packed(layer, files)).isEqualTo(packed(layer, files));
  }

  /** The standard's usdz specification: stored, the layer first, bytes at multiples of 64. */
  @Test
  void filesOfAPackageAreStoredAndAligned() throws Exception {
    Map<String, byte[]> files = new LinkedHashMap<>();
    for (int i = 1; i < 40; i++) {
      files.put("textures/" + "x".repeat(i) + ".png", new byte[7 * i]);
    }
    byte[] zip = packed(random(new Random(3)), files);
    List<String> names = new ArrayList<>();
    try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(zip))) {
      for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
        names.add(entry.getName());
        assertThat(entry.getMethod()).isEqualTo(ZipEntry.STORED);
        byte[] content = in.readAllBytes();
        if (files.containsKey(entry.getName())) {
          assertThat(content).isEqualTo(files.get(entry.getName()));
        }
      }
    }
    assertThat(names.get(0)).isEqualTo("yard.usdc");
    assertThat(names).hasSize(40).containsAll(files.keySet());
    ByteBuffer head = ByteBuffer.wrap(zip).order(ByteOrder.LITTLE_ENDIAN);
    int at = 0;
    int seen = 0;
    while (head.getInt(at) == 0x04034b50) {
      int data = at + 30 + head.getShort(at + 26) + head.getShort(at + 28);
      assertThat(data % 64).as("file " + seen).isZero();
      at = data + head.getInt(at + 18);
      seen++;
    }
    assertThat(seen).isEqualTo(40);
  }

  /** Packed whole numbers: the three widths of differences, and one that repeats. */
  @Test
  void wholeNumbersOfAnyDifferenceComeBack() throws Exception {
    Random random = new Random(11);
    for (int kind = 0; kind < 5; kind++) {
      int[] numbers = new int[1000 + kind];
      for (int i = 0; i < numbers.length; i++) {
        numbers[i] =
            switch (kind) {
              case 0 -> i * 3;
              case 1 -> random.nextInt(100);
              case 2 -> random.nextInt(60_000);
              case 3 -> random.nextInt();
              default -> i % 17 == 0 ? Integer.MIN_VALUE : Integer.MAX_VALUE;
            };
      }
      UsdLayer layer = single(new UsdValue(UsdType.known("int"), true, numbers));
      UsdLayer again = read("a.usdc", crate(layer));
      PropertySpec property = again.root().children().get("p").properties().get("v");
      assertThat(((UsdValue) property.value()).ints()).isEqualTo(numbers);
    }
  }

  /** Samples are asked for one by one, and equal ones in a row stand in the file once. */
  @Test
  void samplesAreWrittenAsTheyAreRead() throws Exception {
    int points = 40_000;
    int[] asked = {0};
    UsdSamples samples =
        new UsdSamples() {
          @Override
          public double[] codes() {
            return new double[] {0, 1, 2, 3};
          }

          @Override
          public Object value(int sample) {
            asked[0]++;
            float[] all = new float[3 * points];
            all[5] = sample < 2 ? 1 : sample;
            return new UsdValue(UsdType.known("point3f"), true, all);
          }
        };
    UsdLayer layer = single(null);
    PropertySpec property = layer.root().children().get("p").properties().get("v");
    property.type("point3f", true);
    property.samples(samples);
    byte[] bytes = crate(layer);
    assertThat(asked[0]).isEqualTo(4);
    assertThat(bytes.length).isBetween(3 * 12 * points, 3 * 12 * points + 5000);
    UsdSamples read =
        read("a.usdc", bytes).root().children().get("p").properties().get("v").samples();
    float[] some = new float[3];
    read.floats(3, 3, 3, some);
    assertThat(some).containsExactly(0, 0, 3);
    assertThat(read.length(2)).isEqualTo(3 * points);
  }

  private static UsdLayer single(UsdValue value) {
    PrimSpec root = new PrimSpec("");
    root.specifier(PrimSpec.Specifier.DEF);
    PrimSpec prim = new PrimSpec("p");
    prim.specifier(PrimSpec.Specifier.DEF);
    PropertySpec property = new PropertySpec("v", false);
    property.type("int", true);
    property.value(value);
    prim.properties().put("v", property);
    root.children().put("p", prim);
    return new UsdLayer("", root, List.of());
  }

  private static UsdLayer random(Random random) {
    PrimSpec root = new PrimSpec("");
    root.specifier(PrimSpec.Specifier.DEF);
    root.fields().put("metersPerUnit", UsdValue.real(random.nextInt(100) / 7.0));
    root.fields().put("upAxis", UsdValue.text(UsdType.Kind.TOKEN, "Z"));
    fill(root, random, 3);
    root.properties().clear();
    root.variantSets().clear();
    List<UsdArc> layers = new ArrayList<>();
    for (int i = random.nextInt(3); i > 0; i--) {
      layers.add(new UsdArc("layer" + i + ".usda", "", random.nextInt(3), 1 + i, Map.of()));
    }
    return new UsdLayer("", root, layers);
  }

  private static void fill(PrimSpec prim, Random random, int depth) {
    for (int i = random.nextInt(5); i > 0; i--) {
      prim.properties().put("v" + i, property("v" + i, random));
    }
    if (random.nextBoolean()) {
      PropertySpec rel = new PropertySpec("friends", true);
      rel.uniform(true);
      rel.targets(ListOp.explicit(List.of("/a1", "/a2.v1")));
      prim.properties().put("friends", rel);
    }
    for (int i = depth == 0 ? 0 : random.nextInt(4); i > 0; i--) {
      PrimSpec child = new PrimSpec("a" + i);
      PrimSpec.Specifier[] how = PrimSpec.Specifier.values();
      child.specifier(how[random.nextInt(how.length)]);
      child.typeName(random.nextBoolean() ? "Xform" : "");
      if (random.nextBoolean()) {
        child.fields().put("kind", UsdValue.text(UsdType.Kind.TOKEN, "group"));
      }
      if (random.nextInt(3) == 0) {
        UsdArc arc = new UsdArc("parts/b.usda", "/B", i, 1, Map.of());
        child
            .fields()
            .put(
                "references",
                new ListOp<>(null, List.of(), List.of(arc), List.of(), List.of(), List.of()));
      }
      prim.children().put(child.name(), child);
      fill(child, random, depth - 1);
    }
    if (depth > 0 && random.nextInt(3) == 0) {
      Map<String, PrimSpec> variants = new LinkedHashMap<>();
      for (String name : new String[] {"lit", "dark"}) {
        PrimSpec variant = new PrimSpec(name);
        fill(variant, random, depth - 1);
        variants.put(name, variant);
      }
      prim.variantSets().put("lamps", variants);
      prim.fields()
          .put(
              "variantSetNames",
              new ListOp<>(null, List.of(), List.of("lamps"), List.of(), List.of(), List.of()));
    }
  }

  private static PropertySpec property(String name, Random random) {
    String[] types = {
      "bool",
      "int",
      "int64",
      "uint",
      "half",
      "float",
      "double",
      "string",
      "token",
      "asset",
      "float2",
      "double3",
      "int4",
      "matrix2d",
      "matrix4d",
      "quatf",
      "quath",
      "color3f",
      "texCoord2f",
      "timecode"
    };
    UsdType type = UsdType.known(types[random.nextInt(types.length)]);
    boolean array = random.nextBoolean();
    PropertySpec property = new PropertySpec(name, false);
    property.type(type.name(), array);
    property.custom(random.nextBoolean());
    property.uniform(random.nextInt(4) == 0);
    if (random.nextInt(5) > 0) {
      property.value(value(type, array, random));
    }
    if (random.nextInt(3) == 0) {
      Object[] values = {value(type, array, random), UsdBlock.VALUE, value(type, array, random)};
      property.samples(new UsdSamples.Held(new double[] {-1.5, 0, 7.25}, values));
    }
    if (random.nextInt(4) == 0) {
      property.fields().put("interpolation", UsdValue.text(UsdType.Kind.TOKEN, "vertex"));
    }
    return property;
  }

  private static UsdValue value(UsdType type, boolean array, Random random) {
    int rows = array ? random.nextInt(40) : 1;
    int n = rows * type.components();
    Object data =
        switch (type.kind()) {
          case BOOL -> {
            boolean[] all = new boolean[n];
            for (int i = 0; i < n; i++) {
              all[i] = random.nextBoolean();
            }
            yield all;
          }
          case UCHAR, INT -> random.ints(n, -1000, 100_000).toArray();
          case UINT -> random.longs(n, 0, 1L << 32).toArray();
          case INT64, UINT64 -> random.longs(n).toArray();
          case HALF -> floats(random, n, 8);
          case FLOAT -> floats(random, n, 7);
          case DOUBLE, TIMECODE -> random.doubles(n, -5, 5).toArray();
          default -> {
            String[] all = new String[n];
            for (int i = 0; i < n; i++) {
              all[i] = "täxt \"" + random.nextInt(9) + "\"";
            }
            yield all;
          }
        };
    return new UsdValue(type, array, data);
  }

  /** Parts of a power of two stay what they are in 16 bits. */
  private static float[] floats(Random random, int n, int by) {
    float[] all = new float[n];
    for (int i = 0; i < n; i++) {
      all[i] = (random.nextInt(200) - 100) / (float) by;
    }
    return all;
  }
}
