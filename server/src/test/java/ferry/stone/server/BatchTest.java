package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.routine.Batch;
import ferry.stone.core.routine.BatchList;
import ferry.stone.core.routine.Routines;
import ferry.stone.core.routine.RunSettings;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.http.MediaType;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** Routines and batches over the API, against what the same routine writes without a server. */
class BatchTest extends OverTheApi {
  private static final String SLAB =
      "o slab\nv 0 0 0\nv 100 0 0\nv 100 0 50\nv 0 0 50\nvn 0 1 0\nf 1//1 4//1 3//1 2//1\n";
  private static final String CRATE = SLAB.replace("o slab", "o crate");
  private static final String ROUTINE =
      """
      {"schema":1,"id":"crates","name":"Crates","unit":"cm","up":"y","shore":"y-up-metre",
       "accept":true,
       "steps":[{"kind":"scale","params":{"factor":2},"pattern":"crate"},{"kind":"ground"}],
       "landings":[{"format":"glb"},{"format":"fbx"}]}
      """;

  @TempDir static Path data;
  @TempDir Path folder;

  @DynamicPropertySource
  static void folder(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
  }

  private JsonNode bring(String routine, int status) throws Exception {
    return read(
        send(
            post("/api/routines/file").contentType(MediaType.TEXT_PLAIN).content(routine), status));
  }

  private JsonNode sent(String url, String json, int status) throws Exception {
    return read(send(post(url).contentType(MediaType.APPLICATION_JSON).content(json), status));
  }

  private void asset(String batch, String name, String obj) throws Exception {
    String crossing =
        sent("/api/batches/" + batch + "/assets", "{\"name\":\"" + name + "\"}", 201)
            .path("crossingId")
            .asText();
    send(
        put("/api/crossings/" + crossing + "/files")
            .param("path", name + ".obj")
            .contentType(MediaType.APPLICATION_OCTET_STREAM)
            .content(obj.getBytes(StandardCharsets.UTF_8)),
        200);
    send(post("/api/batches/" + batch + "/assets/" + crossing + "/run"), 202);
  }

  private JsonNode finished(String batch) throws Exception {
    Instant end = Instant.now().plus(Duration.ofSeconds(30));
    JsonNode detail;
    do {
      Thread.sleep(50);
      detail = read(send(get("/api/batches/" + batch), 200));
    } while (detail.at("/batch/working").asBoolean() && Instant.now().isBefore(end));
    return detail;
  }

  @Test
  void aBatchGivesTheVerdictsAndTheBytesOfTheSameRoutineWithoutAServer() throws Exception {
    assertThat(bring(ROUTINE, 201).path("version").asInt()).isEqualTo(1);
    String batch =
        sent("/api/batches", "{\"routine\":\"crates\",\"name\":\"Yard\"}", 201).path("id").asText();
    Map<String, String> assets = Map.of("crate", CRATE, "plain", SLAB, "junk", "no obj at all");
    for (String name : List.of("crate", "junk", "plain")) {
      asset(batch, name, assets.get(name));
      Files.writeString(folder.resolve(name + ".obj"), assets.get(name));
    }
    JsonNode detail = finished(batch);
    assertThat(detail.path("assets").findValuesAsText("verdict"))
        .containsExactly("changed", "refused", "unmatched");
    assertThat(detail.at("/assets/1/told").asText()).contains("junk.obj", "line 1");
    assertThat(detail.at("/assets/2/told").asText()).contains("No part is named \"crate\"");

    Path out = folder.resolve("out");
    var tasks = BatchList.of(List.of(folder));
    var records =
        new Batch(Routines.read(ROUTINE), new RunSettings("0.1.0", false, 2), out)
            .run(tasks, (task, record, again) -> {}, Progress.NONE);
    assertThat(records)
        .extracting(r -> r.verdict().word())
        .containsExactly("changed", "refused", "unmatched");
    Map<String, byte[]> zip =
        zip(send(get("/api/batches/" + batch + "/download"), 200).getContentAsByteArray());
    for (String file :
        List.of("crate/glb/crate.glb", "crate/fbx/crate.fbx", "plain/glb/plain.glb")) {
      assertThat(zip.get(file)).as(file).isEqualTo(Files.readAllBytes(out.resolve(file)));
    }
    assertThat(zip)
        .containsKeys("batch.html", "batch.json", "crate/crate.glb.report.html", "junk/run.json");
    assertThat(new String(zip.get("batch.html"), StandardCharsets.UTF_8))
        .contains("2 assets of 3 to look at");
  }

  private static Map<String, byte[]> zip(byte[] bytes) throws Exception {
    Map<String, byte[]> files = new HashMap<>();
    try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(bytes))) {
      for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
        files.put(entry.getName(), zip.readAllBytes());
      }
    }
    return files;
  }

  @Test
  void itsAssetsStandOnTheQuayOnceTheyAreOpened() throws Exception {
    bring(ROUTINE.replace("\"crates\"", "\"quay\""), 201);
    String batch = sent("/api/batches", "{\"routine\":\"quay\"}", 201).path("id").asText();
    asset(batch, "crate", CRATE);
    String crossing = finished(batch).at("/assets/0/crossingId").asText();
    assertThat(text(get("/api/crossings"))).doesNotContain(crossing);
    send(post("/api/batches/" + batch + "/assets/" + crossing + "/open"), 200);
    assertThat(text(get("/api/crossings"))).contains(crossing);
    assertThat(text(get("/api/crossings/" + crossing + "/handling"))).contains("\"scale\"");
    send(delete("/api/batches/" + batch), 204);
    assertThat(text(get("/api/crossings"))).contains(crossing);
    send(get("/api/batches/" + batch), 404);
  }

  private String text(
      org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder request)
      throws Exception {
    return new String(send(request, 200).getContentAsByteArray(), StandardCharsets.UTF_8);
  }

  @Test
  void aSavedRoutineHasTheStepsOfItsCrossingAndAVersionForEachSaving() throws Exception {
    String id = ready("Slab", SLAB);
    handling(id, 0, "[" + step("g", "ground", "{}") + "]", 200);
    String save =
        "{\"crossingId\":\""
            + id
            + "\",\"name\":\"My crates\",\"landings\":[{\"format\":\"glb\"}]}";
    assertThat(sent("/api/routines", save, 201).path("version").asInt()).isEqualTo(1);
    JsonNode second = sent("/api/routines", save, 201);
    assertThat(second.path("version").asInt()).isEqualTo(2);
    assertThat(second.path("id").asText()).isEqualTo("my-crates");
    String file = text(get("/api/routines/my-crates/file").param("version", "1"));
    assertThat(Routines.read(file).steps())
        .singleElement()
        .satisfies(s -> assertThat(s.kind()).isEqualTo("ground"));
    send(delete("/api/routines/my-crates"), 204);
    send(get("/api/routines/my-crates"), 404);
  }

  @Test
  void whatIsNoRoutineIsRefusedInASentence() throws Exception {
    assertThat(bring("{\"schema\":1,", 400).path("detail").asText()).contains("This is no routine");
    assertThat(bring(ROUTINE.replace("\"ground\"", "\"fly\""), 400).path("detail").asText())
        .contains("There is no step \"fly\"");
    assertThat(bring(ROUTINE.replace("\"crates\"", "\"web-room\""), 409).path("detail").asText())
        .contains("comes with the program");
    assertThat(bring(ROUTINE.replace("glb", "zzz"), 400).path("detail").asText()).contains("zzz");
  }
}
