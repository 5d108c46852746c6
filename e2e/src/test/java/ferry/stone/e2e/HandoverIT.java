package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.SelectOption;
import ferry.stone.demo.DemoWorld;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Pages with the asset inside, opened from the disk in a browser that has no network. */
class HandoverIT extends OnThePage {
  /** Of what a page may weigh beside its asset. */
  private static final int MOST_BESIDE = 1_000_000;

  private static final String DRAWN_NEXT =
      "canvas => new Promise(done => requestAnimationFrame(() => requestAnimationFrame("
          + "() => done(canvas.toDataURL()))))";

  /** Part of a picture that may differ by more than a shade: edges that a rounding moved. */
  private static final double MOST_APART = 0.001;

  private static BufferedImage picture(Page shown) throws Exception {
    // What was asked for is drawn with the next picture of the screen: two later it is there. It is
    // read as it is drawn, without what lies over it.
    String png = (String) shown.locator("canvas").evaluate(DRAWN_NEXT);
    byte[] bytes = Base64.getDecoder().decode(png.substring(png.indexOf(',') + 1));
    return ImageIO.read(new ByteArrayInputStream(bytes));
  }

  private static int middle(BufferedImage image, double across, double down) {
    return image.getRGB((int) (image.getWidth() * across), (int) (image.getHeight() * down))
        & 0xffffff;
  }

  private static Locator button(Page shown, String name) {
    return shown.getByRole(
        AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  private Path landedPage(String which) {
    waitForViews();
    stop("Landing");
    button("Land as GLB").click();
    landed();
    stop("Proof");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Hand over")).click();
    Download download =
        page.waitForDownload(() -> page.locator(".hand-over").getByText(which).click());
    Path file = folder.resolve(download.suggestedFilename());
    download.saveAs(file);
    return file;
  }

  private Page shown(Path file) {
    Page shown = browser.alone(file);
    assertThat(shown.locator("body[data-ready=true]"))
        .isVisible(
            new com.microsoft.playwright.assertions.LocatorAssertions.IsVisibleOptions()
                .setTimeout(90_000));
    return shown;
  }

  @Test
  void anAnimalWithClipsAndShapesIsPlayedTurnedAndBentByTheKeyboard() throws Exception {
    bring(zip(DemoWorld.Cargo.HERON));
    Path file = landedPage("Page with the asset");
    Page shown = shown(file);
    assertThat(shown.locator("h1")).hasText("Heron");
    BufferedImage first = picture(shown);
    // Who wants less motion is not shown any: it starts by hand, and by the keyboard.
    shown.locator("canvas").focus();
    shown.keyboard().press("Space");
    assertThat(button(shown, "Stop")).isVisible();
    assertThat(shown.locator(".player output")).containsText(Pattern.compile("^(0\\.[5-9]|1\\.)"));
    shown.keyboard().press("Space");
    BufferedImage moved = picture(shown);
    assertTrue(differing(first, moved) > 0.004, "the clip moves it");
    shown.keyboard().press("ArrowRight");
    shown.keyboard().press("ArrowRight");
    BufferedImage turned = picture(shown);
    assertTrue(differing(moved, turned) > 0.01, "arrows turn it");
    shown.getByText("Shapes (").click();
    BufferedImage before = picture(shown);
    for (Locator slider : shown.locator(".sliders input").all()) {
      slider.focus();
      shown.keyboard().press("End");
    }
    assertTrue(differing(before, picture(shown)) > 0, "sliders bend it");
    shown.getByText("As they landed").click();
    assertEquals(0, differing(before, picture(shown)), "and back");
    shown.locator("canvas").focus();
    shown.keyboard().press("b");
    assertTrue(middle(picture(shown), 0.02, 0.03) < 0x404040, "night water is behind");
  }

  @Test
  void bothSidesOfAProofStandInOnePageWithTheSeamBetweenThem() throws Exception {
    bring(zip(DemoWorld.Cargo.BOLLARD_SET));
    Path file = landedPage("Page with both sides");
    assertTrue(file.toString().endsWith(".seam.html"), file.toString());
    Page shown = shown(file);
    Locator seam = shown.getByRole(AriaRole.SLIDER, new Page.GetByRoleOptions().setName("Seam"));
    assertThat(seam).hasAttribute("aria-valuenow", "50");
    assertThat(shown.locator(".side-name").first()).hasText("near");
    BufferedImage half = picture(shown);
    shown.locator("canvas").focus();
    for (int i = 0; i < 6; i++) {
      shown.keyboard().press(",");
    }
    assertThat(seam).hasAttribute("aria-valuenow", "32");
    double left = seam.boundingBox().x + seam.boundingBox().width / 2;
    assertEquals(0.32 * half.getWidth(), left, 2, "the line stands where the seam is");
    shown.getByLabel("Sides").selectOption("beside");
    assertThat(seam).isHidden();
    BufferedImage beside = picture(shown);
    assertTrue(differing(half, beside) > 0.005, "each has its half");
    shown.getByText("What this is").click();
    assertThat(shown.locator(".facts")).containsText("Shown is this very file.");
  }

  @ParameterizedTest
  @CsvSource({
    "CAPSTAN,fbx,as it is",
    "HERON,usda,as it is",
    "BOLLARD_SET,glb,as it is",
    "BOLLARD_SET,glb,--image-kind=exact"
  })
  void nearAndLandedLookTheSameThroughThree(DemoWorld.Cargo cargo, String format, String more)
      throws Exception {
    Path out = folder.resolve(cargo + "." + format);
    Path log = folder.resolve("log");
    List<String> asked =
        new ArrayList<>(
            List.of(
                "convert",
                zip(cargo).toString(),
                "--to",
                format,
                "--seam",
                "--out",
                out.toString()));
    if (more.startsWith("--")) {
      asked.add(more);
    }
    assertTrue(Command.run(log, asked.toArray(String[]::new)) <= 3, Files.readString(log));
    Path file;
    try (Stream<Path> written = Files.list(out)) {
      file = written.filter(p -> p.toString().endsWith(".seam.html")).findFirst().orElseThrow();
    }
    Page shown = shown(file);
    // Clips have other names in USD: the pose without is in all.
    Locator clip = shown.getByLabel("Clip", new Page.GetByLabelOptions().setExact(true));
    if (clip.count() > 0) {
      clip.selectOption(new SelectOption().setLabel("No clip"));
    }
    shown.getByLabel("Sides").selectOption("first");
    BufferedImage near = picture(shown);
    shown.getByLabel("Sides").selectOption("second");
    BufferedImage landed = picture(shown);
    int ground = middle(near, 0.01, 0.02);
    assertTrue(covers(near, ground) > 0.01, "something is there");
    assertTrue(differing(near, landed) < MOST_APART, differing(near, landed) + " of the picture");
  }

  /** Part of the pixels that are not the backdrop. */
  private static double covers(BufferedImage image, int ground) {
    int off = 0;
    for (int y = 0; y < image.getHeight(); y += 3) {
      for (int x = 0; x < image.getWidth(); x += 3) {
        off += (image.getRGB(x, y) & 0xffffff) != ground ? 9 : 0;
      }
    }
    return (double) off / (image.getWidth() * image.getHeight());
  }

  @Test
  void looksOfAFileAreChosenAndAPageThatIsCutSaysSo() throws Exception {
    Path gltf = folder.resolve("sail.gltf");
    Files.writeString(gltf, sail());
    bring(gltf);
    Path file = landedPage("Page with the asset");
    String text = Files.readString(file, StandardCharsets.UTF_8);
    assertTrue(text.length() < MOST_BESIDE, text.length() + " characters");
    Page shown = shown(file);
    Locator look = shown.getByLabel("Look");
    assertEquals(3, look.locator("option").count());
    int red = middle(picture(shown), 0.5, 0.5);
    look.selectOption("teal");
    int teal = middle(picture(shown), 0.5, 0.5);
    assertTrue((red >> 16) > (red & 0xff) + 40, Integer.toHexString(red));
    assertTrue((teal & 0xff) > (teal >> 16) + 40, Integer.toHexString(teal));
    look.selectOption("brick");
    assertEquals(red, middle(picture(shown), 0.5, 0.5));

    Path cut = folder.resolve("cut.html");
    int asset = text.indexOf("<script type=\"text/plain\"");
    Files.writeString(cut, text.substring(0, asset + 300));
    Page broken = browser.alone(cut);
    assertThat(broken.getByRole(AriaRole.ALERT)).containsText("Ask for the file again");
  }

  /** A square of two looks: brick and teal. */
  private static String sail() {
    ByteBuffer data = ByteBuffer.allocate(4 * 12 + 12).order(ByteOrder.LITTLE_ENDIAN);
    for (float v : new float[] {-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, 1, 0}) {
      data.putFloat(v);
    }
    for (int i : new int[] {0, 1, 2, 0, 2, 3}) {
      data.putShort((short) i);
    }
    String bytes = Base64.getEncoder().encodeToString(data.array());
    return """
        {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],
        "extensionsUsed":["KHR_materials_variants"],
        "extensions":{"KHR_materials_variants":{"variants":[{"name":"brick"},{"name":"teal"}]}},
        "nodes":[{"mesh":0,"name":"sail"}],
        "materials":[
        {"name":"brick","doubleSided":true,"pbrMetallicRoughness":
        {"baseColorFactor":[0.6,0.1,0.05,1],"metallicFactor":0}},
        {"name":"teal","doubleSided":true,"pbrMetallicRoughness":
        {"baseColorFactor":[0.02,0.3,0.5,1],"metallicFactor":0}}],
        "meshes":[{"name":"sail","primitives":[{"attributes":{"POSITION":0},"indices":1,"material":0,
        "extensions":{"KHR_materials_variants":{"mappings":[
        {"material":0,"variants":[0]},{"material":1,"variants":[1]}]}}}]}],
        "accessors":[
        {"bufferView":0,"componentType":5126,"count":4,"type":"VEC3",
        "min":[-1,-1,0],"max":[1,1,0]},
        {"bufferView":1,"componentType":5123,"count":6,"type":"SCALAR"}],
        "bufferViews":[{"buffer":0,"byteLength":48},{"buffer":0,"byteOffset":48,"byteLength":12}],
        "buffers":[{"byteLength":60,"uri":"data:application/octet-stream;base64,%s"}]}
        """
        .formatted(bytes);
  }
}
