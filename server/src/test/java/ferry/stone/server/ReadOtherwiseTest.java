package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** Choices about the reading of a cargo: asked, kept, taken at once and after a start. */
class ReadOtherwiseTest extends OverTheApi {
  private static final String OBJ =
      "o crate\nv 0 0 0\nv 1 0 0\nv 0 1 0\ng planks\nf 1 2 3\ng bands\nf 3 2 1\n";

  private static final String TWO_SCENES =
      "{\"asset\":{\"version\":\"2.0\"},\"scene\":0,\"scenes\":[{\"name\":\"quay\","
          + "\"nodes\":[0]},{\"name\":\"loft\",\"nodes\":[1]}],"
          + "\"nodes\":[{\"name\":\"bollard\"},{\"name\":\"loom\"}]}";

  @TempDir static Path data;

  @DynamicPropertySource
  static void folder(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
  }

  private JsonNode choose(String id, String body, int expected) throws Exception {
    return sent(put("/api/crossings/" + id + "/reading"), body, expected);
  }

  private List<String> near(String id) throws Exception {
    List<String> names = new ArrayList<>();
    read(send(get("/api/crossings/" + id + "/near"), 200))
        .path("nodes")
        .forEach(n -> names.add(n.path("name").asText()));
    return names;
  }

  private JsonNode cargo(String id) throws Exception {
    return read(send(get("/api/crossings/" + id + "/cargo"), 200));
  }

  @Test
  void aChoiceReadsTheCargoAnewAndIsKept() throws Exception {
    String id = ready("Crate", OBJ);
    assertThat(near(id)).containsExactly("crate");
    assertThat(cargo(id).at("/fields/0/name").asText()).isEqualTo("partsFrom");
    assertThat(cargo(id).at("/fields/0/options")).hasSize(4);
    assertThat(cargo(id).path("options")).isEmpty();
    choose(id, "{\"partsFrom\":\"groups\"}", 202);
    settled(id);
    assertThat(near(id)).containsExactly("planks", "bands");
    assertThat(cargo(id).at("/options/partsFrom").asText()).isEqualTo("groups");
    // A later file is read by the same choice, and the choice can be taken back.
    upload(id, "a.obj", OBJ.replace("bands", "straps").getBytes(StandardCharsets.UTF_8));
    settled(id);
    assertThat(near(id)).containsExactly("planks", "straps");
    choose(id, "{\"partsFrom\":\"objects\"}", 202);
    settled(id);
    assertThat(near(id)).containsExactly("crate");
  }

  @Test
  void whatCannotBeChosenIsRefusedAndNothingChanges() throws Exception {
    String id = ready("Crate", OBJ);
    assertThat(choose(id, "{\"partsFrom\":\"doors\"}", 400).path("detail").asText())
        .contains("objects, groups, materials, whole", "doors");
    assertThat(choose(id, "{\"colour\":1}", 400).path("detail").asText()).contains("colour");
    assertThat(choose(id, "{\"scene\":\"two\"}", 400).path("detail").asText())
        .contains("scene must be a number");
    assertThat(cargo(id).path("options")).isEmpty();
    assertThat(near(id)).containsExactly("crate");
    choose("nowhere", "{\"partsFrom\":\"groups\"}", 404);
  }

  @Test
  void theOfferOfTheSurveyIsTaken() throws Exception {
    String id = create("Yard");
    upload(id, "yard.gltf", TWO_SCENES.getBytes(StandardCharsets.UTF_8));
    settled(id);
    assertThat(near(id)).containsExactly("bollard");
    JsonNode offer = null;
    for (JsonNode finding :
        read(send(get("/api/crossings/" + id + "/survey"), 200)).path("findings")) {
      if (finding.path("code").asText().equals("several-scenes")) {
        offer = finding.at("/offers/0");
      }
    }
    assertThat(offer).isNotNull();
    assertThat(offer.path("action").asText()).isEqualTo("read");
    choose(
        id,
        "{\"" + offer.path("kind").asText() + "\":" + offer.at("/params/value").asText() + "}",
        202);
    settled(id);
    assertThat(near(id)).containsExactly("loom");
  }

  @Test
  void aSceneThatWasChosenBeforeThisVersionStaysChosen() throws Exception {
    Path old = data.resolve("old.db");
    Flyway until =
        Flyway.configure()
            .dataSource("jdbc:sqlite:" + old, "", "")
            .locations("classpath:db/migration")
            .target("4")
            .load();
    until.migrate();
    try (var connection = java.sql.DriverManager.getConnection("jdbc:sqlite:" + old);
        var statement = connection.createStatement()) {
      statement.execute("PRAGMA foreign_keys = OFF");
      statement.execute(
          "INSERT INTO binding (crossing_id, reference, file) VALUES ('c', 'gltf:scene', '1')");
      statement.execute(
          "INSERT INTO binding (crossing_id, reference, file) VALUES ('c', 'oak.png', 'b.png')");
    }
    Flyway.configure()
        .dataSource("jdbc:sqlite:" + old, "", "")
        .locations("classpath:db/migration")
        .load()
        .migrate();
    try (var connection = java.sql.DriverManager.getConnection("jdbc:sqlite:" + old);
        var statement = connection.createStatement()) {
      var chosen =
          statement.executeQuery("SELECT name, value FROM read_option WHERE crossing_id = 'c'");
      assertThat(chosen.next()).isTrue();
      assertThat(chosen.getString("name")).isEqualTo("scene");
      assertThat(chosen.getString("value")).isEqualTo("2");
      var left = statement.executeQuery("SELECT reference FROM binding");
      assertThat(left.next()).isTrue();
      assertThat(left.getString("reference")).isEqualTo("oak.png");
      assertThat(left.next()).isFalse();
    }
  }

  @Test
  void aMeshThatChangesIsSentSampleBySample() throws Exception {
    String id = create("Swell");
    StringBuilder text = new StringBuilder();
    for (int f = 1; f <= 3; f++) {
      text.append("v 0 0 0\nv 1 0 0\nv 0 1 0\nf -3 -2 -1\n");
      upload(id, "swell_" + f + ".obj", text.toString().getBytes(StandardCharsets.UTF_8));
    }
    settled(id);
    assertThat(near(id)).contains("swell_1", "swell_3");
    choose(id, "{\"numberedFiles\":\"frames\",\"filesPerSecond\":10}", 202);
    settled(id);
    JsonNode side = read(send(get("/api/crossings/" + id + "/near"), 200));
    JsonNode changing = side.at("/changing/0");
    assertThat(changing.path("seconds")).hasSize(3);
    assertThat(changing.at("/seconds/2").asDouble()).isEqualTo(0.2);
    assertThat(changing.at("/nodes/0").asInt()).isEqualTo(side.at("/nodes/0/id").asInt());
    assertThat(side.at("/clips/0/frames").asInt()).isEqualTo(3);
    String key = changing.path("key").asText();
    for (int sample = 0; sample < 3; sample++) {
      assertThat(triangles(id, key + "@" + sample)).isEqualTo(sample + 1);
    }
    assertThat(triangles(id, key + "@99")).as("held after the last").isEqualTo(3);
    assertThat(block(id, "nothing@1").getInt(0)).isZero();
    assertThat(block(id, key + "@x").getInt(0)).isZero();
    JsonNode far = read(send(get("/api/crossings/" + id + "/far"), 200));
    assertThat(triangles(id, far.at("/changing/0/key").asText() + "@1")).isEqualTo(2);
  }

  private ByteBuffer block(String id, String key) throws Exception {
    byte[] bytes =
        send(get("/api/crossings/" + id + "/meshes").param("keys", key), 200)
            .getContentAsByteArray();
    return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  private int triangles(String id, String key) throws Exception {
    ByteBuffer block = block(id, key);
    byte[] head = new byte[block.getInt(4)];
    block.position(8).get(head);
    return json.readTree(head).at("/primitives/0/triangles").asInt();
  }
}
