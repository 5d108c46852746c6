package ferry.stone.core.report;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.proof.pair.PairProof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** One page that needs nothing else, with what differs, where, and the files it is about. */
class ReportTest {
  private static final String PLANK = "o plank<1>\nv 0 0 0\nv 2 0 0\nv 2 1 0\nv 0 1 0\nf 1 2 3 4\n";

  private static ReportSide side(String label, String obj) throws Exception {
    TestFiles files = new TestFiles().with("plank.obj", obj);
    Scene scene = CargoReader.read("plank", ReadContext.of(files));
    return new ReportSide(label, scene, files, ReportSide.facts(files, List.of("plank.obj")));
  }

  private static String page(String first, String second) throws Exception {
    ReportSide a = side("first", first);
    ReportSide b = side("second", second);
    Proof proof =
        PairProof.of(
            new PairProof.Side(a.scene(), a.files(), "a"),
            new PairProof.Side(b.scene(), b.files(), "b"),
            PairProof.How.USUAL,
            Progress.NONE);
    return new Report(
            Report.Kind.PAIR,
            "Planks",
            "made <now>",
            proof,
            a,
            b,
            new Report.Against(a.scene(), PairProof.How.USUAL),
            Map.of("Stands", "as it is"))
        .html(Progress.NONE);
  }

  private static List<Pixels> pictures(String page) throws Exception {
    List<Pixels> all = new ArrayList<>();
    Matcher found = Pattern.compile("base64,([^\"]+)\"").matcher(page);
    while (found.find()) {
      all.add(ImageCodec.decode(Base64.getDecoder().decode(found.group(1)), "picture.png"));
    }
    return all;
  }

  @Test
  void equalFilesAreSaidToBeTheSameWithFourPicturesOfEach() throws Exception {
    String page = page(PLANK, PLANK);
    assertThat(page)
        .contains("Everything that was compared is the same.")
        .contains("made &lt;now&gt;", "plank&lt;1&gt;")
        .doesNotContain("Where they lie apart", "What is not as it was")
        .doesNotContain("http://", "https://", "<script");
    List<Pixels> pictures = pictures(page);
    assertThat(pictures).hasSize(8);
    for (int i = 0; i < 8; i += 2) {
      assertThat(pictures.get(i + 1).argb()).isEqualTo(pictures.get(i).argb());
    }
  }

  @Test
  void filesStandWithTheirHashes() throws Exception {
    MessageDigest digest = MessageDigest.getInstance("SHA-256");
    byte[] bytes = PLANK.getBytes(StandardCharsets.UTF_8);
    String hash = HexFormat.of().formatHex(digest.digest(bytes));
    assertThat(page(PLANK, PLANK)).contains("plank.obj", hash, "Stands", "as it is");
  }

  @Test
  void whereTheyLieApartIsDrawnInItsColours() throws Exception {
    String page = page(PLANK, PLANK.replace("v 2 1 0", "v 2 1 0.5"));
    assertThat(page)
        .contains("What is not as it was", "Where they lie apart", "Up to 0.5 m")
        .contains("<th>First</th><th>Second</th>");
    List<Pixels> pictures = pictures(page);
    assertThat(pictures).hasSize(12);
    int vermilion = 0;
    int pale = 0;
    for (int pixel : pictures.get(8).argb()) {
      int red = pixel >> 16 & 255;
      int blue = pixel & 255;
      vermilion += pixel >>> 24 == 255 && red > 2 * blue ? 1 : 0;
      pale += pixel >>> 24 == 255 && Math.abs(red - blue) < 12 ? 1 : 0;
    }
    assertThat(vermilion).isPositive();
    assertThat(pale).isPositive();
  }
}
