package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.patch;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.SerializationFeature;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.http.MediaType;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** The API from upload to proof against a real database and real files. */
class ApiTest extends OverTheApi {
  private static final String OBJ =
      "o slab\nv 0 0 0\nv 100 0 0\nv 100 0 50\nv 0 0 50\nvn 0 1 0\nf 1//1 4//1 3//1 2//1\n";
  private static final String GLB =
      """
      {"format":"glb","options":{"influences":4},"transforms":"DATA","doubleSided":false}
      """;

  @TempDir static Path data;

  @DynamicPropertySource
  static void folder(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
    registry.add("ferry.max-upload-bytes", () -> 5_000_000);
  }

  @Test
  void anObjCrossesToGlbAndIsProved() throws Exception {
    String id = ready("Slab", OBJ);
    JsonNode survey = read(send(get("/api/crossings/" + id + "/survey"), 200));
    assertThat(survey.at("/inventory/quadFaces").asInt()).isEqualTo(1);
    JsonNode state =
        handling(
            id,
            0,
            "["
                + step("u", "sourceUnit", "{\"unit\":\"cm\"}")
                + ","
                + step("g", "ground", "{}")
                + "]",
            200);
    assertThat(state.path("revision").asInt()).isEqualTo(1);
    JsonNode far = read(send(get("/api/crossings/" + id + "/far"), 200));
    assertThat(far.at("/bounds/3").asDouble()).isEqualTo(1.0);
    JsonNode after = read(send(get("/api/crossings/" + id + "/far").param("after", "0"), 200));
    assertThat(after.at("/bounds/3").asDouble()).isEqualTo(100.0);
    JsonNode landing =
        read(
            send(
                post("/api/crossings/" + id + "/landings")
                    .contentType(MediaType.APPLICATION_JSON)
                    .content(GLB),
                202));
    JsonNode done = landed(landing.path("id").asText());
    assertThat(done.at("/proof/kept").asInt()).isGreaterThan(10);
    assertThat(done.path("current").asBoolean()).isTrue();
    assertThat(zipOf(id)).contains("slab/slab.gltf", "slab/slab.bin");
    byte[] glb =
        send(get("/api/landings/" + done.path("id").asText() + "/download"), 200)
            .getContentAsByteArray();
    assertThat(new String(glb, 0, 4, StandardCharsets.US_ASCII)).isEqualTo("glTF");
    for (String kind : new String[] {"csv", "html", "json"}) {
      send(get("/api/landings/" + done.path("id").asText() + "/ledger." + kind), 200);
    }
    handling(id, 1, "[]", 200);
    JsonNode stale = read(send(get("/api/landings/" + done.path("id").asText()), 200));
    assertThat(stale.path("current").asBoolean()).isFalse();
  }

  private JsonNode landed(String id) throws Exception {
    Instant end = Instant.now().plus(Duration.ofSeconds(20));
    while (Instant.now().isBefore(end)) {
      JsonNode landing = read(send(get("/api/landings/" + id), 200));
      if (!landing.path("state").asText().equals("running")) {
        assertThat(landing.path("state").asText()).as(landing.toString()).isEqualTo("done");
        return landing;
      }
      Thread.sleep(20);
    }
    throw new AssertionError("landing did not end");
  }

  /** Names in the zip of a landing of each part with its files beside it. */
  private List<String> zipOf(String id) throws Exception {
    String options =
        """
        {"format":"gltf","options":{"embedTextures":false},"transforms":"DATA",
         "parts":{"each":true,"pattern":"{part}","origin":"BASE"}}
        """;
    JsonNode landing =
        read(
            send(
                post("/api/crossings/" + id + "/landings")
                    .contentType(MediaType.APPLICATION_JSON)
                    .content(options),
                202));
    JsonNode done = landed(landing.path("id").asText());
    byte[] zip =
        send(get("/api/landings/" + done.path("id").asText() + "/download"), 200)
            .getContentAsByteArray();
    List<String> names = new ArrayList<>();
    try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(zip))) {
      for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
        names.add(entry.getName());
      }
    }
    return names;
  }

  @Test
  void theSidesSayWhatTheViewsShow() throws Exception {
    String id = ready("Sides", OBJ);
    JsonNode near = read(send(get("/api/crossings/" + id + "/near"), 200));
    assertThat(near.path("caption").asText()).contains("unit unknown");
    assertThat(near.path("heightNote").asText()).isEqualTo("tall if metres");
    assertThat(near.at("/bounds/3").asDouble()).isEqualTo(100);
    handling(id, 0, "[" + step("u", "sourceUnit", "{\"unit\":\"cm\"}") + "]", 200);
    JsonNode far = read(send(get("/api/crossings/" + id + "/far"), 200));
    assertThat(far.at("/bounds/3").asDouble()).isEqualTo(1);
    // What stands at x = 100 on the near side stands at x = 1 on the far side.
    assertThat(far.at("/fromNear/0").asDouble()).isEqualTo(0.01);
    JsonNode before = read(send(get("/api/crossings/" + id + "/far").param("after", "0"), 200));
    assertThat(before.at("/bounds/3").asDouble()).isEqualTo(100);
    String key = far.at("/nodes/0/mesh").asText();
    assertThat(key).isEqualTo(near.at("/nodes/0/mesh").asText());
    byte[] blocks =
        send(get("/api/crossings/" + id + "/meshes").param("keys", key, "gone"), 200)
            .getContentAsByteArray();
    int length = ByteBuffer.wrap(blocks).order(ByteOrder.LITTLE_ENDIAN).getInt();
    assertThat(blocks).hasSize(4 + length + 4);
    assertThat(new String(blocks, 8, 90, StandardCharsets.UTF_8)).contains("\"triangles\":2");
    byte[] pieces =
        send(get("/api/crossings/" + id + "/pieces").param("keys", key), 200)
            .getContentAsByteArray();
    assertThat(pieces).hasSize(4 + 4 * 4);
  }

  @Test
  void changesDuringReadingsAreNeverLost() throws Exception {
    String id = ready("Busy", OBJ);
    int revision = 0;
    for (int i = 0; i < 40; i++) {
      send(post("/api/crossings/" + id + "/read"), 202);
      String steps = "[" + step("r" + i, "scale", "{\"factor\":" + (i + 1) + "}") + "]";
      revision = handling(id, revision, steps, 200).path("revision").asInt();
    }
    JsonNode crossing = settled(id);
    assertThat(crossing.path("state").asText()).isEqualTo("ready");
    JsonNode kept = read(send(get("/api/crossings/" + id + "/handling"), 200));
    assertThat(kept.path("revision").asInt()).isEqualTo(revision);
    assertThat(kept.at("/steps/0/step/params/factor").asInt()).isEqualTo(40);
  }

  @Test
  void undoAndRedoAreKept() throws Exception {
    String id = ready("Undo", OBJ);
    handling(id, 0, "[" + step("a", "scale", "{\"factor\":2}") + "]", 200);
    handling(id, 1, "[" + step("a", "scale", "{\"factor\":3}") + "]", 200);
    JsonNode undone = read(send(post("/api/crossings/" + id + "/handling/undo"), 200));
    assertThat(undone.at("/steps/0/step/params/factor").asInt()).isEqualTo(2);
    assertThat(undone.path("canRedo").asBoolean()).isTrue();
    JsonNode redone = read(send(post("/api/crossings/" + id + "/handling/redo"), 200));
    assertThat(redone.at("/steps/0/step/params/factor").asInt()).isEqualTo(3);
    JsonNode conflict = handling(id, 0, "[]", 409);
    assertThat(conflict.path("detail").asText()).contains("another window");
  }

  @Test
  void wrongStepsAreRefusedInASentence() throws Exception {
    String id = ready("Wrong", OBJ);
    JsonNode problem = handling(id, 0, "[" + step("a", "scale", "{\"factor\":0}") + "]", 400);
    assertThat(problem.path("detail").asText()).contains("factor must be");
    handling(id, 0, "[" + step("a", "swim", "{}") + "]", 400);
    handling(id, 0, "{\"not\":\"a list\"}", 400);
  }

  @Test
  void badCargoFailsWithItsReasonAndCanBeMended() throws Exception {
    String id = create("Bad");
    upload(id, "a.obj", "v 0 0 0\nf 1 2 3\n".getBytes(StandardCharsets.UTF_8));
    JsonNode failed = settled(id);
    assertThat(failed.path("state").asText()).isEqualTo("failed");
    assertThat(failed.path("problem").asText()).contains("a.obj, line 2");
    send(get("/api/crossings/" + id + "/near"), 409);
    upload(id, "a.obj", OBJ.getBytes(StandardCharsets.UTF_8));
    assertThat(settled(id).path("state").asText()).isEqualTo("ready");
  }

  @Test
  void hostileInputIsRefusedAndTheServerStaysUp() throws Exception {
    String id = create("Hostile");
    send(put("/api/crossings/" + id + "/files").param("path", "../x.obj").content("x"), 422);
    send(
        put("/api/crossings/" + id + "/files")
            .param("path", "big.obj")
            .header("Content-Length", "10737418240")
            .content(new byte[6_000_000]),
        413);
    ByteArrayOutputStream zip = new ByteArrayOutputStream();
    try (ZipOutputStream out = new ZipOutputStream(zip)) {
      out.putNextEntry(new ZipEntry("../../evil.obj"));
      out.write(OBJ.getBytes(StandardCharsets.UTF_8));
    }
    upload(id, "evil.zip", zip.toByteArray());
    JsonNode failed = settled(id);
    assertThat(failed.path("problem").asText()).contains("outside its own folder");
    try (var files = Files.walk(data)) {
      assertThat(files.anyMatch(p -> p.toString().contains("evil"))).isFalse();
    }
    send(get("/api/crossings/" + id + "/textures/99"), 409);
    send(get("/api/crossings/nobody"), 404);
    send(get("/api/landings/nobody"), 404);
    assertThat(read(send(get("/api/crossings"), 200)).isArray()).isTrue();
  }

  @Test
  void otherSitesAndNamesAreKeptOut() throws Exception {
    mvc.perform(
            get("/api/crossings")
                .with(
                    r -> {
                      r.setServerName("elsewhere.example");
                      return r;
                    }))
        .andExpect(status().isForbidden());
    mvc.perform(
            post("/api/crossings")
                .header("Host", "localhost")
                .header("Origin", "http://elsewhere.example")
                .with(
                    r -> {
                      r.setServerName("localhost");
                      return r;
                    }))
        .andExpect(status().isForbidden());
  }

  @Test
  void namesCanBeChangedAndCrossingsDeleted() throws Exception {
    String id = create("First");
    send(
        patch("/api/crossings/" + id)
            .contentType(MediaType.APPLICATION_JSON)
            .content("{\"name\":\" Second \"}"),
        200);
    assertThat(read(send(get("/api/crossings/" + id), 200)).path("name").asText())
        .isEqualTo("Second");
    send(
        patch("/api/crossings/" + id)
            .contentType(MediaType.APPLICATION_JSON)
            .content("{\"name\":\"  \"}"),
        400);
    send(delete("/api/crossings/" + id), 204);
    send(get("/api/crossings/" + id), 404);
  }

  @Test
  void theCommittedApiDocumentIsTrue() throws Exception {
    JsonNode now = read(send(get("/api/openapi.json"), 200));
    String text =
        json.copy().enable(SerializationFeature.INDENT_OUTPUT).writeValueAsString(now) + "\n";
    Path committed = Path.of("../web/openapi.json");
    if (System.getenv("FERRY_WRITE_API") != null) {
      Files.writeString(committed, text);
    }
    assertThat(json.readTree(Files.readString(committed)))
        .as("run FERRY_WRITE_API=1 ./ferry test to write web/openapi.json anew")
        .isEqualTo(now);
  }
}
