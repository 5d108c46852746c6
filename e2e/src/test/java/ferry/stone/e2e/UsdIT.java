package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.demo.DemoWorld;
import java.awt.image.BufferedImage;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** A scene of layers comes in, its variants and payloads are chosen, and it lands as a package. */
class UsdIT extends OnThePage {
  private Locator file(String name) {
    return page.locator(".quayside-body tr:has(td[title='" + name + "'])");
  }

  @Test
  void theBargeIsLitOrDarkAndGetsItsNetsBack() throws Exception {
    bring(zip(DemoWorld.Cargo.BARGE));
    waitForViews();
    assertThat(file("barge_at_dusk.usda")).containsText("opened");
    assertThat(file("layers/light.usda")).containsText("sublayer of barge_at_dusk.usda");
    assertThat(file("parts/heron.usdc")).containsText("reference of /Barge/heron");
    assertThat(labelled("Barge · lamps")).hasValue("lit");
    BufferedImage lit = imageOf("far");
    labelled("Barge · lamps").selectOption("dark");
    until(() -> differing(lit, imageOf("far")) > 0.001, "the lanterns are not seen");
    assertThat(labelled("Barge · lamps")).hasValue("dark");
    page.reload();
    assertThat(labelled("Barge · lamps")).hasValue("dark");
    button("As the files choose").click();
    assertThat(labelled("Barge · lamps")).hasValue("lit");
    waitForViews();
    until(() -> differing(lit, imageOf("far")) < 0.001, "the lanterns are seen again");
    // The table of files has what is not there among them.
    assertThat(file("../parts/nets.usdc")).containsText("not found");
    assertThat(labelled("File for ../parts/nets.usdc").locator("option", optionOf("nets_new.usdc")))
        .hasCount(1);
    // What is loaded on demand is missing under its name: the file that it became is offered.
    stop("Survey");
    Locator missing = page.locator("tr[data-code=usd-layer-missing]");
    assertThat(missing).containsText("parts/nets.usdc");
    missing.getByText("Use nets_new.usdc").click();
    assertThat(missing).hasCount(0);
    waitForViews();
    page.getByPlaceholder("Find a part").fill("coil_1");
    assertThat(page.locator("[role=treeitem]", has("coil_1"))).hasCount(1);
    stop("Cargo");
    labelled("Barge/nets, loaded on demand").click();
    assertThat(page.locator("[role=treeitem]", has("coil_1"))).hasCount(0);
    labelled("Barge/nets, loaded on demand").click();
    assertThat(page.locator("[role=treeitem]", has("coil_1"))).hasCount(1);
    // A part says which layers speak of it.
    page.getByPlaceholder("Find a part").fill("string");
    page.locator("[role=treeitem]", has("string")).first().click();
    assertThat(page.locator(".facts")).containsText("layers/set.usda");
  }

  private static Locator.LocatorOptions optionOf(String text) {
    return new Locator.LocatorOptions().setHasText(text);
  }

  private static Page.LocatorOptions has(String text) {
    return new Page.LocatorOptions().setHasText(text);
  }

  @Test
  void theBargeLandsAsAPackageThatHoldsIt() throws Exception {
    bring(zip(DemoWorld.Cargo.BARGE));
    waitForViews();
    stop("Landing");
    page.locator("label", new Page.LocatorOptions().setHasText("USDZ")).first().click();
    button("Land as USDZ").click();
    landed();
    stop("Proof");
    Download download =
        page.waitForDownload(() -> page.locator(".quayside-head").getByText("Download").click());
    Path usdz = folder.resolve("landed").resolve("barge.usdz");
    download.saveAs(usdz);
    assertThat(page.locator(".quayside-body")).containsText("Vertices under their joints");
    Locator lost = page.locator("tr[data-verdict=LOST]");
    assertThat(lost).hasCount(1);
    assertThat(lost).containsText("nets.usdc");
    Scene landed =
        CargoReader.read("barge", ReadContext.of(new CargoFolder(Map.of("barge.usdz", usdz))));
    assertEquals(1, landed.skins().size());
    assertEquals(1, landed.caches().size());
    assertTrue(landed.textures().stream().allMatch(t -> t.embedded() != null));
  }
}
