package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** Two crossings held against each other over the API. */
class PairTest extends OverTheApi {
  private static final String SLAB =
      "o slab\nv 0 0 0\nv 4 0 0\nv 4 0 2\nv 0 0 2\nvn 0 1 0\nf 1//1 4//1 3//1 2//1\n";

  @TempDir static Path data;

  @DynamicPropertySource
  static void folder(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
  }

  private static MockHttpServletRequestBuilder pair(String first, String second) {
    return get("/api/pairs").param("first", first).param("second", second);
  }

  private static JsonNode row(JsonNode compared, String fact) {
    for (JsonNode row : compared.at("/proof/rows")) {
      if (row.path("fact").asText().equals(fact) && !row.path("verdict").asText().equals("KEPT")) {
        return row;
      }
    }
    throw new AssertionError("no difference in " + fact + ": " + compared);
  }

  @Test
  void oneVertexThatMovedByAMillimetreIsFoundAndTheSameIsTheSame() throws Exception {
    String a = ready("Slab", SLAB);
    String b = ready("Slab again", SLAB);
    String c = ready("Slab bent", SLAB.replace("v 4 0 2", "v 4 0.001 2"));
    JsonNode same = read(send(pair(a, b), 200));
    assertThat(same.at("/proof/changed").asInt() + same.at("/proof/lost").asInt()).isZero();
    assertThat(same.at("/firstParts/0").asText()).isEqualTo("slab");
    JsonNode bent = read(send(pair(a, c), 200));
    assertThat(row(bent, "Surface distance, largest").path("differs").asText())
        .isEqualTo("1.000 mm");
    byte[] page =
        send(get("/api/pairs/report.html").param("first", a).param("second", c), 200)
            .getContentAsByteArray();
    assertThat(new String(page, StandardCharsets.UTF_8)).contains("Slab bent against Slab");
    String seam =
        send(get("/api/pairs/page.html").param("first", a).param("second", c), 200)
            .getContentAsString();
    assertThat(seam).contains("data-side=\"1\"", "Surface distance, largest");
  }

  @Test
  void whereTheyLieApartIsAPictureAndAShoreSaysWhatMayDiffer() throws Exception {
    String a = ready("Slab", SLAB);
    String c = ready("Slab bent", SLAB.replace("v 4 0 2", "v 4 0.00003 2"));
    var asked = get("/api/pairs/apart.png").param("first", a).param("second", c);
    for (String part : new String[] {"", "slab", "gone"}) {
      Pixels drawn =
          ImageCodec.decode(
              send(asked.param("part", part), 200).getContentAsByteArray(), "apart.png");
      assertThat(drawn.width()).isEqualTo(480);
      // The bent corner is vermilion, the three that lie where they lay are pale.
      assertThat(Arrays.stream(drawn.argb()).filter(p -> isRed(p)).count()).isPositive();
      assertThat(Arrays.stream(drawn.argb()).filter(p -> p != 0 && !isRed(p)).count()).isPositive();
    }
    JsonNode told = read(send(pair(a, c), 200)).path("proof");
    assertThat(told.path("within").asInt()).isZero();
    JsonNode judged = read(send(pair(a, c).param("shore", "z-up-millimetre"), 200)).path("proof");
    assertThat(judged.path("beyond").asInt()).isPositive();
    send(get("/api/pairs/apart.png").param("first", a), 400);
    send(asked.param("width", "100000"), 400);
  }

  private static boolean isRed(int argb) {
    return (argb >> 16 & 255) - (argb >> 8 & 255) > 60 && (argb >> 16 & 255) - (argb & 255) > 60;
  }

  @Test
  void anAssetIsHeldAgainstTheFarSideItCameFrom() throws Exception {
    String a = ready("Slab", SLAB);
    handling(a, 0, "[" + step("s", "scale", "{\"factor\":2}") + "]", 200);
    String twice =
        ready(
            "Slab twice",
            SLAB.replace(" 4", " 8")
                .replace(" 2\n", " 4\n")
                .replace("f 1//1 8//1 3//1 2//1", "f 1//1 4//1 3//1 2//1"));
    JsonNode near = read(send(pair(a, twice), 200));
    assertThat(row(near, "Width").path("differs").asText()).isEqualTo("4000.000 mm");
    JsonNode far = read(send(pair(a, twice).param("firstState", "now"), 200));
    assertThat(far.at("/proof/lost").asInt()).isZero();
    assertThat(far.at("/proof/rows/1/verdict").asText()).isEqualTo("KEPT");
  }

  @Test
  void aMatchThatIsNotThereIsRefused() throws Exception {
    String a = ready("Slab", SLAB);
    JsonNode refused = read(send(pair(a, a).param("match", "{\"slab\":\"crate\"}"), 400));
    assertThat(refused.path("detail").asText()).contains("a part that is not there");
    assertThat(read(send(pair(a, a).param("match", "slab"), 400)).path("detail").asText())
        .contains("JSON object");
    send(pair(a, "gone"), 404);
    send(pair(a, a).param("secondState", "tomorrow"), 400);
  }
}
