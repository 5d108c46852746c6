package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.format.Formats;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.http.MediaType;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

/** Shores, surveys of both sides, kept states, comparisons, picks and forecasts over the API. */
class ShoresAndStatesTest extends OverTheApi {
  /** Two panels side by side that are not sewn, and a vertex that nothing uses. */
  private static final String PANELS =
      """
      o sail
      v 0 0 0
      v 1 0 0
      v 1 1 0
      v 0 1 0
      g left
      f 1 2 3 4
      g right
      v 1 0 0
      v 2 0 0
      v 2 1 0
      v 1 1 0
      f 5 6 7 8
      v 5 5 5
      """;

  @TempDir static Path data;

  @DynamicPropertySource
  static void folder(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
  }

  private JsonNode call(MockHttpServletRequestBuilder request, int expected) throws Exception {
    String text = send(request, expected).getContentAsString(StandardCharsets.UTF_8);
    return text.isEmpty() ? json.nullNode() : json.readTree(text);
  }

  private static MockHttpServletRequestBuilder body(
      MockHttpServletRequestBuilder request, Object content) {
    return request.contentType(MediaType.APPLICATION_JSON).content(content.toString());
  }

  private String panels() throws Exception {
    String id = call(body(post("/api/crossings"), "{\"name\":\"Sail\"}"), 201).path("id").asText();
    send(
        put("/api/crossings/" + id + "/files")
            .param("path", "sail.obj")
            .content(PANELS.getBytes(StandardCharsets.UTF_8)),
        200);
    send(post("/api/crossings/" + id + "/read"), 202);
    Instant end = Instant.now().plus(Duration.ofSeconds(20));
    while (Instant.now().isBefore(end)) {
      String state = call(get("/api/crossings/" + id), 200).path("state").asText();
      if (state.equals("ready")) {
        return id;
      }
      assertThat(state).isEqualTo("reading");
      Thread.sleep(20);
    }
    throw new AssertionError("reading did not end");
  }

  private JsonNode steps(String id, int revision, String... steps) throws Exception {
    String all = "[" + String.join(",", steps) + "]";
    return call(
        body(
            put("/api/crossings/" + id + "/handling"),
            "{\"revision\":" + revision + ",\"steps\":" + all + "}"),
        200);
  }

  private JsonNode finding(String id, String code) throws Exception {
    for (JsonNode f : call(get("/api/crossings/" + id + "/survey"), 200).path("findings")) {
      if (f.path("code").asText().equals(code)) {
        return f;
      }
    }
    return json.missingNode();
  }

  @Test
  void shoresAreMadeCopiedChangedTakenAndBrought() throws Exception {
    JsonNode all = call(get("/api/shores"), 200);
    assertThat(all.size()).isGreaterThanOrEqualTo(8);
    assertThat(all.get(0).path("builtIn").asBoolean()).isTrue();
    ObjectNode file = (ObjectNode) call(get("/api/shores/z-up-metre/file"), 200);
    file.put("name", "Weir workshop");
    JsonNode made = call(body(post("/api/shores"), file), 201);
    assertThat(made.path("shore").path("id").asText()).isEqualTo("weir-workshop");
    assertThat(made.path("builtIn").asBoolean()).isFalse();
    ((ObjectNode) file.path("budgets")).put("triangles", 1);
    JsonNode changed = call(body(put("/api/shores/weir-workshop"), file), 200);
    assertThat(changed.path("shore").path("budgets").path("triangles").asInt()).isEqualTo(1);
    JsonNode second = call(body(post("/api/shores"), file), 201);
    assertThat(second.path("shore").path("id").asText()).isEqualTo("weir-workshop-2");
    send(delete("/api/shores/weir-workshop-2"), 204);
    send(get("/api/shores/weir-workshop-2"), 404);
    // Built-in ones stay as they are, and what does not fit is refused in a sentence.
    send(delete("/api/shores/z-up-metre"), 409);
    send(body(put("/api/shores/z-up-metre"), file), 409);
    // A member that nobody knows is no choice: it is named, with those that there are.
    ObjectNode odd = file.deepCopy();
    odd.put("frames", 1);
    assertThat(call(body(post("/api/shores"), odd), 400).path("detail").asText())
        .contains("\"frames\" is no member")
        .contains("budgets");
    file.put("name", "");
    assertThat(call(body(post("/api/shores"), file), 400).path("detail").asText())
        .contains("1 to 80");
    ((ObjectNode) file.path("frame")).put("front", "PLUS_Z");
    file.put("name", "Wrong");
    assertThat(call(body(post("/api/shores"), file), 400).path("detail").asText())
        .contains("one axis");
    JsonNode schema = call(get("/api/shores/schema"), 200);
    List<String> names = new ArrayList<>();
    call(get("/api/shores/z-up-metre/file"), 200).fieldNames().forEachRemaining(names::add);
    List<String> published = new ArrayList<>();
    schema.path("properties").fieldNames().forEachRemaining(published::add);
    assertThat(published).containsExactlyInAnyOrderElementsOf(names);

    // A crossing is held against its shore, which the next crossing remembers.
    String id = panels();
    assertThat(finding(id, "over-triangles").isMissingNode()).isTrue();
    call(body(put("/api/crossings/" + id + "/shore"), "{\"shore\":\"weir-workshop\"}"), 200);
    assertThat(finding(id, "over-triangles").path("measured").asText()).contains("of 1");
    assertThat(call(get("/api/crossings/" + panels() + "/survey"), 200).path("farShore").asText())
        .isEqualTo("weir-workshop");
    send(body(put("/api/crossings/" + id + "/shore"), "{\"shore\":\"none\"}"), 404);
    send(delete("/api/shores/weir-workshop"), 204);
    assertThat(call(get("/api/crossings/" + id + "/survey"), 200).path("farShore").asText())
        .isEqualTo("y-up-metre");
  }

  @Test
  void findingsAreAnsweredByWhatTheFarSideIsLike() throws Exception {
    String id = panels();
    assertThat(finding(id, "coincident-vertices").path("state").asText()).isEqualTo("open");
    assertThat(finding(id, "unused-vertices").path("state").asText()).isEqualTo("open");
    JsonNode offer = finding(id, "coincident-vertices").path("offers").get(0);
    JsonNode state =
        steps(id, 0, step("a", offer.path("kind").asText(), offer.path("params").toString()));
    assertThat(state.path("steps").get(0).path("figure").asText()).isEqualTo("2 vertices joined");
    assertThat(finding(id, "coincident-vertices").path("state").asText()).isEqualTo("answered");
    assertThat(finding(id, "unused-vertices").path("state").asText()).isEqualTo("open");
    assertThat(finding(id, "open-edges").path("measured").asText()).isEqualTo("8 edges → 6 edges");
    // A step that brings something about is told too, with marks.
    steps(id, 1, step("b", "scale", "{\"factor\":1}"), step("c", "flip", "{}"));
    JsonNode readings = call(get("/api/crossings/" + id + "/survey"), 200);
    assertThat(readings.path("units").size()).isGreaterThan(3);
    assertThat(readings.path("ups").size()).isEqualTo(6);
    int index = finding(id, "unused-vertices").path("index").asInt();
    JsonNode marks = call(get("/api/crossings/" + id + "/survey/" + index + "/marks"), 200);
    assertThat(marks.path("points").size()).isEqualTo(3);
    send(get("/api/crossings/" + id + "/survey/99/marks"), 404);
  }

  @Test
  void statesAreKeptComparedAndReturnedTo() throws Exception {
    String id = panels();
    steps(id, 0, step("a", "remove", "{\"what\":\"unusedVertices\"}"));
    JsonNode kept =
        call(body(post("/api/crossings/" + id + "/states"), "{\"name\":\"lean\"}"), 201);
    String lean = kept.get(0).path("id").asText();
    steps(
        id,
        1,
        step("a", "remove", "{\"what\":\"unusedVertices\"}"),
        step("b", "scale", "{\"factor\":2}"));
    String both = "/api/crossings/" + id + "/compare";
    JsonNode rows = call(get(both).param("a", "named:" + lean).param("b", "now"), 200);
    JsonNode width = row(rows, "Width");
    assertThat(width.path("near").asText()).isEqualTo("2 m");
    assertThat(width.path("far").asText()).isEqualTo("4 m");
    JsonNode same = call(get(both).param("a", "after:1").param("b", "named:" + lean), 200);
    assertThat(row(same, "Width").path("verdict").asText()).isEqualTo("KEPT");
    JsonNode side = call(get("/api/crossings/" + id + "/sides").param("ref", "named:" + lean), 200);
    assertThat(side.path("nodes").size()).isGreaterThan(0);
    send(get("/api/crossings/" + id + "/sides").param("ref", "never"), 400);
    send(get("/api/crossings/" + id + "/sides").param("ref", "named:gone"), 404);
    JsonNode back = call(post("/api/crossings/" + id + "/states/" + lean + "/restore"), 200);
    assertThat(back.path("steps").size()).isEqualTo(1);
    assertThat(back.path("canUndo").asBoolean()).isTrue();
    assertThat(call(post("/api/crossings/" + id + "/handling/undo"), 200).path("steps").size())
        .isEqualTo(2);
    send(body(post("/api/crossings/" + id + "/states"), "{\"name\":\" \"}"), 400);
    send(body(post("/api/crossings/" + id + "/states"), "{\"name\":\"lean\"}"), 400);
    assertThat(call(delete("/api/crossings/" + id + "/states/" + lean), 200).size()).isZero();
  }

  private static JsonNode row(JsonNode rows, String fact) {
    for (JsonNode r : rows.path("rows")) {
      if (r.path("fact").asText().equals(fact)) {
        return r;
      }
    }
    throw new AssertionError(fact + " not in " + rows);
  }

  @Test
  void deviationsAndPicksAreMeasured() throws Exception {
    String id = panels();
    steps(id, 0, step("a", "scale", "{\"factor\":2}"));
    JsonNode near = call(get("/api/crossings/" + id + "/near"), 200);
    JsonNode part = null;
    for (JsonNode node : near.path("nodes")) {
      part = node.path("mesh").asText().isEmpty() ? part : node;
    }
    byte[] bytes =
        send(
                get("/api/crossings/" + id + "/deviation")
                    .param("a", "near")
                    .param("b", "now")
                    .param("parts", part.path("id").asText()),
                200)
            .getContentAsByteArray();
    ByteBuffer numbers = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
    int length = numbers.getInt();
    assertThat(length).isEqualTo(bytes.length - 4);
    float most = 0;
    for (int i = 0; i < length / 4; i++) {
      most = Math.max(most, numbers.getFloat());
    }
    // The corner (2, 1) goes to (4, 2): √5 away.
    assertThat(most).isCloseTo((float) Math.sqrt(5), org.assertj.core.data.Offset.offset(1e-5f));
    JsonNode pick =
        call(
            get("/api/crossings/" + id + "/pick")
                .param("mesh", part.path("mesh").asText())
                .param("primitive", "0")
                .param("triangle", "0")
                .param("point", "0.9,0.1,0"),
            200);
    assertThat(pick.path("face").asInt()).isZero();
    assertThat(pick.path("vertex").asInt()).isEqualTo(1);
    send(
        get("/api/crossings/" + id + "/pick")
            .param("mesh", part.path("mesh").asText())
            .param("primitive", "0")
            .param("triangle", "999")
            .param("point", "0,0,0"),
        400);
  }

  @Test
  void forecastAndAtlasSpeakOfTheSameTables() throws Exception {
    String id = panels();
    String glb =
        """
        {"format":"glb","options":{"influences":4}}
        """;
    JsonNode items = call(body(post("/api/crossings/" + id + "/forecast"), glb), 200).path("items");
    JsonNode atlas = call(get("/api/atlas"), 200);
    assertThat(atlas.path("formats").size()).isEqualTo(Formats.tables().size());
    List<String> lost = new ArrayList<>();
    for (JsonNode item : items) {
      String capability = item.path("capability").asText();
      for (JsonNode row : atlas.path("rows")) {
        if (row.path("capability").asText().equals(capability)) {
          assertThat(row.path("formats").get(0).path("written").asText())
              .isEqualTo(item.path("fate").asText());
        }
      }
      lost.add(capability);
    }
    assertThat(lost).contains("POLYGONS", "FACE_SETS");
  }
}
