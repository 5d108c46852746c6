package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.SelectOption;
import ferry.stone.demo.DemoWorld;
import java.awt.image.BufferedImage;
import java.io.BufferedOutputStream;
import java.io.DataOutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** Caches go in with their faults and land, and play though the page does not hold them. */
class CachesIT extends OnThePage {
  private static final int SIDE = 120;
  private static final int FRAMES = 320;

  @Test
  void thePennantIsBroughtOntoItsMeshAndLandsAsAlembic() throws Exception {
    bring(zip(DemoWorld.Cargo.PENNANT));
    waitForViews();
    labelled("Clip").selectOption(new SelectOption().setIndex(1));
    labelled("Frame").fill("40");
    stop("Survey");
    still("near");
    BufferedImage unmended = imageOf("near");
    assertThat(finding("cache-frame-differs")).containsText("×100 · Y ↔ Z, mirrored");
    finding("cache-frame-differs").getByText("Bring it onto its mesh").click();
    assertThat(finding("cache-frame-differs")).hasCount(0);
    finding("unit-likely").getByText("Set unit to centimetre").click();
    assertThat(finding("unit-likely")).hasCount(0);
    waitForViews();
    // On the near side the cloth is elsewhere, on the far side it blows at its pole.
    BufferedImage near = imageOf("near");
    BufferedImage far = imageOf("far");
    assertTrue(differing(near, far) > 0.01, "the cloth is back on the far side alone");
    assertTrue(differing(unmended, near) < 0.002, "the near side is as it was");
    // How far both lie apart is a curve; on one spot and from the start they still differ.
    labelled("Lines").selectOption("apart");
    Locator values = page.locator(".curves-values");
    assertThat(values).containsText("farthest");
    assertThat(values).containsText(" m at ");
    page.getByLabel("Roots on one spot").check();
    assertThat(page.locator(".curves-plot path")).hasCount(2);
    labelled("Lines").selectOption("tracks");
    assertThat(page.locator(".tracks")).containsText("points · pennant_wind");
    assertThat(page.locator(".tracks")).containsText("72 samples, 24/s");
    labelled("Lines").selectOption("");
    stop("Landing");
    page.locator("label", new Page.LocatorOptions().setHasText("Alembic")).first().click();
    button("Land as Alembic").click();
    Locator link = page.locator(".quayside-body td a").first();
    assertThat(link).isVisible();
    stop("Proof");
    assertThat(page.locator(".quayside-body")).containsText("Positions in all samples");
    Locator lost = page.locator("tr[data-verdict=LOST]");
    assertThat(lost).hasCount(1);
    assertThat(lost).containsText("not what it looks like");
  }

  @Test
  void theSingingHeadGetsItsLookBack() throws Exception {
    bring(zip(DemoWorld.Cargo.SINGING_HEAD));
    waitForViews();
    stop("Survey");
    BufferedImage before = imageOf("far");
    finding("look-beside").getByText("Put it on").click();
    assertThat(page.locator(".river")).containsText("4 sets bound");
    until(() -> differing(before, imageOf("far")) > 0.01, "the head is in its colours");
    // The bindings stand beside the views, and what is corrected there is seen there.
    stop("Handling");
    page.locator(".stone-main").click();
    Locator rows = page.locator(".bindings tbody tr");
    assertThat(rows).hasCount(4);
    assertThat(rows.first()).containsText("as found · the same faces");
    button("Materials apart").click();
    still("far");
    BufferedImage apart = imageOf("far");
    page.locator("[role=treeitem]", new Page.LocatorOptions().setHasText("heron_head")).click();
    page.keyboard().press("h");
    Locator plumage = page.locator(".bindings tr", has("headShape_plumage_SG")).locator("select");
    plumage.selectOption("glass_eye");
    assertThat(page.locator(".bindings tr", has("headShape_plumage_SG"))).containsText("by hand");
    until(() -> differing(apart, imageOf("far")) > 0.01, "the plumage is glass");
    button("Click the surface").click();
    var box = page.locator("section[data-side=far] canvas").boundingBox();
    page.mouse().click(box.x + box.width / 2, box.y + box.height / 2);
    assertThat(page.locator(".bindings tr[data-marked=true] select")).isFocused();
    page.keyboard().press("Escape");
    page.reload();
    assertThat(page.locator(".river")).containsText("4 sets bound");
    page.locator(".stone-main").click();
    assertThat(page.locator(".bindings tr", has("headShape_plumage_SG"))).containsText("by hand");
  }

  private static Page.LocatorOptions has(String text) {
    return new Page.LocatorOptions().setHasText(text);
  }

  /** A cloth whose cache is more than a page holds whole. */
  private Path[] cloth() throws Exception {
    StringBuilder obj = new StringBuilder("o cloth\n");
    for (int i = 0; i < SIDE * SIDE; i++) {
      obj.append("v ").append(0.05 * (i % SIDE)).append(" 0 ").append(0.05 * (i / SIDE));
      obj.append('\n');
    }
    for (int z = 0; z + 1 < SIDE; z++) {
      for (int x = 0; x + 1 < SIDE; x++) {
        int a = z * SIDE + x + 1;
        obj.append("f ").append(a).append(' ').append(a + SIDE).append(' ');
        obj.append(a + SIDE + 1).append(' ').append(a + 1).append('\n');
      }
    }
    Path cache = folder.resolve("cloth.mdd");
    try (DataOutputStream out =
        new DataOutputStream(new BufferedOutputStream(Files.newOutputStream(cache), 1 << 16))) {
      out.writeInt(FRAMES);
      out.writeInt(SIDE * SIDE);
      for (int f = 0; f < FRAMES; f++) {
        out.writeFloat(f / 24f);
      }
      for (int f = 0; f < FRAMES; f++) {
        for (int i = 0; i < SIDE * SIDE; i++) {
          out.writeFloat(0.05f * (i % SIDE));
          out.writeFloat(0.02f * f * (i % SIDE) / SIDE);
          out.writeFloat(0.05f * (i / SIDE));
        }
      }
    }
    return new Path[] {Files.writeString(folder.resolve("cloth.obj"), obj), cache};
  }

  @Test
  void aCacheThatThePageDoesNotHoldIsScrubbed() throws Exception {
    bring(cloth());
    waitForViews();
    labelled("Clip").selectOption(new SelectOption().setIndex(1));
    Locator note = page.locator("[data-side=near] .grid-note");
    assertThat(note).containsText("drawn within");
    still("near");
    BufferedImage flat = imageOf("near");
    labelled("Frame").fill("300");
    assertThat(page.locator(".timeline .moment")).containsText("frame 300 of 319");
    until(() -> differing(flat, imageOf("near")) > 0.02, "the cloth has risen");
    labelled("Frame").fill("0");
    until(() -> differing(flat, imageOf("near")) < 0.005, "and lies flat again");
  }
}
