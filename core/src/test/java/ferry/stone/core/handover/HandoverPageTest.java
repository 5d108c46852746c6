package ferry.stone.core.handover;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.Landings;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.proof.pair.PairProof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Pages with assets in them: what is inside is the asset, and nothing is asked of a network. */
class HandoverPageTest {
  private static final String CRATE =
      "o crate<1>\nv 0 0 0\nv 2 0 0\nv 2 1 0\nv 0 1 0\nv 0 0 1\nf 1 2 3 4\nf 1 2 5\n";

  /** Enough faces that packing them pays. */
  private static String sheet() {
    StringBuilder obj = new StringBuilder("o sheet\n");
    for (int i = 0; i < 900; i++) {
      obj.append("v ").append(i % 30).append(' ').append(i / 30).append(" 0\n");
    }
    for (int i = 0; i < 29 * 29; i++) {
      int at = i / 29 * 30 + i % 29 + 1;
      obj.append(String.format("f %d %d %d %d%n", at, at + 1, at + 31, at + 30));
    }
    return obj.toString();
  }

  private static Scene crate() throws Exception {
    return read(CRATE);
  }

  private static Scene read(String obj) throws Exception {
    TestFiles files = new TestFiles().with("crate.obj", obj);
    return CargoReader.read("crate", ReadContext.of(files));
  }

  private static MemoryFiles landed(String format, boolean compress) throws Exception {
    Map<String, byte[]> written = new TreeMap<>();
    LandingOptions options = LandingOptions.of(format);
    Landings.write(
        compress ? read(sheet()) : crate(),
        compress ? options.with("compress", true) : options,
        "crate",
        new TestFiles(),
        path -> keeping(path, written),
        Progress.NONE);
    return new MemoryFiles(written);
  }

  private static OutputStream keeping(String path, Map<String, byte[]> written) {
    return new ByteArrayOutputStream() {
      @Override
      public void close() {
        written.put(path, toByteArray());
      }
    };
  }

  private static String page(List<PageAsset> assets, Proof proof) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    new HandoverPage("Crate <1> & more", "made </script>", assets, proof).write(out, Progress.NONE);
    return out.toString(StandardCharsets.UTF_8);
  }

  private static List<byte[]> elements(String page, int side) {
    List<byte[]> all = new ArrayList<>();
    Pattern element =
        Pattern.compile("<script type=\"text/plain\" data-side=\"" + side + "\"[^>]*>([^<]*)<");
    for (Matcher found = element.matcher(page); found.find(); ) {
      all.add(Base64.getDecoder().decode(found.group(1)));
    }
    return all;
  }

  /** What the page's script would unpack. */
  private static byte[] inside(String page, int side) throws Exception {
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    for (byte[] block : elements(page, side)) {
      packed.write(block);
    }
    try (InputStream in = new GZIPInputStream(new ByteArrayInputStream(packed.toByteArray()))) {
      return in.readAllBytes();
    }
  }

  private static JsonNode about(String page) throws Exception {
    Matcher found = Pattern.compile("id=\"about\">([^<]*)</script>").matcher(page);
    assertThat(found.find()).isTrue();
    return new ObjectMapper().readTree(found.group(1));
  }

  @Test
  void aGlbIsInThePageByteByByteAndThePageForbidsItselfTheNetwork() throws Exception {
    MemoryFiles files = landed("glb", false);
    PageAsset asset =
        PageAsset.landed("landed", "crate", List.of("crate.glb"), files, Progress.NONE);
    String page = page(List.of(asset), null);
    assertThat(inside(page, 0)).isEqualTo(files.content().get("crate.glb"));
    JsonNode about = about(page);
    assertThat(about.at("/sides/0/asItIs").asBoolean()).isTrue();
    assertThat(about.at("/sides/0/glbBytes").asLong()).isEqualTo(files.size("crate.glb"));
    assertThat(about.path("made").asText()).isEqualTo("made </script>");
    assertThat(about.path("proof").isNull()).isTrue();
    assertThat(page)
        .contains("default-src 'none'", "<title>Crate &lt;1&gt; &amp; more</title>")
        .contains("<\\/script> nor begin <\\!--")
        .doesNotContain("src=\"", "href=\"", "<link");
  }

  @ParameterizedTest
  @CsvSource({"fbx,false", "usda,false", "obj,false", "gltf,false", "glb,true"})
  void allElseIsMadeIntoAPlainGlbOfTheSameShape(String format, boolean compress) throws Exception {
    MemoryFiles files = landed(format, compress);
    List<String> mains = List.of("crate." + format);
    byte[] glb;
    try (PageAsset asset = PageAsset.landed("landed", "crate", mains, files, Progress.NONE)) {
      String page = page(List.of(asset), null);
      glb = inside(page, 0);
      JsonNode side = about(page).at("/sides/0");
      assertThat(side.path("asItIs").asBoolean()).isFalse();
      assertThat(side.path("from").asText()).isEqualTo(mains.get(0));
      assertThat(side.path("bytes").asLong())
          .isEqualTo(files.content().values().stream().mapToLong(b -> b.length).sum());
    }
    MemoryFiles shown = new MemoryFiles(Map.of("shown.glb", glb));
    Scene again = CargoReader.read("shown", ReadContext.of(shown));
    assertThat(again.shownMeshes()).hasSize(1);
    assertThat(PlainGlb.is("shown.glb", shown)).isTrue();
    assertThat(again.shownMeshes().get(0).mesh().faces().faceCount())
        .isEqualTo(compress ? 2 * 29 * 29 : 3);
  }

  @Test
  void aProofHasBothSidesAndWhatIsNotAsItWas() throws Exception {
    Scene one = crate();
    TestFiles bent = new TestFiles().with("crate.obj", CRATE.replace("v 2 1 0", "v 2 1.5 0"));
    Scene other = CargoReader.read("crate", ReadContext.of(bent));
    Proof proof =
        PairProof.of(
            new PairProof.Side(one, new TestFiles(), "a"),
            new PairProof.Side(other, bent, "b"),
            PairProof.How.USUAL,
            Progress.NONE);
    try (PageAsset a = PageAsset.made("first", "a", one, new TestFiles(), null, Progress.NONE);
        PageAsset b = PageAsset.made("second", "b", other, bent, null, Progress.NONE)) {
      String page = page(List.of(a, b), proof);
      JsonNode told = about(page).path("proof");
      assertThat(told.path("changed").asInt()).isEqualTo(proof.changed()).isPositive();
      assertThat(told.path("rows")).hasSize(proof.changed() + proof.lost());
      assertThat(told.at("/rows/0/verdict").asText()).isIn("changed", "lost");
      assertThat(inside(page, 0)).isNotEqualTo(inside(page, 1));
    }
  }

  @Test
  void largeAssetsStandInElementsThatAreWholeByThemselvesAndSayHowFarTheyReach() throws Exception {
    byte[] noise = new byte[3_000_001];
    new Random(7).nextBytes(noise);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    AssetText.write(new ByteArrayInputStream(noise), 0, out);
    String page = out.toString(StandardCharsets.US_ASCII);
    assertThat(inside(page, 0)).isEqualTo(noise);
    assertThat(elements(page, 0)).hasSize(4).allMatch(e -> e.length <= 768 * 1024);
    long before = 0;
    for (Matcher found = Pattern.compile("data-upto=\"(\\d+)\"").matcher(page); found.find(); ) {
      long upto = Long.parseLong(found.group(1));
      assertThat(upto).isGreaterThan(before).isLessThanOrEqualTo(noise.length);
      before = upto;
    }
    // Base64 makes four characters of three bytes.
    assertThat(page.length()).isLessThan(noise.length * 4 / 3 + 2000);
  }

  @Test
  void whatNoBrowserHoldsInOnePieceIsRefused() throws Exception {
    PageAsset.within("hull.glb", Integer.MAX_VALUE);
    org.assertj.core.api.Assertions.assertThatThrownBy(
            () -> PageAsset.within("hull.glb", 3_200_000_000L))
        .hasMessageContaining("hull.glb")
        .hasMessageContaining("3.2 GB")
        .hasMessageContaining("Land fewer parts");
  }
}
