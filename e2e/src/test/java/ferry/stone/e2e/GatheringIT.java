package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.assertions.LocatorAssertions.ContainsTextOptions;
import com.microsoft.playwright.options.SelectOption;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.LandedContents;
import ferry.stone.core.landing.LandedContents.What;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Several files as one asset on the page: a character, and its motion in another file. */
class GatheringIT extends OnThePage {

  private Path landed(String stem, String format, What without) throws Exception {
    CargoFolder files = DemoCargo.unpack(DemoWorld.Cargo.HERON, folder);
    Scene heron = CargoReader.read("heron", ReadContext.of(files));
    LandingOptions options =
        LandingOptions.of(format).withContents(new LandedContents("", Set.of(without)));
    Path file = folder.resolve(stem + "." + format);
    Landing.write(
        heron,
        options,
        stem,
        files,
        path -> Files.newOutputStream(folder.resolve(path)),
        Progress.NONE);
    return file;
  }

  @Test
  void motionOfOneFileMovesTheCharacterOfAnother() throws Exception {
    bring(landed("bird", "glb", What.CLIPS), landed("steps", "fbx", What.SHAPES));
    waitForViews();
    Locator taken = page.getByLabel("Taken of steps.fbx");
    assertThat(taken).hasValue("all");
    taken.selectOption("motion");
    assertThat(page.getByLabel("Taken of steps.fbx")).isEnabled();
    assertThat(page.getByLabel("Taken of steps.fbx")).hasValue("motion");
    stop("Survey");
    // The cargo is read anew, which takes its time on a busy machine.
    assertThat(finding("motion-put-on"))
        .containsText("same name", new LocatorAssertions.ContainsTextOptions().setTimeout(30_000));
    // The part that the second file made before is gone from the list, and so from the views.
    Locator before = page.locator("[role=treeitem]", new Page.LocatorOptions().setHasText("steps"));
    assertThat(before).hasCount(0);
    waitForViews();
    byte[] rest = still("near");
    labelled("Clip").selectOption(new SelectOption().setLabel("wade"));
    labelled("Frame").fill("18");
    changed("near", rest, "the bird wades");
    stop("Landing");
    button("Land as GLB").click();
    assertThat(page.locator(".quayside-body .pill-kept").first())
        .containsText("kept", new ContainsTextOptions().setTimeout(30_000));
    stop("Proof");
    assertThat(page.getByText("Vertices during wade").first()).isVisible();
    assertThat(page.locator("tr[data-verdict=LOST]")).hasCount(0);
    page.reload();
    stop("Cargo");
    assertThat(page.getByLabel("Taken of steps.fbx")).hasValue("motion");
  }
}
