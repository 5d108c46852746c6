package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;

import com.fasterxml.jackson.databind.JsonNode;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.http.MediaType;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** What the views ask of both sides: motion, curves, parts, textures, ledgers. */
class SidesTest extends OverTheApi {
  @TempDir static Path data;

  @DynamicPropertySource
  static void folder(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
  }

  /** A triangle that rises by 2 in a second, and blinks. */
  private static String crane() {
    ByteBuffer bytes = ByteBuffer.allocate(36 + 8 + 24).order(ByteOrder.LITTLE_ENDIAN);
    for (float f : new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0, 2, 0}) {
      bytes.putFloat(f);
    }
    return """
        {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],
         "nodes":[{"name":"mast","children":[1],"extras":{"height":12}},{"name":"hook","mesh":0}],
         "meshes":[{"name":"hook","primitives":[{"attributes":{"POSITION":0}}]}],
         "animations":[{"name":"lift","channels":[
           {"sampler":0,"target":{"node":1,"path":"translation"}}],
           "samplers":[{"input":1,"output":2}]}],
         "accessors":[
           {"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[1,1,0]},
           {"bufferView":1,"componentType":5126,"count":2,"type":"SCALAR","min":[0],"max":[1]},
           {"bufferView":2,"componentType":5126,"count":2,"type":"VEC3"}],
         "bufferViews":[{"buffer":0,"byteOffset":0,"byteLength":36},
           {"buffer":0,"byteOffset":36,"byteLength":8},
           {"buffer":0,"byteOffset":44,"byteLength":24}],
         "buffers":[{"byteLength":68,"uri":"data:application/octet-stream;base64,DATA"}]}
        """
        .replace("DATA", Base64.getEncoder().encodeToString(bytes.array()));
  }

  private String yard() throws Exception {
    String id = create("Crane");
    upload(id, "crane.gltf", crane().getBytes(StandardCharsets.UTF_8));
    assertThat(settled(id).path("state").asText()).isEqualTo("ready");
    return id;
  }

  private JsonNode side(String id, String side) throws Exception {
    return read(send(get("/api/crossings/" + id + "/" + side), 200));
  }

  private static JsonNode node(JsonNode side, String name) {
    for (JsonNode node : side.path("nodes")) {
      if (node.path("name").asText().equals(name)) {
        return node;
      }
    }
    throw new AssertionError(name + " is not among " + side.path("nodes"));
  }

  @Test
  void aClipIsPlayedOnBothSides() throws Exception {
    String id = yard();
    JsonNode near = side(id, "near");
    int clip = near.at("/clips/0/id").asInt();
    assertThat(near.at("/clips/0/name").asText()).isEqualTo("lift");
    handling(id, 0, "[" + step("s", "scale", "{\"factor\":3}") + "]", 200);
    for (String which : new String[] {"near", "far"}) {
      byte[] block =
          send(
                  get("/api/crossings/" + id + "/motion")
                      .param("side", which)
                      .param("clip", String.valueOf(clip)),
                  200)
              .getContentAsByteArray();
      ByteBuffer bytes = ByteBuffer.wrap(block).order(ByteOrder.LITTLE_ENDIAN);
      int length = bytes.getInt(0);
      JsonNode head = json.readTree(new String(block, 4, length, StandardCharsets.UTF_8));
      int frames = head.path("frames").asInt();
      assertThat(head.path("nodes").get(0).asInt())
          .isEqualTo(node(near, "hook").path("id").asInt());
      float last = bytes.getFloat(4 + length + 4 * (12 * (frames - 1) + 10));
      assertThat(last).as(which).isEqualTo(which.equals("near") ? 2 : 6);
    }
    send(get("/api/crossings/" + id + "/motion").param("side", "near").param("clip", "99999"), 404);
  }

  @Test
  void motionsOfTwoStatesAreComparedOverTime() throws Exception {
    String id = yard();
    JsonNode near = side(id, "near");
    String clip = near.at("/clips/0/id").asText();
    handling(id, 0, "[" + step("s", "scale", "{\"factor\":3}") + "]", 200);
    String path = "/api/crossings/" + id;
    JsonNode tracks =
        read(send(get(path + "/tracks").param("side", "now").param("clip", clip), 200));
    assertThat(tracks.at("/rows/0/name").asText()).isEqualTo("hook");
    assertThat(tracks.at("/rows/0/detail").asText()).isEqualTo("place");
    assertThat(tracks.at("/rows/0/count").asInt()).isEqualTo(2);
    JsonNode apart =
        read(send(get(path + "/apart?a=near&b=after:1&node=-1").param("clip", clip), 200));
    int last = apart.path("seconds").size() - 1;
    // The corner at (0, 1) stands at y 3 at the end, and at three times that on the far side.
    assertThat(apart.path("most").get(last).asDouble()).isEqualTo(6);
    assertThat(apart.at("/parts/0/name").asText()).isEqualTo("hook");
    JsonNode held =
        read(send(get(path + "/apart?a=near&b=now&sameSpot=true").param("clip", clip), 200));
    assertThat(held.path("most").get(last).asDouble()).isLessThan(2);
    assertThat(held.path("otherSpots").get(3 * last + 1).asDouble())
        .isCloseTo(3 * held.path("spots").get(3 * last + 1).asDouble(), within(1e-9));
    send(get(path + "/apart?a=near&b=elsewhere").param("clip", clip), 400);
    send(get(path + "/tracks?side=near&clip=99999"), 404);
  }

  @Test
  void curvesOfAPartAreInItsUnit() throws Exception {
    String id = yard();
    JsonNode near = side(id, "near");
    JsonNode curves =
        read(
            send(
                get("/api/crossings/" + id + "/curves")
                    .param("side", "near")
                    .param("clip", near.at("/clips/0/id").asText())
                    .param("node", node(near, "hook").path("id").asText()),
                200));
    assertThat(curves.path("lines")).hasSize(3);
    JsonNode y = curves.path("lines").get(1);
    assertThat(y.path("group").asText()).isEqualTo("place");
    assertThat(y.path("unit").asText()).isEqualTo("m");
    assertThat(y.path("values").get(y.path("values").size() - 1).asDouble()).isEqualTo(2);
    assertThat(y.path("keys")).hasSize(2);
  }

  @Test
  void aPartTellsWhatTheFileSaysOfIt() throws Exception {
    String id = yard();
    JsonNode near = side(id, "near");
    JsonNode mast =
        read(
            send(
                get("/api/crossings/" + id + "/parts/" + node(near, "mast").path("id").asText()),
                200));
    assertThat(mast.path("kind").asText()).isEqualTo("group");
    assertThat(mast.at("/properties/height").asText()).isEqualTo("12");
    JsonNode hook =
        read(
            send(
                get("/api/crossings/" + id + "/parts/" + node(near, "hook").path("id").asText()),
                200));
    assertThat(hook.path("path").asText()).isEqualTo("mast/hook");
    assertThat(hook.at("/clips/0").asText()).isEqualTo("lift");
    send(get("/api/crossings/" + id + "/parts/4711"), 404);
  }

  @Test
  void afterAStepOnlyPartsThatChangedAreSent() throws Exception {
    String id = yard();
    String path = "/api/crossings/" + id + "/far-changes";
    JsonNode first = read(send(get(path), 200));
    int parts = first.at("/view/nodes").size();
    assertThat(first.path("base").isNull()).isTrue();
    assertThat(parts).isGreaterThan(1);
    JsonNode same = read(send(get(path).param("known", first.path("key").asText()), 200));
    assertThat(same.at("/view/nodes")).isEmpty();
    assertThat(same.path("order").isNull()).isTrue();
    assertThat(same.path("base").asText()).isEqualTo(first.path("key").asText());
    handling(id, 0, "[" + step("s", "scale", "{\"factor\":3}") + "]", 200);
    JsonNode scaled = read(send(get(path).param("known", same.path("key").asText()), 200));
    assertThat(scaled.at("/view/nodes").size()).isBetween(1, parts);
    assertThat(scaled.at("/view/height").asText()).isNotEqualTo(first.at("/view/height").asText());
    // What the page has not is sent whole.
    JsonNode unknown = read(send(get(path).param("known", "never"), 200));
    assertThat(unknown.at("/view/nodes").size()).isEqualTo(parts);
    assertThat(read(send(get("/api/crossings/" + id + "/far"), 200)).path("nodes"))
        .isEqualTo(unknown.at("/view/nodes"));
  }

  @Test
  void nearAndFarAreComparedBeforeAnythingLands() throws Exception {
    String id = yard();
    JsonNode same = read(send(get("/api/crossings/" + id + "/ledger"), 200));
    assertThat(same.path("fitting").asInt()).isEqualTo(same.path("kept").asInt()).isPositive();
    for (JsonNode row : same.path("rows")) {
      assertThat(row.path("verdict").asText()).as(row.toString()).isEqualTo("KEPT");
    }
    handling(id, 0, "[" + step("s", "scale", "{\"factor\":3}") + "]", 200);
    JsonNode found =
        read(
            send(get("/api/crossings/" + id + "/ledger?verdict=CHANGED&find=HEIGHT&count=1"), 200));
    assertThat(found.path("rows")).hasSize(1);
    assertThat(found.at("/rows/0/fact").asText()).isEqualTo("Height");
    assertThat(found.path("fitting").asInt()).isLessThan(found.path("changed").asInt());
    send(get("/api/crossings/" + id + "/ledger?verdict=LOVED"), 400);
    String csv =
        send(get("/api/crossings/" + id + "/ledger.csv"), 200)
            .getContentAsString(StandardCharsets.UTF_8);
    assertThat(csv).contains("\"changed\"");
    assertThat(
            send(get("/api/crossings/" + id + "/ledger.html"), 200)
                .getContentAsString(StandardCharsets.UTF_8))
        .contains("before the landing");
    send(get("/api/crossings/" + id + "/ledger.json"), 200);
    send(get("/api/crossings/" + id + "/ledger.doc"), 404);
  }

  @Test
  void stepsAreToldWithTheirFields() throws Exception {
    JsonNode steps = read(send(get("/api/steps"), 200));
    List<String> kinds = new ArrayList<>();
    for (JsonNode kind : steps) {
      kinds.add(kind.path("kind").asText());
      assertThat(kind.path("label").asText()).isNotBlank();
      for (JsonNode field : kind.path("fields")) {
        assertThat(field.path("help").asText()).as(kind.path("kind").asText()).isNotBlank();
      }
    }
    assertThat(kinds).doesNotHaveDuplicates().contains("scale", "ground", "split");
  }

  @Test
  void formatsAreToldWithWhatTheyAsk() throws Exception {
    JsonNode formats = read(send(get("/api/formats"), 200));
    List<String> keys = new ArrayList<>();
    for (JsonNode format : formats) {
      keys.add(format.path("key").asText());
      assertThat(format.path("frames").asText()).isNotBlank();
      assertThat(format.path("extensions")).isNotEmpty();
      assertThat(format.path("writes").asBoolean() || format.path("reads").asBoolean()).isTrue();
    }
    assertThat(keys).contains("glb", "gltf", "fbx", "obj", "stl", "ply", "collada", "mdd", "pc2");
  }

  private static byte[] png(int size) throws Exception {
    var image = new BufferedImage(size, size, BufferedImage.TYPE_INT_RGB);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageIO.write(image, "png", out);
    return out.toByteArray();
  }

  @Test
  void aTextureIsShownAndAMissingOneCanBeBound() throws Exception {
    String id = create("Oak");
    String obj =
        "mtllib a.mtl\nusemtl oak\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nf 1/1 2/2 3/3\n";
    upload(id, "a.obj", obj.getBytes(StandardCharsets.UTF_8));
    upload(id, "a.mtl", "newmtl oak\nmap_Kd oak_base.png\n".getBytes(StandardCharsets.UTF_8));
    upload(id, "tex/planks.png", png(4));
    settled(id);
    JsonNode cargo = read(send(get("/api/crossings/" + id + "/cargo"), 200));
    assertThat(cargo.at("/references/0/written").asText()).isEqualTo("oak_base.png");
    assertThat(cargo.at("/references/0/found").isNull()).isTrue();
    assertThat(cargo.at("/references/0/proposals").toString()).contains("tex/planks.png");
    bind(id, "oak_base.png", "nowhere.png", 400);
    bind(id, " ", "tex/planks.png", 400);
    bind(id, "oak_base.png", "tex/planks.png", 202);
    settled(id);
    JsonNode near = side(id, "near");
    int texture = near.at("/textures/0/id").asInt();
    assertThat(near.at("/textures/0/state").asText()).isEqualTo("found");
    var picture = send(get("/api/crossings/" + id + "/textures/" + texture), 200);
    assertThat(picture.getContentType()).isEqualTo("image/png");
    assertThat(picture.getContentAsByteArray()).isEqualTo(png(4));
    send(get("/api/crossings/" + id + "/textures/99999"), 404);
    bind(id, "oak_base.png", "", 202);
    settled(id);
    assertThat(side(id, "near").at("/textures/0/state").asText()).isEqualTo("missing");
  }

  private void bind(String id, String reference, String file, int expected) throws Exception {
    send(
        put("/api/crossings/" + id + "/bindings")
            .contentType(MediaType.APPLICATION_JSON)
            .content("{\"reference\":\"" + reference + "\",\"file\":\"" + file + "\"}"),
        expected);
  }

  @Test
  void aBrokenTextureIsAProblemOfThatFile() throws Exception {
    String id = create("Broken");
    upload(
        id,
        "a.obj",
        "mtllib a.mtl\nusemtl oak\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"
            .getBytes(StandardCharsets.UTF_8));
    upload(id, "a.mtl", "newmtl oak\nmap_Kd oak.png\n".getBytes(StandardCharsets.UTF_8));
    upload(id, "oak.png", "no picture".getBytes(StandardCharsets.UTF_8));
    settled(id);
    int texture = side(id, "near").at("/textures/0/id").asInt();
    JsonNode problem = read(send(get("/api/crossings/" + id + "/textures/" + texture), 422));
    assertThat(problem.path("resource").asText()).isEqualTo("oak.png");
  }

  @Test
  void filesCanBeRemovedAndTheRestIsReadAgain() throws Exception {
    String id = create("Two");
    String face = "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n";
    upload(id, "a.obj", ("o left\n" + face).getBytes(StandardCharsets.UTF_8));
    upload(id, "b.obj", ("o right\n" + face).getBytes(StandardCharsets.UTF_8));
    settled(id);
    assertThat(side(id, "near").path("nodes")).hasSize(4);
    send(delete("/api/crossings/" + id + "/files").param("path", "b.obj"), 204);
    settled(id);
    assertThat(side(id, "near").path("nodes")).hasSize(1);
    send(delete("/api/crossings/" + id + "/files").param("path", "a.obj"), 204);
    JsonNode conflict = read(send(post("/api/crossings/" + id + "/read"), 409));
    assertThat(conflict.path("detail").asText()).contains("Bring files first");
  }

  @Test
  void jobsSayWhatTheyDid() throws Exception {
    String id = yard();
    JsonNode jobs = read(send(get("/api/jobs"), 200));
    JsonNode own = null;
    for (JsonNode job : jobs) {
      own = job.path("crossingId").asText().equals(id) && own == null ? job : own;
    }
    assertThat(own).isNotNull();
    assertThat(own.path("state").asText()).isEqualTo("done");
    assertThat(own.path("what").asText()).contains("1 file").contains("2 parts");
    JsonNode one = read(send(get("/api/jobs/" + own.path("id").asText()), 200));
    assertThat(one.path("endedAt").asText()).isNotBlank();
    send(post("/api/jobs/" + own.path("id").asText() + "/cancel"), 200);
    send(get("/api/jobs/nobody"), 404);
  }
}
