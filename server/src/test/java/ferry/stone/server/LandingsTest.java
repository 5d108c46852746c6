package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.http.HttpHeaders;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** Landings over the API: every format, what is refused, downloads, ledgers, deletion. */
class LandingsTest extends OverTheApi {
  private static final String CRATE =
      "o crate\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\n"
          + "f 1/1 2/2 3/3 4/4\no lid\nv 0 0 1\nv 1 0 1\nv 1 1 1\nf 5/1 6/2 7/3\n";

  @TempDir static Path data;

  @DynamicPropertySource
  static void folder(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
  }

  static Stream<String> formats() {
    return Formats.written().stream()
        .map(Format::key)
        .filter(k -> !k.equals("mdd") && !k.equals("pc2"));
  }

  private JsonNode land(String id, String options, int expected) throws Exception {
    return sent(post("/api/crossings/" + id + "/landings"), options, expected);
  }

  private JsonNode done(JsonNode landing) throws Exception {
    return left("/api/landings/" + landing.path("id").asText(), "running");
  }

  private JsonNode landed(String id, String options) throws Exception {
    JsonNode landing = done(land(id, options, 202));
    assertThat(landing.path("state").asText()).as(landing.toString()).isEqualTo("done");
    return landing;
  }

  private MockHttpServletResponse download(JsonNode landing) throws Exception {
    return send(get("/api/landings/" + landing.path("id").asText() + "/download"), 200);
  }

  @ParameterizedTest
  @MethodSource("formats")
  void everyFormatLandsAndIsProved(String format) throws Exception {
    String id = ready("Crate", CRATE);
    JsonNode landing = landed(id, "{\"format\":\"" + format + "\"}");
    assertThat(landing.at("/proof/kept").asInt()).isPositive();
    assertThat(landing.at("/proof/rows")).isNotEmpty();
    assertThat(landing.at("/options/format").asText()).isEqualTo(format);
    byte[] bytes = download(landing).getContentAsByteArray();
    assertThat(bytes.length).isGreaterThan(50);
    JsonNode file = landing.at("/files/0");
    assertThat(file.path("blob").asText()).matches("[0-9a-f]{64}");
    assertThat(landing.path("mainFile").asText()).startsWith("Crate.");
    JsonNode list = read(send(get("/api/crossings/" + id + "/landings"), 200));
    assertThat(list.get(0).path("id").asText()).isEqualTo(landing.path("id").asText());
    for (String fact :
        List.of("file", "bytes", "readSeconds", "kept", "changed", "lost", "beyond")) {
      assertThat(list.get(0).path("proof").path(fact)).isEqualTo(landing.path("proof").path(fact));
    }
    assertThat(list.get(0).path("proof").has("rows")).isFalse();
  }

  @Test
  void rowsAreAskedForAsTheyAreLookedAt() throws Exception {
    JsonNode landing = landed(ready("Crate", CRATE), "{\"format\":\"glb\"}");
    String path = "/api/landings/" + landing.path("id").asText();
    JsonNode two = read(send(get(path + "/rows?count=2"), 200));
    assertThat(two.path("rows")).hasSize(2);
    assertThat(two.path("fitting").asInt()).isEqualTo(landing.at("/proof/rows").size());
    assertThat(two.path("kept").asInt()).isEqualTo(landing.at("/proof/kept").asInt());
    JsonNode height = read(send(get(path + "/rows?find=height&verdict=KEPT"), 200));
    assertThat(height.at("/rows/0/fact").asText()).isEqualTo("Height");
    send(delete(path), 204);
    send(get(path + "/rows"), 404);
  }

  @Test
  void whatCannotLandIsRefusedInASentence() throws Exception {
    String id = ready("Crate", CRATE);
    assertThat(land(id, "{\"format\":\"paper\"}", 400).path("detail").asText())
        .contains("format must be one of", "glb", "paper");
    assertThat(
            land(id, "{\"format\":\"glb\",\"options\":{\"influences\":3}}", 400)
                .path("detail")
                .asText())
        .contains("multiple of 4");
    assertThat(
            land(id, "{\"format\":\"glb\",\"options\":{\"colour\":1}}", 400)
                .path("detail")
                .asText())
        .contains("\"colour\"");
    assertThat(land(id, "{\"format\":\"glb\",\"shape\":1}", 400).path("detail").asText())
        .contains("\"shape\"");
    land("nobody", "{\"format\":\"glb\"}", 404);
    assertThat(read(send(get("/api/crossings/" + id + "/landings"), 200))).isEmpty();
  }

  @Test
  void aCargoThatIsNotReadCannotLand() throws Exception {
    String id = create("Empty");
    land(id, "{\"format\":\"glb\"}", 409);
  }

  @Test
  void oneFileComesAsItselfSeveralAsAZip() throws Exception {
    String id = ready("Crate", CRATE);
    MockHttpServletResponse glb = download(landed(id, "{\"format\":\"glb\"}"));
    assertThat(glb.getContentType()).isEqualTo("model/gltf-binary");
    assertThat(glb.getHeader(HttpHeaders.CONTENT_DISPOSITION)).contains("Crate.glb");
    assertThat(glb.getHeader(HttpHeaders.CONTENT_LENGTH))
        .isEqualTo(String.valueOf(glb.getContentAsByteArray().length));
    MockHttpServletResponse gltf = download(landed(id, "{\"format\":\"gltf\"}"));
    assertThat(gltf.getContentType()).isEqualTo("application/zip");
    assertThat(entries(gltf.getContentAsByteArray())).containsExactly("Crate.bin", "Crate.gltf");
    MockHttpServletResponse parts =
        download(
            landed(
                id,
                "{\"format\":\"glb\",\"parts\":{\"each\":true,\"pattern\":\"{number}_{part}\","
                    + "\"origin\":\"BASE\"}}"));
    assertThat(entries(parts.getContentAsByteArray()))
        .hasSize(2)
        .allMatch(name -> name.matches("0*[12]_(crate|lid)\\.glb"));
  }

  private static List<String> entries(byte[] zip) throws Exception {
    List<String> names = new ArrayList<>();
    try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(zip))) {
      for (var entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
        names.add(entry.getName());
      }
    }
    names.sort(null);
    return names;
  }

  @Test
  void theLedgerComesAsTableAsPageAndAsNumbers() throws Exception {
    String id = ready("Crate <1>", CRATE);
    JsonNode landing = landed(id, "{\"format\":\"glb\"}");
    String path = "/api/landings/" + landing.path("id").asText() + "/ledger.";
    String csv = send(get(path + "csv"), 200).getContentAsString(StandardCharsets.UTF_8);
    assertThat(csv.lines().count()).isEqualTo(1 + landing.at("/proof/rows").size());
    assertThat(csv.lines().findFirst().orElseThrow()).startsWith("Group,Fact").contains("Verdict");
    String html = send(get(path + "html"), 200).getContentAsString(StandardCharsets.UTF_8);
    assertThat(html).contains("Crate &lt;1&gt;").doesNotContain("Crate <1>");
    JsonNode json = read(send(get(path + "json"), 200));
    assertThat(json.path("rows")).hasSameSizeAs(landing.at("/proof/rows"));
    assertThat(json.path("schema").asInt()).isEqualTo(3);
    send(get(path + "pdf"), 404);
  }

  @ParameterizedTest
  @ValueSource(strings = {"{\"format\":\"glb\"}", "{\"format\":\"obj\",\"parts\":{\"each\":true}}"})
  void theReportHasPicturesOfBothSidesAndTheHashesOfAllFiles(String options) throws Exception {
    String id = ready("Crate <1>", CRATE);
    JsonNode landing = landed(id, options);
    String path = "/api/landings/" + landing.path("id").asText() + "/report.html";
    String page = send(get(path), 200).getContentAsString(StandardCharsets.UTF_8);
    assertThat(page.split("data:image/png;base64,")).hasSizeGreaterThanOrEqualTo(9);
    assertThat(page).contains("Crate &lt;1&gt; as", "All facts", "Shore").doesNotContain("<1>");
    for (JsonNode file : landing.path("files")) {
      assertThat(page).contains(file.path("blob").asText(), file.path("path").asText());
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"{\"format\":\"glb\"}", "{\"format\":\"obj\",\"parts\":{\"each\":true}}"})
  void aPageToHandOverHoldsWhatLandedOrBothSides(String options) throws Exception {
    String id = ready("Crate <1>", CRATE);
    String path = "/api/landings/" + landed(id, options).path("id").asText() + "/page.html";
    MockHttpServletResponse alone = send(get(path), 200);
    assertThat(alone.getHeader(HttpHeaders.CONTENT_DISPOSITION)).contains(".page.html");
    String page = alone.getContentAsString(StandardCharsets.UTF_8);
    assertThat(page).contains("data-side=\"0\"").doesNotContain("data-side=\"1\"", "<1>");
    assertThat(page.length()).as("the script and a small asset").isBetween(400_000, 1_000_000);
    String both = send(get(path).param("of", "PROOF"), 200).getContentAsString();
    assertThat(both).contains("data-side=\"0\"", "data-side=\"1\"", "\"kept\":");
    assertThat(read(send(get(path).param("of", "half"), 400)).path("detail").asText())
        .contains("ASSET", "PROOF");
  }

  @Test
  void aLandingThatIsDeletedIsGone() throws Exception {
    String id = ready("Crate", CRATE);
    JsonNode first = landed(id, "{\"format\":\"glb\"}");
    JsonNode second = landed(id, "{\"format\":\"obj\"}");
    send(delete("/api/landings/" + first.path("id").asText()), 204);
    send(get("/api/landings/" + first.path("id").asText()), 404);
    send(get("/api/landings/" + first.path("id").asText() + "/download"), 404);
    JsonNode rest = read(send(get("/api/crossings/" + id + "/landings"), 200));
    assertThat(rest).hasSize(1);
    assertThat(rest.get(0).path("id").asText()).isEqualTo(second.path("id").asText());
    download(second);
    send(delete("/api/crossings/" + id), 204);
    send(get("/api/landings/" + second.path("id").asText()), 404);
  }

  @Test
  void theSummaryOfACrossingTellsOfItsLastLanding() throws Exception {
    String id = ready("Crate", CRATE);
    assertThat(read(send(get("/api/crossings/" + id), 200)).at("/summary/kept").asInt())
        .isEqualTo(-1);
    JsonNode landing = landed(id, "{\"format\":\"stl\"}");
    JsonNode summary = read(send(get("/api/crossings/" + id), 200)).path("summary");
    assertThat(summary.path("kept").asInt()).isEqualTo(landing.at("/proof/kept").asInt());
    assertThat(summary.path("lost").asInt()).isEqualTo(landing.at("/proof/lost").asInt());
    assertThat(summary.path("landed").asText()).containsIgnoringCase("stl");
  }

  @Test
  void theForecastSpeaksOfTheLandingThatIsAsked() throws Exception {
    String id = ready("Crate", CRATE);
    JsonNode stl = sent(post("/api/crossings/" + id + "/forecast"), "{\"format\":\"stl\"}", 200);
    assertThat(stl.toString()).contains("UVs");
    JsonNode landing = landed(id, "{\"format\":\"stl\"}");
    long told = 0;
    for (JsonNode row : landing.at("/proof/rows")) {
      told += row.path("verdict").asText().equals("LOST") ? 1 : 0;
    }
    assertThat(told).isPositive();
  }

  @Test
  void stepsGoIntoTheLanding() throws Exception {
    String id = ready("Crate", CRATE);
    handling(id, 0, "[" + step("s", "scale", "{\"factor\":10}") + "]", 200);
    JsonNode landing = landed(id, "{\"format\":\"obj\"}");
    byte[] zip = download(landing).getContentAsByteArray();
    String text = new String(zip, StandardCharsets.ISO_8859_1);
    boolean one = landing.path("files").size() == 1;
    assertThat(one ? text : unzipped(zip, "Crate.obj")).contains("v 10 ");
  }

  private static String unzipped(byte[] zip, String name) throws Exception {
    try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(zip))) {
      for (var entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
        if (entry.getName().equals(name)) {
          return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
      }
    }
    throw new AssertionError(name + " is not in the zip");
  }

  /** The page sends back what a shore asks for: nothing of it may be refused. */
  @Test
  void whatEachShoreAsksForIsTakenBack() throws Exception {
    String id = ready("Plank", "o plank\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    for (JsonNode view : read(send(get("/api/shores"), 200))) {
      String shore = view.at("/shore/id").asText();
      for (Format format : Formats.written()) {
        String asked =
            send(get("/api/shores/" + shore + "/landing").param("format", format.key()), 200)
                .getContentAsString();
        sent(post("/api/crossings/" + id + "/forecast"), asked, 200);
      }
    }
  }
}
