package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.server.crossing.SceneService;
import ferry.stone.server.store.Rows;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** Saved steps mean the same parts after files were added and the cargo was read again. */
class PartsReadAnewTest extends OverTheApi {
  private static final String FACE = "v 0 0 0\nv 1 0 0\nv 0 1 0\nf -3 -2 -1\n";

  @TempDir static Path data;
  @Autowired Rows rows;
  @Autowired SceneService scenes;

  @DynamicPropertySource
  static void folder(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
  }

  private JsonNode near(String id) throws Exception {
    return read(send(get("/api/crossings/" + id + "/near"), 200));
  }

  private static int idOf(JsonNode side, String name) {
    for (JsonNode node : side.path("nodes")) {
      if (node.path("name").asText().equals(name)) {
        return node.path("id").asInt();
      }
    }
    throw new AssertionError(name + " is not in " + side.path("nodes"));
  }

  private List<String> far(String id) throws Exception {
    List<String> names = new ArrayList<>();
    read(send(get("/api/crossings/" + id + "/far"), 200))
        .path("nodes")
        .forEach(n -> names.add(n.path("name").asText()));
    return names;
  }

  private static String remove(int nodeId) {
    return "{\"id\":\"r\",\"kind\":\"remove\",\"params\":{\"what\":\"parts\"},\"enabled\":true,"
        + "\"nodeIds\":["
        + nodeId
        + "]}";
  }

  @Test
  void aSecondFileDoesNotTurnTheStepToAnotherPart() throws Exception {
    String obj = "mtllib b.mtl\no beam\n" + FACE + "o post\n" + FACE;
    String id = ready("Weir", obj);
    int beam = idOf(near(id), "beam");
    JsonNode state = handling(id, 0, "[" + remove(beam) + "]", 200);
    assertThat(state.at("/steps/0/step/nodeIds")).isEmpty();
    assertThat(state.at("/steps/0/step/parts/0/path").asText()).isEqualTo("beam");
    assertThat(state.at("/steps/0/nodeIds/0").asInt()).isEqualTo(beam);
    assertThat(far(id)).containsExactly("post");
    upload(id, "b.mtl", "newmtl oak\nKd 1 0 0\n".getBytes(StandardCharsets.UTF_8));
    settled(id);
    assertThat(far(id)).containsExactly("post");
    upload(id, "A.obj", ("o rail\n" + FACE).getBytes(StandardCharsets.UTF_8));
    settled(id);
    // The second file puts all parts under groups: the step says so and removes nothing.
    JsonNode after = read(send(get("/api/crossings/" + id + "/handling"), 200));
    assertThat(after.at("/steps/0/failure").asText()).contains("beam");
    assertThat(after.at("/steps/0/missing/0/likely/path").asText()).endsWith("/beam");
    assertThat(far(id)).contains("beam", "post", "rail");
  }

  @Test
  void stepsOfAnEarlierVersionGetNamesWhenTheCrossingIsLoaded() throws Exception {
    String id = ready("Old", "o beam\n" + FACE + "o post\n" + FACE);
    int post = idOf(near(id), "post");
    rows.change(
        "INSERT INTO handling (crossing_id, place, steps) VALUES (?, 1, ?)",
        id,
        "[" + remove(post) + "]");
    rows.change("UPDATE crossing SET history = 1 WHERE id = ?", id);
    scenes.forget(id);
    assertThat(far(id)).containsExactly("beam");
    upload(id, "a.obj", ("o rail\n" + FACE + "o beam\n" + FACE + "o post\n" + FACE).getBytes());
    settled(id);
    assertThat(far(id)).containsExactly("rail", "beam");
  }

  @Test
  void aPartThatIsNowhereIsRefusedWhenItIsSaved() throws Exception {
    String id = ready("None", "o beam\n" + FACE);
    JsonNode problem = handling(id, 0, "[" + remove(4711) + "]", 400);
    assertThat(problem.path("detail").asText()).contains("not there any more");
  }

  @Test
  void stepsThatAreNoListAreRefusedInASentence() throws Exception {
    String id = ready("Null", "o beam\n" + FACE);
    assertThat(handling(id, 0, "null", 400).path("detail").asText()).contains("list of steps");
    assertThat(handling(id, 0, "[null]", 400).path("detail").asText()).contains("list of steps");
  }
}
