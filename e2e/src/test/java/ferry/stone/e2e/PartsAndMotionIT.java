package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import ferry.stone.demo.DemoWorld;
import java.awt.image.BufferedImage;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.Test;

/** Parts in files of their own, curves of a clip, another crossing as a backdrop. */
class PartsAndMotionIT extends OnThePage {

  @Test
  void eachPartLandsInAFileOfItsOwnAndIsProved() throws Exception {
    bring(zip(DemoWorld.Cargo.LANTERN_STRING));
    waitForViews();
    stop("Landing");
    page.getByLabel("Each part in a file of its own").click();
    page.getByLabel("Names of the files", new Page.GetByLabelOptions().setExact(true))
        .fill("{number}_{part}");
    button("Land as GLB").click();
    Locator link = page.locator(".quayside-body td a", new Page.LocatorOptions().setHasText("zip"));
    assertThat(link).isVisible();
    Download download = page.waitForDownload(link::click);
    Path zip = folder.resolve("parts.zip");
    download.saveAs(zip);
    List<String> names = new ArrayList<>();
    try (ZipFile files = new ZipFile(zip.toFile())) {
      for (ZipEntry entry : files.stream().toList()) {
        names.add(entry.getName());
      }
      assertTrue(names.size() > 3, names.toString());
      assertTrue(names.get(0).matches("0?1_\\w+\\.glb"), names.get(0));
      // An independent reader finds the part alone.
      Path glb = folder.resolve("part.glb");
      try (InputStream in = files.getInputStream(files.getEntry(names.get(0)))) {
        Files.copy(in, glb);
      }
      JsonNode report = Node.run("validate-gltf.mjs", glb);
      assertEquals(0, report.path("errors").asInt() + report.path("warnings").asInt());
    }
    stop("Proof");
    assertThat(page.locator(".quayside-head")).containsText(names.size() + " files");
    // The two posts name an image that the cargo has under another name.
    Locator lost = page.locator("tr[data-verdict=LOST]");
    assertThat(lost).hasCount(2);
    assertThat(lost.first()).containsText("its file is not in the cargo");
  }

  @Test
  void theCurvesOfAClipAreDrawnAndMoveTheMoment() {
    row("Heron automaton");
    waitForViews();
    page.keyboard().press("v");
    assertThat(page.locator(".curves-none")).containsText("Choose a clip");
    page.getByLabel("Clip", new Page.GetByLabelOptions().setExact(true)).selectOption("strike");
    page.locator("[role=treeitem]", new Page.LocatorOptions().setHasText("neck_1")).click();
    Locator curves = page.locator(".curves-plot svg");
    assertThat(curves.locator("path")).hasCount(6);
    assertThat(page.locator(".curves-values")).containsText("X0.0 °");
    var box = curves.boundingBox();
    page.mouse().click(box.x + box.width / 2, box.y + 20);
    assertThat(page.locator(".timeline .moment")).containsText("0.60 s");
    assertThat(page.locator(".curves-values")).not().containsText("X0.0 °");
    page.keyboard().press("v");
    assertThat(curves).hasCount(0);
  }

  @Test
  void aPivotIsTakenFromTheBoxAVertexAndTheGround() throws Exception {
    Path obj = folder.resolve("crate.obj");
    Files.writeString(
        obj,
        "o crate\nv 1 0 0\nv 3 0 0\nv 3 0 2\nv 1 0 2\nv 1 2 0\nv 3 2 0\nv 3 2 2\nv 1 2 2\n"
            + "f 1 2 3 4\nf 5 8 7 6\nf 1 5 6 2\nf 2 6 7 3\nf 3 7 8 4\nf 4 8 5 1\n");
    bring(obj);
    waitForViews();
    stop("Handling");
    byte[] before = still("far");
    page.locator("[role=treeitem]", new Page.LocatorOptions().setHasText("crate")).click();
    byte[] chosen = changed("far", before, "the part is marked, with its pivot");
    button("Pivot").click();
    assertThat(page.locator(".view[data-side=far] .pick-note")).containsText("point of the box");
    changed("far", chosen, "the points of the box are drawn");
    Locator canvas = page.locator(".view[data-side=far] canvas");
    int[] highest = firstPixel(imageOf("far"), 0xe0b64b);
    canvas.click(new Locator.ClickOptions().setPosition(highest[0] + 3, highest[1] + 3));
    Locator told = page.locator(".quayside-body tbody tr td:nth-child(3)");
    assertThat(told).containsText("a point of its box");
    assertThat(told).containsText("height top");
    still("far");
    var box = canvas.boundingBox();
    // Between the points of the box lies the surface: its nearest vertex.
    int[] surface = {highest[0] + 14, highest[1] + 28};
    canvas.click(new Locator.ClickOptions().setPosition(surface[0], surface[1]));
    assertThat(told).containsText("a picked vertex");
    still("far");
    for (int y = (int) box.height - 40; y > box.height / 2; y -= 14) {
      for (int x = 20; x < box.width / 3; x += 14) {
        if (!told.innerText().contains("a point by its numbers")) {
          page.mouse().click(box.x + x, box.y + y);
        }
      }
    }
    assertThat(told).containsText("a point by its numbers");
    assertThat(page.locator(".stone")).hasCount(1);
  }

  @Test
  void pointsAndLinesAreDrawnAndPicked() throws Exception {
    Path ply = folder.resolve("cloud.ply");
    StringBuilder text =
        new StringBuilder(
            "ply\nformat ascii 1.0\nelement vertex 900\nproperty float x\nproperty float y\n"
                + "property float z\nproperty uchar red\nproperty uchar green\n"
                + "property uchar blue\nend_header\n");
    for (int i = 0; i < 900; i++) {
      text.append(i % 30 / 10.0).append(' ').append(i / 30 / 10.0).append(" 0 255 0 255\n");
    }
    Files.writeString(ply, text);
    bring(ply);
    waitForViews();
    shows(
        "far",
        rgb -> (rgb >> 16 & 255) > 220 && (rgb >> 8 & 255) < 60 && (rgb & 255) > 220,
        0.01,
        "the points are seen in their colour");
    Path obj = folder.resolve("rope.obj");
    Files.writeString(obj, "o rope\nv 0 0 0\nv 2 2 0\nv 4 0 0\nl 1 2 3\n");
    page.navigate(url());
    bring(obj);
    waitForViews();
    byte[] before = still("far");
    page.locator("[role=treeitem]", new Page.LocatorOptions().setHasText("rope")).click();
    changed("far", before, "the chosen line is seen");
  }

  /** The first pixel of a colour from above, or of one much like it. */
  private static int[] firstPixel(BufferedImage image, int colour) {
    for (int y = 0; y < image.getHeight(); y++) {
      for (int x = 0; x < image.getWidth(); x++) {
        int off = 0;
        for (int shift = 0; shift <= 16; shift += 8) {
          int a = (image.getRGB(x, y) >> shift) & 255;
          off = Math.max(off, Math.abs(a - ((colour >> shift) & 255)));
        }
        if (off < 6) {
          return new int[] {x, y};
        }
      }
    }
    throw new AssertionError("no pixel of the colour " + Integer.toHexString(colour));
  }

  @Test
  void anotherCrossingStandsBehindAtItsTrueSize() throws Exception {
    row("Capstan");
    waitForViews();
    button("Far").click();
    assertThat(page.locator(".view[data-side=near]")).isHidden();
    byte[] before = still("far");
    BufferedImage alone = imageOf("far");
    page.getByLabel("Backdrop").selectOption("Heron automaton");
    changed("far", before, "the heron is seen behind");
    double behind = differing(alone, imageOf("far"));
    assertTrue(behind > 0.001 && behind < 0.2, "the heron is seen behind: " + behind);
    page.getByLabel("Backdrop").selectOption("No backdrop");
    until(() -> differing(alone, imageOf("far")) < 0.0003, "and is gone again");
  }

  @Test
  void offersThatTakeSomethingAwayAreNotAcceptedWithOthers() throws Exception {
    Path obj = folder.resolve("tray.obj");
    // An open tray: its outline is large, so both sides are offered, but only by itself.
    Files.writeString(
        obj,
        "o tray\nv -1 0 -1\nv 1 0 -1\nv 1 0 1\nv -1 0 1\nv -1 1 -1\nv 1 1 -1\nv 1 1 1\nv -1 1 1\n"
            + "f 1 2 3 4\nf 1 5 6 2\nf 2 6 7 3\nf 3 7 8 4\nf 4 8 5 1\n");
    bring(obj);
    waitForViews();
    stop("Survey");
    Locator open = page.locator("tr[data-code=open-edges]");
    assertThat(open).containsText("Show both sides");
    button("Accept all offers").click();
    assertThat(page.locator("tr[data-code=no-normals]")).hasCount(0);
    assertThat(open).hasCount(1);
    assertThat(page.locator(".stone[data-step=materialFlags]")).hasCount(0);
    open.click();
    open.getByText("Close all holes").click();
    assertThat(open).hasCount(0);
    assertThat(page.locator(".stone[data-step=fill]")).containsText("1 hole closed");
  }
}
