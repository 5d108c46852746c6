package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import ferry.stone.demo.DemoWorld;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.regex.Pattern;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;

/** A lantern on its post and nine loose images, put on by their names and looks, on the page. */
class MaterialBenchIT extends OnThePage {
  private static final Pattern PUT_ON = Pattern.compile(".*roughness: .*ORM.*");

  private Locator cell(String material, String channel) {
    return page.locator(".bench-cell[aria-label^='" + material + ", " + channel + "']");
  }

  @Test
  void nineLooseImagesComeToLandOnTheirChannels() throws Exception {
    bring(zip(DemoWorld.Cargo.GATE_LANTERN));
    long start = System.nanoTime();
    waitForViews();
    page.keyboard().press("m");
    page.waitForURL("**/materials");
    assertThat(page.getByText("9 of 9 fit")).isVisible();
    assertThat(cell("oak", "normal")).hasAttribute("aria-label", "oak, normal: nothing");
    button("Put all that fit").click();
    assertThat(cell("lantern_iron", "roughness")).hasAttribute("aria-label", PUT_ON);
    assertThat(cell("oak", "normal")).hasAttribute("aria-label", "oak, normal: post_nrm.png");
    assertThat(page.getByText("9 of 9 fit")).isHidden();

    // By the keyboard: right to the normal map, take it away, take that back.
    Locator base = cell("oak", "base colour");
    base.focus();
    page.keyboard().press("ArrowRight");
    page.keyboard().press("Delete");
    assertThat(cell("oak", "normal")).hasAttribute("aria-label", "oak, normal: nothing");
    page.keyboard().press("Enter");
    assertThat(labelled("normal of oak")).isVisible();
    button("As found").click();
    assertThat(cell("oak", "normal")).hasAttribute("aria-label", "oak, normal: post_nrm.png");
    page.keyboard().press("Escape");

    lookedAtTruthfully();

    // A search leaves one row.
    page.keyboard().press("/");
    page.keyboard().type("PaneGlass");
    assertThat(page.locator(".bench-grid tbody tr")).hasCount(1);

    stop("Landing");
    button("Land as GLB").click();
    landed();
    stop("Proof");
    assertThat(page.locator("tr[data-verdict=KEPT]").first()).isVisible();
    assertTrue((System.nanoTime() - start) / 1e9 < 60, "under a minute");
    assertThat(page.locator("tr[data-verdict=LOST]")).hasCount(0);
    Download download =
        page.waitForDownload(() -> page.locator(".quayside-head").getByText("Download").click());
    Path glb = folder.resolve("lantern.glb");
    download.saveAs(glb);
    JsonNode report = Node.run("validate-gltf.mjs", glb);
    assertEquals(0, report.path("errors").asInt() + report.path("warnings").asInt());
    JsonNode gltf = json(Files.readAllBytes(glb));
    assertEquals(3, gltf.path("materials").size());
    for (JsonNode material : gltf.path("materials")) {
      assertTrue(material.at("/pbrMetallicRoughness/baseColorTexture").isObject(), "base colour");
    }
    JsonNode iron = material(gltf, "lantern_iron");
    assertTrue(iron.path("normalTexture").isObject());
    assertTrue(iron.path("occlusionTexture").isObject());
    assertTrue(iron.at("/pbrMetallicRoughness/metallicRoughnessTexture").isObject());
    assertTrue(material(gltf, "pane_glass").path("emissiveTexture").isObject());
    assertTrue(material(gltf, "oak").path("normalTexture").isObject());
  }

  /** Lit from all around, and one channel alone: roughness is grey, whatever colour the oak has. */
  private void lookedAtTruthfully() throws Exception {
    Locator view = page.locator(".bench-view canvas");
    BufferedImage even = seen(view);
    labelled("Light").selectOption("surroundings");
    until(() -> differing(even, seen(view)) > 0.02, "the surroundings light it");
    labelled("Shading").selectOption("channel");
    labelled("Channel").selectOption("roughness");
    until(() -> isGrey(post(view)), "roughness is shown as grey");
    labelled("Channel").selectOption("base");
    until(() -> !isGrey(post(view)), "oak is brown");
    labelled("Shading").selectOption("surface");
    labelled("Light").selectOption("even");
  }

  private static BufferedImage seen(Locator view) {
    try {
      return ImageIO.read(new ByteArrayInputStream(view.screenshot()));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static int post(Locator view) {
    BufferedImage image = seen(view);
    return image.getRGB(image.getWidth() / 2, image.getHeight() * 13 / 20);
  }

  private static boolean isGrey(int rgb) {
    int r = rgb >> 16 & 255;
    int g = rgb >> 8 & 255;
    int b = rgb & 255;
    return Math.abs(r - g) < 4 && Math.abs(g - b) < 4;
  }

  /** The JSON chunk: 12 bytes of head, its length, its type (glTF 2.0 section 4.4). */
  private static JsonNode json(byte[] glb) throws IOException {
    int length = ByteBuffer.wrap(glb).order(ByteOrder.LITTLE_ENDIAN).getInt(12);
    return new ObjectMapper().readTree(glb, 20, length);
  }

  private static JsonNode material(JsonNode gltf, String name) {
    for (JsonNode material : gltf.path("materials")) {
      if (material.path("name").asText().equals(name)) {
        return material;
      }
    }
    throw new AssertionError("no material " + name);
  }
}
