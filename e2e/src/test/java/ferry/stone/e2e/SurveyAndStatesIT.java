package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions.ContainsTextOptions;
import com.microsoft.playwright.options.AriaRole;
import ferry.stone.demo.DemoWorld;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Survey, handling, states, shores and forecasts on the page, with the sail of the demo world. */
class SurveyAndStatesIT extends OnThePage {
  private static Path sail;

  @BeforeAll
  static void write() throws Exception {
    sail = zip(DemoWorld.Cargo.SAIL);
  }

  private Locator stone(String kind) {
    return page.locator(".stone[data-step=" + kind + "]");
  }

  private Locator farHead() {
    return page.locator(".view[data-side=far] .view-head");
  }

  /** By the keyboard alone. */
  private void addStep(String words) {
    page.keyboard().press("a");
    assertThat(page.getByLabel("Find a step")).isFocused();
    page.keyboard().type(words);
    page.keyboard().press("Enter");
  }

  private static boolean isHot(int rgb) {
    return (rgb >> 16 & 255) > 150 && (rgb >> 8 & 255) < 120 && (rgb & 255) < 110;
  }

  /** A seam's width was measured in the likely unit, so the unit is set with the step. */
  @Test
  void anOfferWithLengthsBringsItsUnit() {
    bring(sail);
    waitForViews();
    stop("Survey");
    finding("panels-opposed").getByText("Make faces agree").click();
    assertThat(stone("sourceUnit")).containsText("mm");
    assertThat(stone("unify")).isVisible();
    assertThat(finding("panels-opposed")).hasCount(0);
    assertThat(finding("unit-likely")).hasCount(0);
  }

  @Test
  void findingsAreAnsweredByTheirOffers() throws Exception {
    bring(sail);
    waitForViews();
    stop("Survey");
    for (String code : List.of("unit-likely", "coincident-vertices", "panels-opposed")) {
      assertThat(finding(code)).isVisible();
    }
    page.getByLabel("Shading").selectOption("sides");
    shows("far", SurveyAndStatesIT::isHot, 0.01, "some panels show their backs");
    still("far");
    double backs = part("far", SurveyAndStatesIT::isHot);

    button("Accept all offers").click();
    assertThat(finding("coincident-vertices")).hasCount(0);
    assertThat(page.locator(".quayside-head .pill").first()).hasText("0 to put right");
    assertThat(stone("weld").first()).containsText("joined");
    page.locator("#show-answered").check();
    assertThat(finding("coincident-vertices")).containsText("answered");
    waitForViews();
    double before = part("far", SurveyAndStatesIT::isHot);
    assertTrue(before < backs / 4, "no panel shows its back any more: " + before);

    // Switched off, a step leaves its finding open again; a reload keeps what was done.
    stone("unify").locator("input[type=checkbox]").first().click();
    assertThat(page.locator(".quayside-head .pill").nth(1)).not().hasText("0 to look at");
    page.keyboard().press("Escape");
    page.keyboard().press("Control+z");
    page.reload();
    assertThat(stone("weld").first()).containsText("joined");

    button("Readings").click();
    assertThat(page.locator(".quayside-body")).containsText("centimetre");
    button("Ledger").click();
    assertThat(page.locator(".quayside-body")).containsText("Width");
  }

  @Test
  void anyTwoStatesStandSideBySide() throws Exception {
    bring(sail);
    waitForViews();
    addStep("scale");
    Locator factor = page.getByLabel("Factor");
    factor.fill("0.5");
    factor.press("Enter");
    assertThat(stone("scale")).containsText("× 0.5");
    stop("Handling");
    page.getByLabel("Name for the handling as it is now").fill("half as large");
    button("Keep as it is").click();
    assertThat(page.locator(".named-state")).containsText("1 step");
    factor.fill("0.75");
    factor.press("Enter");
    assertThat(stone("scale")).containsText("× 0.75");

    page.reload();
    waitForViews();
    page.locator(".named-state").getByText("Compare").click();
    assertThat(page.getByLabel("State in the left view")).hasValue(Pattern.compile("^named:"));
    assertThat(page.locator(".view[data-side=near] .view-head"))
        .not()
        .containsText(farHead().locator("h2").nth(1).textContent());
    page.getByLabel("Shading").selectOption("deviation");
    assertThat(page.locator(".heat-note")).containsText("m");
    assertThat(page.locator(".heat-note")).not().containsText("Measuring");
    waitForViews();
    double hot = part("far", SurveyAndStatesIT::isHot);
    assertTrue(hot > 0.005, "far corners are shown as far: " + hot);
    page.getByLabel("State in the left view").selectOption("now");
    until(
        () -> part("far", SurveyAndStatesIT::isHot) < hot / 4, "beside itself nothing lies apart");

    page.locator(".named-state").getByText("Return to it").click();
    assertThat(stone("scale")).containsText("× 0.5");
    page.keyboard().press("Control+z");
    assertThat(stone("scale")).containsText("× 0.75");
    page.locator(".named-state").getByText("Delete").click();
    assertThat(page.locator(".named-state")).hasCount(0);
  }

  @Test
  void facesArePickedInTheViewAndSplitOff() {
    bring(sail);
    waitForViews();
    page.keyboard().press("1");
    page.keyboard().press("k");
    assertThat(button("Faces")).hasAttribute("aria-pressed", "true");
    still("near");
    var box = page.locator(".view[data-side=near] canvas").boundingBox();
    double x = box.x + box.width / 2;
    double y = box.y + box.height / 2;
    page.mouse().click(x, y);
    assertThat(page.locator(".pick-note")).containsText("face");
    page.keyboard().down("Control");
    page.mouse().click(x + box.width / 12, y);
    page.keyboard().up("Control");
    assertThat(page.locator(".pick-note")).containsText("2 picked");
    page.keyboard().press("2");
    addStep("split");
    page.getByLabel("By", new Page.GetByLabelOptions().setExact(true)).selectOption("faces");
    button("Use 2 picked").click();
    assertThat(stone("split")).containsText("2 parts");
    page.keyboard().press("Escape");
    assertThat(page.locator(".stone-form")).hasCount(0);
  }

  @Test
  void ownShoresAreMadeAskedAndTakenAlong() throws Exception {
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Shores")).click();
    assertThat(page.locator(".shore-list li")).hasCount(9);
    button("Copy").click();
    assertThat(page.locator(".shore-list li")).hasCount(10);
    page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Weir workshop");
    page.getByLabel(Pattern.compile("^Triangles")).first().fill("10");
    button("Save").click();
    assertThat(page.locator(".shore-list [aria-current]")).containsText("Weir workshop");
    Download file = page.waitForDownload(() -> page.getByText("Take as a file").click());
    Path own = folder.resolve("weir.json");
    file.saveAs(own);
    assertTrue(Files.readString(own).contains("Weir workshop"));
    page.getByLabel("Shore file").setInputFiles(Files.writeString(folder.resolve("no.json"), "?"));
    assertThat(page.getByText("is no shore")).isVisible();

    page.navigate(url());
    bring(sail);
    waitForViews();
    stop("Landing");
    page.getByLabel("Far shore").selectOption("Weir workshop");
    stop("Survey");
    assertThat(finding("over-triangles")).containsText("of 10");
    page.navigate(url() + "/shores");
    page.getByText("Weir workshop").click();
    button("Delete").click();
    assertThat(page.locator(".shore-list li")).hasCount(9);
    page.getByLabel("Shore file").setInputFiles(own);
    assertThat(page.locator(".shore-list [aria-current]")).containsText("Weir workshop");
  }

  @Test
  void whatWouldBeLostIsToldAndAvoidedBeforeLanding() {
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Format atlas")).click();
    page.getByLabel("Find a capability").fill("sets of faces");
    assertThat(page.locator(".atlas tr[data-capability]")).hasCount(1);
    assertThat(page.locator("tr[data-capability=FACE_SETS]")).containsText("lost");

    page.navigate(url());
    bring(sail);
    waitForViews();
    stop("Landing");
    Locator row = page.locator(".forecast tr[data-capability=FACE_SETS]");
    assertThat(row).containsText("12 sets");
    assertThat(page.locator(".forecast-head")).containsText("2 will be lost");
    Locator unused = page.locator(".forecast tr[data-capability=UNUSED_VERTICES]");
    unused.getByText("Remove them").click();
    assertThat(unused).hasCount(0);
    assertThat(page.locator(".forecast-head")).containsText("1 will be lost");
    row.getByText("Split by face set").click();
    assertThat(row).hasCount(0);
    assertThat(page.locator(".forecast-head")).containsText("0 will be lost");
    assertThat(stone("split")).containsText("12 parts");
    button("Land as GLB").click();
    assertThat(page.locator(".quayside-body .pill-kept").first())
        .containsText("kept", new ContainsTextOptions().setTimeout(30_000));
    stop("Proof");
    assertThat(page.locator("tr[data-verdict=KEPT]").first()).isVisible();
    assertThat(page.locator("tr[data-verdict=LOST]")).hasCount(0);
  }
}
