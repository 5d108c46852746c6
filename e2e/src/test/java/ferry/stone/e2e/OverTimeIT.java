package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.SelectOption;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.function.IntPredicate;
import org.junit.jupiter.api.Test;

/** Numbered files as frames, parts that come and go, copies that a file lists. */
class OverTimeIT extends OnThePage {
  private static final IntPredicate RED =
      rgb -> (rgb >> 16 & 255) > 120 && (rgb >> 8 & 255) < 70 && (rgb & 255) < 70;

  /** A red curtain of as many strips as the number says, each a unit wide. */
  private static String curtain(int strips) {
    StringBuilder text = new StringBuilder("mtllib stage.mtl\no curtain\nusemtl red\n");
    for (int s = 0; s < strips; s++) {
      text.append("v ").append(s).append(" 0 0\nv ").append(s + 0.9).append(" 0 0\nv ");
      text.append(s + 0.9).append(" 8 0\nv ").append(s).append(" 8 0\nf -4 -3 -2 -1\n");
    }
    return text.append("o floor\nusemtl grey\nv 0 0 0\nv 8 0 0\nv 8 0 4\nv 0 0 4\nf -4 -3 -2 -1\n")
        .toString();
  }

  private Path[] stage(int frames) throws IOException {
    List<Path> files = new ArrayList<>();
    files.add(
        Files.writeString(
            folder.resolve("stage.mtl"), "newmtl red\nKd 1 0 0\nnewmtl grey\nKd .5 .5 .5\n"));
    for (int f = 1; f <= frames; f++) {
      files.add(Files.writeString(folder.resolve("stage_" + f + ".obj"), curtain(f)));
    }
    return files.toArray(Path[]::new);
  }

  @Test
  void numberedFilesArePlayedAsFramesThoughTheirFacesChange() throws Exception {
    bring(stage(8));
    waitForViews();
    assertThat(page.locator("[role=treeitem]")).hasCount(24);
    labelled("Numbered files are").selectOption("frames");
    assertThat(page.locator("[role=treeitem]")).hasCount(2);
    waitForViews();
    labelled("Clip").selectOption(new SelectOption().setIndex(1));
    still("near");
    double first = part("near", RED);
    assertTrue(first > 0, "one strip of the curtain is seen");
    Locator next = labelled("One frame on");
    for (int f = 1; f < 8; f++) {
      next.click();
    }
    assertThat(page.locator(".timeline .moment")).containsText("frame 7 of 7");
    shows("near", RED, 5 * first, "eight strips are seen on the near side");
    shows("far", RED, 5 * first, "and on the far side");
    labelled("Clip").selectOption(new SelectOption().setIndex(0));
    until(() -> part("near", RED) < 2 * first, "the rest pose shows the first frame again");
    // Reloading keeps the choice; what lands is told.
    page.reload();
    waitForViews();
    assertThat(labelled("Numbered files are")).hasValue("frames");
    stop("Landing");
    assertThat(page.locator(".quayside-body")).containsText("Meshes whose faces change over time");
    stop("Survey");
    assertThat(page.locator("tr[data-code=numbered-frames]")).isVisible();
    page.locator("tr[data-code=numbered-frames]").getByText("Read them as parts").click();
    assertThat(page.locator("[role=treeitem]")).hasCount(24);
  }

  /** A red plate of 2 × 2 as a glTF file, with what else its JSON says. */
  private Path plate(String name, String nodes, String more, float... numbers) throws IOException {
    float[] plate = {0, 0, 0, 2, 0, 0, 2, 2, 0, 0, 0, 0, 2, 2, 0, 0, 2, 0};
    ByteBuffer bytes =
        ByteBuffer.allocate(4 * (plate.length + numbers.length)).order(ByteOrder.LITTLE_ENDIAN);
    for (float f : plate) {
      bytes.putFloat(f);
    }
    for (float f : numbers) {
      bytes.putFloat(f);
    }
    String json =
        """
        {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":NODES,
         "materials":[{"name":"red","doubleSided":true,"pbrMetallicRoughness":
           {"baseColorFactor":[1,0,0,1],"metallicFactor":0}}],
         "meshes":[{"name":"plate","primitives":[{"attributes":{"POSITION":0},"material":0}]}],
         "buffers":[{"byteLength":LENGTH,"uri":"data:application/octet-stream;base64,DATA"}],
         MORE}
        """
            .replace("NODES", nodes)
            .replace("MORE", more)
            .replace("LENGTH", String.valueOf(bytes.capacity()))
            .replace("DATA", Base64.getEncoder().encodeToString(bytes.array()));
    return Files.writeString(folder.resolve(name), json);
  }

  private static String accessors(String... more) {
    return "\"accessors\":[{\"bufferView\":0,\"componentType\":5126,\"count\":6,\"type\":\"VEC3\","
        + "\"min\":[0,0,0],\"max\":[2,2,0]}"
        + String.join("", more)
        + "]";
  }

  @Test
  void aPartComesAndGoesWithItsClip() throws Exception {
    Path file =
        plate(
            "blink.gltf",
            "[{\"name\":\"house\",\"children\":[1]},{\"name\":\"lamp\",\"mesh\":0}]",
            accessors(
                    ",{\"bufferView\":1,\"componentType\":5126,\"count\":2,\"type\":\"SCALAR\","
                        + "\"min\":[0],\"max\":[1]}",
                    ",{\"bufferView\":2,\"componentType\":5121,\"count\":2,\"type\":\"SCALAR\"}")
                + ",\"bufferViews\":[{\"buffer\":0,\"byteLength\":72},"
                + "{\"buffer\":0,\"byteOffset\":72,\"byteLength\":8},"
                + "{\"buffer\":0,\"byteOffset\":80,\"byteLength\":4}],"
                + "\"extensionsUsed\":[\"KHR_animation_pointer\",\"KHR_node_visibility\"],"
                + "\"animations\":[{\"name\":\"blink\",\"samplers\":[{\"input\":1,\"output\":2,"
                + "\"interpolation\":\"STEP\"}],\"channels\":[{\"sampler\":0,\"target\":"
                + "{\"path\":\"pointer\",\"extensions\":{\"KHR_animation_pointer\":{\"pointer\":"
                + "\"/nodes/0/extensions/KHR_node_visibility/visible\"}}}}]}]",
            0,
            1,
            // The bytes 1 and 0: seen at first, away from the second on.
            Float.intBitsToFloat(1));
    bring(file);
    waitForViews();
    shows("near", RED, 0.02, "the lamp is seen at rest");
    labelled("Clip").selectOption("blink");
    still("near");
    shows("near", RED, 0.02, "and at the start of the clip");
    labelled("Frame")
        .evaluate(
            "(e) => { Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set"
                + ".call(e, e.max); e.dispatchEvent(new Event('input', { bubbles: true })); }");
    until(() -> part("near", RED) == 0, "it is gone at the end on the near side");
    until(() -> part("far", RED) == 0, "and on the far side");
    labelled("Clip").selectOption(new SelectOption().setIndex(0));
    shows("near", RED, 0.02, "and back at rest");
  }

  @Test
  void copiesThatAFileListsLandAsAListThatOthersRead() throws Exception {
    Path file =
        plate(
            "row.gltf",
            "[{\"name\":\"row\",\"mesh\":0,\"extensions\":{\"EXT_mesh_gpu_instancing\":"
                + "{\"attributes\":{\"TRANSLATION\":1}}}}]",
            accessors(",{\"bufferView\":1,\"componentType\":5126,\"count\":3,\"type\":\"VEC3\"}")
                + ",\"bufferViews\":[{\"buffer\":0,\"byteLength\":72},"
                + "{\"buffer\":0,\"byteOffset\":72,\"byteLength\":36}],"
                + "\"extensionsUsed\":[\"EXT_mesh_gpu_instancing\"],"
                + "\"extensionsRequired\":[\"EXT_mesh_gpu_instancing\"]",
            0,
            0,
            0,
            3,
            0,
            0,
            6,
            1,
            0);
    bring(file);
    waitForViews();
    assertThat(page.locator("[role=treeitem]")).hasCount(4);
    page.locator("[role=treeitem]", new Page.LocatorOptions().setHasText("row_2")).click();
    assertThat(page.locator(".facts")).containsText("3 copies");
    stop("Landing");
    button("Land as GLB").click();
    landed();
    Locator link = page.locator(".quayside-body td a[href*=download]");
    Download download = page.waitForDownload(link::click);
    Path glb = folder.resolve("landed.glb");
    download.saveAs(glb);
    JsonNode seen = Node.run("look-glb.mjs", glb);
    assertEquals(1, seen.path("nodes").size(), seen.toString());
    assertEquals(3, seen.path("meshes").size());
    JsonNode third = seen.path("meshes").get(2);
    assertEquals("row/row_3", third.path("path").asText());
    assertEquals(6, third.path("box").get(0).asDouble(), 1e-6);
    assertEquals(3, third.path("box").get(4).asDouble(), 1e-6);
    assertEquals(0, seen.path("warnings").size(), seen.path("warnings").toString());
  }
}
