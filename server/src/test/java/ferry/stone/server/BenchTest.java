package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.http.MediaType;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.request.MockMvcRequestBuilders;

/** The material bench over the API: both sides, loose images, what is put by hand, pictures. */
class BenchTest extends OverTheApi {
  @TempDir static Path data;

  @DynamicPropertySource
  static void settings(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.resolve("ferry").toString());
  }

  private static byte[] image(int argb) {
    int[] all = new int[64];
    java.util.Arrays.fill(all, argb);
    all[0] ^= 0x00404040;
    return ImageCodec.encodePng(new Pixels(8, 8, all, false));
  }

  private String plank() throws Exception {
    String id = create("Plank");
    String obj =
        "mtllib a.mtl\nusemtl oak\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nf 1/1 2/2 3/3\n";
    upload(id, "a.obj", obj.getBytes(StandardCharsets.UTF_8));
    upload(id, "a.mtl", "newmtl oak\nKd .5 .4 .3\n".getBytes(StandardCharsets.UTF_8));
    upload(id, "tex/oak_basecolor.png", image(0xff804020));
    upload(id, "tex/oak_orm.png", image(0xffff8020));
    upload(id, "tex/river.png", image(0xff808080));
    settled(id);
    return id;
  }

  @Test
  void whatAMaterialReflectsIsCompared() throws Exception {
    String id = plank();
    String path = "/api/crossings/" + id + "/bench/reflection";
    JsonNode before = read(send(get(path).param("material", "oak"), 200));
    assertThat(before.path("most").asDouble()).isZero();
    int revision =
        read(send(get("/api/crossings/" + id + "/handling"), 200)).path("revision").asInt();
    put(id, revision, "BASE_COLOUR", "tex/oak_basecolor.png", 200);
    JsonNode after = read(send(get(path).param("material", "oak"), 200));
    assertThat(after.path("mean").asDouble()).isGreaterThan(0.001);
    byte[] picture =
        send(get(path + "/picture").param("material", "oak").param("size", "8"), 200)
            .getContentAsByteArray();
    assertThat(ImageCodec.decode(picture, "p.png").width()).isEqualTo(8);
    read(send(get(path).param("material", "elm"), 404));
    read(send(get(path + "/picture").param("material", "oak").param("size", "0"), 400));
  }

  @Test
  void materialsOfAnotherCrossingAreCopied() throws Exception {
    String from = plank();
    JsonNode before = read(send(get("/api/crossings/" + from + "/handling"), 200));
    put(from, before.path("revision").asInt(), "BASE_COLOUR", "tex/oak_basecolor.png", 200);
    String to = create("Board");
    String obj = "mtllib a.mtl\nusemtl OAK.001\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nf 1/1 2/1 3/1\n";
    upload(to, "a.obj", obj.getBytes(StandardCharsets.UTF_8));
    upload(to, "a.mtl", "newmtl OAK.001\nKd .1 .1 .1\n".getBytes(StandardCharsets.UTF_8));
    settled(to);
    String path = "/api/crossings/" + to + "/bench/copies";
    JsonNode copied =
        read(send(body(path, "{\"crossing\":\"" + from + "\",\"materials\":[\"oak\"]}"), 202));
    assertThat(copied.path("file").asText()).isEqualTo("materials of Plank.glb");
    settled(to);
    assertThat(far(bench(to), "BASE_COLOUR").path("state").asText()).isEqualTo("inside");
    // The copy stands by itself.
    send(MockMvcRequestBuilders.delete("/api/crossings/" + from), 204);
    assertThat(far(bench(to), "BASE_COLOUR").path("state").asText()).isEqualTo("inside");
    JsonNode refused = read(send(body(path, "{\"crossing\":\"" + to + "\"}"), 400));
    assertThat(refused.path("detail").asText()).contains("another crossing");
    String other = plank();
    JsonNode none =
        read(send(body(path, "{\"crossing\":\"" + other + "\",\"materials\":[\"elm\"]}"), 400));
    assertThat(none.path("detail").asText()).contains("no material \"elm\"");
    read(send(body(path, "{\"crossing\":\"" + other + "\"}"), 202));
    settled(to);
    assertThat(bench(to).path("materials")).hasSize(1);
  }

  private static org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder body(
      String path, String json) {
    return MockMvcRequestBuilders.post(path).contentType(MediaType.APPLICATION_JSON).content(json);
  }

  private JsonNode bench(String id) throws Exception {
    return read(send(get("/api/crossings/" + id + "/bench"), 200));
  }

  private static JsonNode far(JsonNode bench, String channel) {
    for (JsonNode cell : bench.at("/materials/0/cells")) {
      if (cell.path("channel").asText().equals(channel)) {
        return cell.path("far");
      }
    }
    throw new AssertionError("no channel " + channel);
  }

  private JsonNode put(String id, int revision, String channel, String image, int expected)
      throws Exception {
    Map<String, Object> one = new java.util.HashMap<>();
    one.put("material", "oak");
    one.put("channel", channel);
    one.put("image", image);
    String body =
        json.writeValueAsString(Map.of("revision", revision, "puts", java.util.List.of(one)));
    return read(
        send(
            MockMvcRequestBuilders.put("/api/crossings/" + id + "/bench")
                .contentType(MediaType.APPLICATION_JSON)
                .content(body),
            expected));
  }

  @Test
  void looseImagesAreListedWithWhereTheyFit() throws Exception {
    JsonNode bench = bench(plank());
    assertThat(bench.at("/materials/0/name").asText()).isEqualTo("oak");
    assertThat(bench.at("/materials/0/faces").asInt()).isEqualTo(1);
    assertThat(far(bench, "BASE_COLOUR").path("factor").asText()).isEqualTo("0.5 0.4 0.3");
    assertThat(far(bench, "NORMAL").isNull()).isTrue();
    assertThat(bench.path("loose")).hasSize(3);
    assertThat(bench.at("/loose/0/image").asText()).isEqualTo("tex/oak_basecolor.png");
    assertThat(bench.at("/loose/0/fits/0/channel").asText()).isEqualTo("BASE_COLOUR");
    assertThat(bench.at("/loose/1/fits")).hasSize(3);
    assertThat(bench.at("/loose/1/fits/1/binding").asText()).isEqualTo("tex/oak_orm.png [g]");
    assertThat(bench.at("/loose/2/fits")).isEmpty();
    assertThat(bench.at("/loose/2/why").asText()).contains("neither its name");
  }

  @Test
  void whatIsPutByHandIsAStepAndCanBeTakenBack() throws Exception {
    String id = plank();
    int revision =
        read(send(get("/api/crossings/" + id + "/handling"), 200)).path("revision").asInt();
    JsonNode state = put(id, revision, "ROUGHNESS", "tex/oak_orm.png [g]", 200);
    assertThat(state.at("/steps/0/step/kind").asText()).isEqualTo("textures");
    assertThat(state.at("/steps/0/step/params/bindings").asText())
        .isEqualTo("roughness @ oak = tex/oak_orm.png [g]");
    JsonNode slot = far(bench(id), "ROUGHNESS");
    assertThat(slot.path("part").asText()).isEqualTo("g");
    assertThat(slot.path("state").asText()).isEqualTo("file");
    state = put(id, state.path("revision").asInt(), "BASE_COLOUR", "-", 200);
    assertThat(state.path("steps")).hasSize(1);
    assertThat(far(bench(id), "BASE_COLOUR").isNull()).isTrue();
    state = put(id, state.path("revision").asInt(), "BASE_COLOUR", null, 200);
    assertThat(far(bench(id), "BASE_COLOUR").path("factor").asText()).isEqualTo("0.5 0.4 0.3");

    // Another revision, and nothing to put.
    put(id, 0, "NORMAL", "tex/river.png", 409);
    send(
        MockMvcRequestBuilders.put("/api/crossings/" + id + "/bench")
            .contentType(MediaType.APPLICATION_JSON)
            .content("{\"revision\":1,\"puts\":[]}"),
        400);
  }

  @Test
  void imagesComeSmallPartByPartAndOnlyFromTheCargo() throws Exception {
    String id = plank();
    int revision =
        read(send(get("/api/crossings/" + id + "/handling"), 200)).path("revision").asInt();
    put(id, revision, "ROUGHNESS", "tex/oak_orm.png [g]", 200);
    String key = far(bench(id), "ROUGHNESS").path("key").asText();
    String path = "/api/crossings/" + id + "/textures/" + key;
    byte[] part =
        send(get(path).param("part", "g").param("size", "4"), 200).getContentAsByteArray();
    Pixels grey = ImageCodec.decode(part, "part.png");
    assertThat(grey.width()).isEqualTo(4);
    assertThat(grey.argb()[15]).isEqualTo(0xff808080);
    send(get(path).param("part", "x"), 400);
    JsonNode same = read(send(get(path + "/loss").param("from", key), 200));
    assertThat(same.path("decibels").isNull()).isTrue();
    byte[] off = send(get(path + "/difference").param("from", key), 200).getContentAsByteArray();
    assertThat(ImageCodec.decode(off, "off.png").argb()).containsOnly(0xff000000);
    send(get(path + "/loss").param("from", "gone"), 404);
    send(get(path + "/difference").param("from", key).param("size", "0"), 400);
    send(get(path).param("size", "0"), 400);
    send(get("/api/crossings/" + id + "/textures/gone"), 404);
    String files = "/api/crossings/" + id + "/image-files";
    assertThat(send(get(files).param("path", "tex/river.png"), 200).getContentType())
        .isEqualTo("image/png");
    send(get(files).param("path", "../a.obj"), 404);
    send(get(files).param("path", "a.obj"), 404);
  }
}
