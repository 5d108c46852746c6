package ferry.stone.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** Several files as one asset, and images that all assets share. */
class GatheringOverTheApiTest extends OverTheApi {
  private static final byte[] OAK =
      ImageCodec.encodePng(new Pixels(2, 1, new int[] {0xff804020, 0xff402010}, false));

  @TempDir static Path data;
  @TempDir static Path library;

  @DynamicPropertySource
  static void folders(DynamicPropertyRegistry registry) {
    registry.add("ferry.data", () -> data.toString());
    registry.add("ferry.library", () -> library.toString());
  }

  private String plank(String library, String colour) throws Exception {
    String id = create("Plank");
    bring(id, "deck.obj", obj("deck"));
    bring(id, "deck.mtl", "newmtl oak\nKd 1 1 1\nmap_Kd oak.png\n");
    if (!library.isEmpty()) {
      bring(id, library + ".obj", obj(library));
      bring(id, library + ".mtl", "newmtl oak\nKd " + colour + "\n");
    }
    assertThat(settled(id).path("state").asText()).isEqualTo("ready");
    return id;
  }

  private static String obj(String name) {
    return "mtllib "
        + name
        + ".mtl\no "
        + name
        + "\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl oak\nf 1/1 2/2 3/3\n";
  }

  private void bring(String id, String path, String text) throws Exception {
    upload(id, path, text.getBytes(StandardCharsets.UTF_8));
  }

  @Test
  void anImageOfTheSharedFolderIsFoundAndShown() throws Exception {
    Files.createDirectories(library.resolve("wood"));
    Files.write(library.resolve("wood/Oak.png"), OAK);
    String id = plank("", "");
    JsonNode side = read(send(get("/api/crossings/" + id + "/near"), 200));
    JsonNode texture = side.path("textures").get(0);
    assertThat(texture.path("state").asText()).isEqualTo("found");
    byte[] shown =
        send(get("/api/crossings/" + id + "/textures/" + texture.path("id").asInt()), 200)
            .getContentAsByteArray();
    assertThat(ImageCodec.decode(shown, "oak.png").argb())
        .isEqualTo(ImageCodec.decode(OAK, "oak.png").argb());
    JsonNode cargo = read(send(get("/api/crossings/" + id + "/cargo"), 200));
    assertThat(cargo.path("files")).hasSize(2);
  }

  @Test
  void whatIsTakenOfAFileIsChosenAndStays() throws Exception {
    String id = plank("look", "0 0 1");
    JsonNode cargo = read(send(get("/api/crossings/" + id + "/cargo"), 200));
    assertThat(cargo.path("fields").findValuesAsText("name")).contains("taken", "motionFits");
    sent(put("/api/crossings/" + id + "/reading"), "{\"taken\":\"look.obj=materials\"}", 202);
    assertThat(left("/api/crossings/" + id, "reading").path("state").asText()).isEqualTo("ready");
    JsonNode side = read(send(get("/api/crossings/" + id + "/near"), 200));
    assertThat(side.path("nodes")).hasSize(1);
    assertThat(side.path("materials")).hasSize(1);
    JsonNode again = read(send(get("/api/crossings/" + id + "/cargo"), 200));
    assertThat(again.at("/options/taken").asText()).isEqualTo("look.obj=materials");
    // Of images nothing is taken: they are what scenes name.
    assertThat(again.path("files"))
        .extracting(f -> f.path("path").asText() + " " + f.path("taken").asText("-"))
        .contains("look.obj materials")
        .filteredOn(f -> !f.contains(".obj"))
        .allMatch(f -> f.endsWith(" null") || f.endsWith(" -"));
    sent(put("/api/crossings/" + id + "/reading"), "{\"taken\":\"look.obj=colour\"}", 400);
  }
}
