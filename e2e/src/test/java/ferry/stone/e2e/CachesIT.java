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

  private Locator finding(String code) {
    return page.locator("tr[data-code=" + code + "]");
  }

  private Locator labelled(String label) {
    return page.getByLabel(label, new Page.GetByLabelOptions().setExact(true));
  }

  @Test
  void thePennantIsBroughtOntoItsMeshAndLandsAsAlembic() throws Exception {
    bring(zip(DemoWorld.Cargo.PENNANT));
    waitForViews();
    stop("Survey");
    assertThat(finding("cache-frame-differs")).containsText("×100 · Y ↔ Z, mirrored");
    finding("cache-frame-differs").getByText("Bring it onto its mesh").click();
    assertThat(finding("cache-frame-differs")).hasCount(0);
    finding("unit-likely").getByText("Set unit to centimetre").click();
    assertThat(finding("unit-likely")).hasCount(0);
    labelled("Clip").selectOption(new SelectOption().setIndex(1));
    waitForViews();
    // On the near side the cloth is elsewhere, on the far side it blows at its pole.
    BufferedImage near = imageOf("near");
    BufferedImage far = imageOf("far");
    assertTrue(differing(near, far) > 0.01, "the cloth is back on the far side alone");
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
