package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import ferry.stone.demo.DemoWorld;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The whole job by hand-like actions: real page, real server, real files. */
class WholeJobIT extends OnThePage {
  private static Path zip;

  @BeforeAll
  static void write() throws Exception {
    zip = zip(DemoWorld.Cargo.BOLLARD_SET);
  }

  private static boolean isDark(int rgb) {
    return (rgb >> 16 & 255) < 95 && (rgb >> 8 & 255) < 105 && (rgb & 255) < 120;
  }

  private static boolean isRed(int rgb) {
    return (rgb >> 16 & 255) > 2 * (rgb >> 8 & 255) && (rgb >> 16 & 255) > 60;
  }

  @Test
  void aZippedObjIsFixedLandedAndProved() throws Exception {
    bring(zip);
    waitForViews();
    assertThat(page.locator(".view[data-side=near] .view-head")).containsText("96 m");
    assertTrue(part("near", WholeJobIT::isDark) > 0.02, "the near side shows the bollards");

    stop("Survey");
    assertThat(page.locator("tr[data-code=unit-likely]")).containsText("centimetre");
    button("Set unit to centimetre").click();
    button("Read Z as up").click();
    assertThat(page.locator(".stone[data-step=sourceUp]")).isVisible();
    assertThat(page.locator(".view[data-side=far] .view-head")).containsText("0.965 m");
    button("Use granite_roughness.png").click();
    assertThat(page.locator("tr[data-code=texture-missing]")).hasCount(0);

    page.locator("#add-step").click();
    button("Drop on the ground").click();
    assertThat(page.locator(".stone[data-step=ground]")).containsText("stands already");
    waitForViews();
    assertTrue(part("far", WholeJobIT::isDark) > 0.02, "the far side shows the bollards");

    // A finding shows its edges in vermilion.
    page.locator("tr[data-code=open-edges]").click();
    shows("near", WholeJobIT::isRed, 0.0005, "the open edges are marked");
    assertThat(page.locator("[role=treeitem][aria-selected=true]"))
        .hasText(Pattern.compile("bollard_mid"));
    assertTrue(page.url().contains("part="), "the address names the part");

    stop("Landing");
    button("Land as GLB").click();
    landed();
    stop("Proof");
    assertThat(page.locator("tr[data-verdict=KEPT]").first()).containsText("0.000 mm");
    assertThat(page.locator("tr[data-verdict=LOST]")).hasCount(0);

    Download download =
        page.waitForDownload(() -> page.locator(".quayside-head").getByText("Download").click());
    Path glb = folder.resolve("download.glb");
    download.saveAs(glb);
    JsonNode report = Node.run("validate-gltf.mjs", glb);
    assertEquals(0, report.path("errors").asInt() + report.path("warnings").asInt());
    JsonNode read = Node.run("read-glb.mjs", glb);
    assertEquals(0.965, read.at("/max/1").asDouble(), 1e-4);
    assertEquals(0, read.at("/min/1").asDouble(), 1e-6);
  }

  @Test
  void shadingLayoutsAndKeys() throws Exception {
    row("Lantern string");
    waitForViews();
    for (String shading : List.of("sides", "pieces", "uv")) {
      byte[] before = picture("near");
      page.getByLabel("Shading").selectOption(shading);
      changed("near", before, "shading by " + shading);
    }
    page.keyboard().press("4");
    assertThat(page.locator(".twin[data-layout=seam] .seam")).isVisible();
    page.keyboard().press("3");
    assertThat(page.locator(".view[data-side=near]")).isHidden();
    page.keyboard().press("2");
    page.keyboard().press("?");
    assertThat(page.getByRole(AriaRole.DIALOG)).containsText("find the selection");
    page.keyboard().press("Escape");
    assertThat(page.getByRole(AriaRole.DIALOG)).isHidden();
    page.keyboard().press("/");
    page.keyboard().type("post_e");
    assertThat(page.locator("[role=treeitem]")).hasCount(1);
    page.locator("[role=treeitem]").click();
    page.keyboard().press("f");
    page.keyboard().press("h");
    assertThat(page.locator("[role=treeitem] .kind")).hasText("hidden");
    page.keyboard().press("]");
    page.waitForURL(Pattern.compile("/survey"));
    page.keyboard().press("d");
    assertEquals("night", page.locator("html").getAttribute("data-theme"));
  }

  @Test
  void clickingAPartSelectsItInTheTree() {
    row("Bollard set");
    waitForViews();
    page.keyboard().press("1");
    assertThat(page.locator(".view[data-side=far]")).isHidden();
    byte[] free = still("near");
    Locator canvas = page.locator(".view[data-side=near] canvas");
    var box = canvas.boundingBox();
    page.mouse().click(box.x + box.width / 2, box.y + box.height / 2);
    byte[] chosen = changed("near", free, "the part is marked");
    page.keyboard().press("f");
    changed("near", chosen, "the part is brought near");
    page.mouse().click(box.x + box.width / 2, box.y + box.height / 2);
    assertThat(page.locator("[role=treeitem][aria-selected=true]")).hasCount(1);
  }

  @Test
  void stepsAreEditedSwitchedUndoneAndKeptOnReload() {
    bring(zip);
    waitForViews();
    page.keyboard().press("a");
    button("Scale").click();
    Locator factor = page.getByLabel("Factor");
    factor.fill("0.01");
    factor.press("Enter");
    assertThat(page.locator(".view[data-side=far] .view-head")).containsText("0.96 m");
    page.locator(".stone[data-step=scale] input[type=checkbox]").click();
    assertThat(page.locator(".view[data-side=far] .view-head")).containsText("96 m");
    page.keyboard().press("Escape");
    page.keyboard().press("Control+z");
    assertThat(page.locator(".view[data-side=far] .view-head")).containsText("0.96 m");
    page.reload();
    assertThat(page.locator(".stone[data-step=scale]")).containsText("× 0.01");
    assertThat(page.locator(".view[data-side=far] .view-head")).containsText("0.96 m");
    page.keyboard().press("Control+Shift+z");
    assertThat(page.locator(".stone-off")).hasCount(1);
  }

  @Test
  void aDroppedFolderKeepsItsPathsAndMissingFilesCanBeChosen() {
    // A drop as the browser makes it: files with their names, dispatched on the page.
    page.evaluate(
        """
        () => {
          const transfer = new DataTransfer();
          const obj = 'mtllib m.mtl\\no slab\\nv 0 0 0\\nv 1 0 0\\nv 1 1 0\\nvt 0 0\\n'
            + 'usemtl oak\\nf 1/1 2/1 3/1\\n';
          transfer.items.add(new File([obj], 'slab.obj'));
          transfer.items.add(new File(['newmtl oak\\nmap_Kd oak_color.png\\n'], 'm.mtl'));
          transfer.items.add(new File(['no picture'], 'oak_colour.png'));
          window.dispatchEvent(new DragEvent('drop', { dataTransfer: transfer, bubbles: true }));
        }
        """);
    page.waitForURL(Pattern.compile("/crossings/[-0-9a-f]+/cargo"));
    assertThat(page.locator(".quayside-body")).containsText("oak_color.png");
    assertThat(page.locator(".quayside-head .pill-loss")).hasText("1 not found");
    page.getByLabel("File for oak_color.png").selectOption("oak_colour.png");
    assertThat(page.locator(".quayside-body .pill-change")).hasText("chosen");
    assertThat(page.locator(".quayside-head .pill-loss")).hasCount(0);
  }

  @Test
  void badFilesGetAMessageAndNothingIsLost() throws Exception {
    Path bad = Files.writeString(folder.resolve("broken.obj"), "v 0 0 0\nv 1 0 0\nf 1 2 7\n");
    bring(bad);
    assertThat(page.locator(".quayside-body .loss")).containsText("broken.obj, line 3");
    assertThat(page.locator(".quayside-body")).containsText("broken.obj");
    page.navigate(url());
    assertThat(page.locator(".quay-row").first()).containsText("could not be read");
    Path empty = Files.writeString(folder.resolve("empty.obj"), "");
    bring(empty);
    assertThat(page.locator(".quayside-body .loss")).containsText("empty");
  }

  @Test
  void aCrashLosesNoCrossing() throws Exception {
    Path data = folder.resolve("crash");
    FerryProcess first = FerryProcess.start(data, false);
    page.navigate(first.url);
    bring(zip);
    waitForViews();
    page.keyboard().press("a");
    button("Drop on the ground").click();
    assertThat(page.locator(".stone[data-step=ground]")).isVisible();
    assertThat(page.locator(".stone[data-step=ground]")).containsText("up 48 m");
    String path = page.url().substring(first.url.length());
    first.kill();
    try (FerryProcess second = FerryProcess.start(data, false)) {
      page.navigate(second.url + path);
      waitForViews();
      assertThat(page.locator(".stone[data-step=ground]")).containsText("up 48 m");
    }
  }

  @Test
  void aRigPlaysOnBothSidesAndLandsWithItsMotion() throws Exception {
    Path heron = WholeJobIT.folder.resolve("heron.zip");
    try (OutputStream out = Files.newOutputStream(heron)) {
      DemoWorld.write(DemoWorld.Cargo.HERON, out);
    }
    bring(heron);
    waitForViews();
    byte[] nearRest = picture("near");
    byte[] farRest = picture("far");
    page.getByLabel("Clip", new Page.GetByLabelOptions().setExact(true)).selectOption("strike");
    page.getByLabel("Frame", new Page.GetByLabelOptions().setExact(true)).fill("18");
    assertThat(page.locator(".moment")).hasText("0.60 s · frame 18 of 36");
    changed("near", nearRest, "the near side moves");
    byte[] moved = changed("far", farRest, "the far side moves");
    page.getByLabel("Clip", new Page.GetByLabelOptions().setExact(true)).selectOption("Rest pose");
    byte[] even = changed("far", moved, "the far side rests");
    labelled("Light").selectOption("own");
    byte[] lit = changed("far", even, "the file's lamp shines");
    labelled("Light").selectOption("even");
    byte[] plain = changed("far", lit, "the file's lamp is off");
    page.getByLabel("Camera").selectOption("visitor");
    changed("far", plain, "the view stands at the camera");
    page.getByLabel("Camera").selectOption("Free view");
    // A morph slider moves both views as well.
    page.locator("#find-part").fill("heron");
    page.getByText("heron", new Page.GetByTextOptions().setExact(true)).first().click();
    byte[] chosen = still("far");
    page.locator("#morph-2").fill("1");
    changed("far", chosen, "the morph target moves");
    stop("Landing");
    button("Land as GLB").click();
    landed();
    stop("Proof");
    assertThat(page.getByText("Vertices during strike")).isVisible();
    assertThat(page.getByText("Most joints of a vertex")).isVisible();
  }

  @Test
  void aBundleWithARenamedDataFileIsRepairedAndLandedAgain() throws Exception {
    Path whole = WholeJobIT.folder.resolve("capstan-whole.zip");
    try (OutputStream out = Files.newOutputStream(whole)) {
      DemoWorld.write(DemoWorld.Cargo.CAPSTAN, out);
    }
    Path broken = WholeJobIT.folder.resolve("capstan.zip");
    try (ZipFile from = new ZipFile(whole.toFile());
        ZipOutputStream to = new ZipOutputStream(Files.newOutputStream(broken))) {
      for (ZipEntry entry : java.util.Collections.list(from.entries())) {
        to.putNextEntry(
            new ZipEntry(entry.getName().replaceAll("[^/]+\\.bin$", "data/old_name.bin")));
        from.getInputStream(entry).transferTo(to);
        to.closeEntry();
      }
    }
    bring(broken);
    waitForViews();
    stop("Survey");
    // Zeros stand in for the data: they are not surveyed, and they do not land.
    var missing = page.locator("tr[data-code=buffer-missing]").first();
    assertThat(missing).isVisible();
    assertThat(page.locator("tr[data-code=degenerate-faces]")).hasCount(0);
    stop("Landing");
    button("Land as GLB").click();
    assertThat(page.getByText("so the landing would be empty")).isVisible();
    stop("Survey");
    missing.getByRole(AriaRole.BUTTON).first().click();
    assertThat(page.locator("tr[data-code=buffer-missing]")).hasCount(0);
    waitForViews();
    button("Ledger").click();
    assertThat(page.locator("tr[data-verdict=KEPT]").first()).isVisible();
    assertThat(page.locator(".quayside-head")).containsText("nothing has landed from this yet");
    stop("Landing");
    page.getByLabel("glTF, separate files").check();
    page.getByLabel("Name of the files").fill("winch");
    page.getByLabel("Packed without loss").check();
    button("Land as glTF").click();
    assertThat(page.locator(".quayside-body")).containsText("winch.gltf");
    stop("Proof");
    assertThat(page.locator(".quayside-head")).containsText("0 lost");
  }

  @Test
  void aDroppedFolderKeepsItsInnerPaths() throws Exception {
    Path folder = Files.createDirectories(WholeJobIT.folder.resolve("quay"));
    Files.createDirectories(folder.resolve("deep"));
    Files.writeString(
        folder.resolve("slab.obj"), "mtllib deep/slab.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    Files.writeString(folder.resolve("deep/slab.mtl"), "newmtl a\n");
    assertThat(page.getByTestId("files")).isAttached();
    until(
        () ->
            (boolean)
                page.evaluate(
                    "() => { window.dispatchEvent(new DragEvent('dragover', {dataTransfer: (() => {"
                        + " const t = new DataTransfer(); t.items.add(new File(['x'], 'x.obj'));"
                        + " return t; })()}));"
                        + " return document.querySelector('.slip-over') !== null; }"),
        "the page takes drops");
    var data = new com.google.gson.JsonObject();
    data.add("items", new com.google.gson.JsonArray());
    var files = new com.google.gson.JsonArray();
    files.add(folder.toString());
    data.add("files", files);
    data.addProperty("dragOperationsMask", 1);
    var session = page.context().newCDPSession(page);
    for (String type : List.of("dragEnter", "dragOver", "drop")) {
      var event = new com.google.gson.JsonObject();
      event.addProperty("type", type);
      event.addProperty("x", 600);
      event.addProperty("y", 400);
      event.add("data", data);
      session.send("Input.dispatchDragEvent", event);
    }
    page.waitForURL(Pattern.compile("/crossings/[-0-9a-f]+/cargo"));
    assertThat(page.getByText("deep/slab.mtl").first()).isVisible();
  }

  @Test
  void anFbxRigShowsItsBindPoseAndLandsAsFbxWithNothingLost() throws Exception {
    Path heron = WholeJobIT.folder.resolve("heron-fbx.zip");
    try (OutputStream out = Files.newOutputStream(heron)) {
      DemoWorld.write(DemoWorld.Cargo.HERON_FBX, out);
    }
    bring(heron);
    waitForViews();
    byte[] resting = picture("near");
    Page.GetByLabelOptions exactly = new Page.GetByLabelOptions().setExact(true);
    page.getByLabel("Clip", exactly).selectOption("wade");
    page.getByLabel("Frame", exactly).fill("20");
    byte[] wading = changed("near", resting, "the heron wades");
    page.getByLabel("Clip", exactly).selectOption("Bind pose");
    assertThat(page.locator(".moment")).hasText("bind pose");
    changed("near", wading, "the bind pose is another one");
    assertThat(page.getByLabel("Textures", exactly).getByText("inside")).isVisible();
    assertThat(page.getByText("1 not found")).hasCount(0);
    stop("Landing");
    page.getByLabel("FBX", exactly).check();
    page.getByLabel("Up axis of the file").selectOption("Z up");
    button("Land as FBX").click();
    landed();
    stop("Proof");
    assertThat(page.getByText("Vertices during strike")).isVisible();
    assertThat(page.getByText("0 lost").first()).isVisible();
  }

  @Test
  void detailLevelsAreShownOneAtATime() throws Exception {
    Path bollard = WholeJobIT.folder.resolve("bollard-fbx.zip");
    try (OutputStream out = Files.newOutputStream(bollard)) {
      DemoWorld.write(DemoWorld.Cargo.BOLLARD_FBX, out);
    }
    bring(bollard);
    waitForViews();
    byte[] finest = picture("far");
    page.getByLabel("Detail level").selectOption("Level 3 of 3");
    changed("far", finest, "the coarsest level is shown");
    page.getByLabel("Detail level").selectOption("Level 1 of 3");
    until(() -> java.util.Arrays.equals(finest, picture("far")), "the finest one is back");
    assertThat(page.getByLabel("Textures").getByText("missing")).isVisible();
  }
}
