package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.request.MockMvcRequestBuilders;

/** Bindings of a look: shown with their reasons, corrected by hand, taken along as a table. */
class LooksTest extends OverTheApi {
  @TempDir static Path data;

  @DynamicPropertySource
  static void settings(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.resolve("ferry").toString());
  }

  private static final String OBJ =
      """
      mtllib looks.mtl
      v 0 0 0
      v 1 0 0
      v 1 1 0
      v 0 1 0
      v 2 0 0
      v 2 1 0
      o hull
      usemtl oak
      f 1 2 3 4
      usemtl tar
      f 2 5 6 3
      v 0 0 5
      v 1 0 5
      v 1 1 5
      v 0 1 5
      v 2 0 5
      v 2 1 5
      o take
      g planks
      f 7 8 9
      f 7 9 10
      g keel
      f 8 11 12 9
      """;

  private static int node(JsonNode near, String name) {
    for (JsonNode node : near.get("nodes")) {
      if (node.get("name").asText().equals(name)) {
        return node.get("id").asInt();
      }
    }
    throw new AssertionError("no part " + name);
  }

  /** A step that puts the look of the hull on the take. */
  private JsonNode put(String id, int least) throws Exception {
    JsonNode near = read(send(get("/api/crossings/" + id + "/near"), 200));
    int hull = node(near, "hull");
    String params = "{\"look\":" + hull + ",\"bindings\":\"\",\"least\":" + least + "}";
    String step = step("a", "putLook", params).replace("[]", "[" + node(near, "take") + "]");
    return handling(id, 0, "[" + step + "]", 200);
  }

  private String text(String path) throws Exception {
    return send(get(path), 200).getContentAsString();
  }

  private JsonNode looks(String id) throws Exception {
    return read(send(get("/api/crossings/" + id + "/looks/a"), 200));
  }

  private JsonNode bind(String id, int revision, String key, String material, int wanted)
      throws Exception {
    ObjectNode body = json.createObjectNode();
    body.put("revision", revision).put("key", key).put("path", "take").put("material", material);
    return sent(
        MockMvcRequestBuilders.put("/api/crossings/" + id + "/looks/a"), body.toString(), wanted);
  }

  private static JsonNode row(JsonNode table, String key) {
    for (JsonNode row : table.get("rows")) {
      if (row.get("key").asText().equals(key)) {
        return row;
      }
    }
    throw new AssertionError("no row " + key + " in " + table);
  }

  @Test
  void bindingsAreShownCorrectedAndTakenAlong() throws Exception {
    String id = ready("Looks", OBJ);
    JsonNode state = put(id, 100);
    JsonNode table = looks(id);
    assertThat(table.get("materials").findValuesAsText("name")).containsExactly("oak", "tar");
    assertThat(row(table, "planks").get("how").asText()).isEqualTo("not bound");
    JsonNode bound = bind(id, state.get("revision").asInt(), "planks", "oak", 200);
    JsonNode planks = row(looks(id), "planks");
    assertThat(planks.get("material").asText()).isEqualTo("oak");
    assertThat(planks.get("hand").asBoolean()).isTrue();
    assertThat(planks.get("faces").asInt()).isEqualTo(2);
    // It is kept with the step, and undone like any other change.
    assertThat(bound.at("/steps/0/step/params/bindings").asText()).isEqualTo("planks @ take = oak");
    assertThat(bound.at("/steps/0/figure").asText()).startsWith("1 set bound");
    bind(id, state.get("revision").asInt(), "keel", "tar", 409);
    JsonNode freed = bind(id, bound.get("revision").asInt(), "planks", null, 200);
    assertThat(freed.at("/steps/0/step/params/bindings").asText()).isEmpty();
    assertThat(freed.get("canUndo").asBoolean()).isTrue();
  }

  @Test
  void aFaceTellsItsRowAndWhatIsNotThereIsSaid() throws Exception {
    String id = ready("Rows", OBJ);
    send(get("/api/crossings/" + id + "/looks/a"), 404);
    put(id, 0);
    JsonNode near = read(send(get("/api/crossings/" + id + "/near"), 200));
    String row = "/api/crossings/" + id + "/looks/a/row?node=";
    JsonNode rows = looks(id).get("rows");
    for (int face = 0; face < 3; face++) {
      int at = Integer.parseInt(text(row + node(near, "take") + "&face=" + face));
      assertThat(rows.get(at).get("set").asText()).isEqualTo(face < 2 ? "planks" : "keel");
    }
    assertThat(text(row + node(near, "hull") + "&face=0")).isEqualTo("-1");
    assertThat(text(row + "77&face=0")).isEqualTo("-1");
    assertThat(text("/api/crossings/" + id + "/looks/a/table.csv"))
        .startsWith("\"Part\",\"Set of faces\"")
        .contains("\"planks\",\"2\"");
    assertThat(text("/api/crossings/" + id + "/looks/a/table.html")).contains("<td>keel</td>");
    send(get("/api/crossings/" + id + "/looks/a/table.pdf"), 404);
  }
}
