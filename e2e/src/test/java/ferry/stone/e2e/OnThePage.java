package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;

/** A page that is used as by hand; a fault in its console fails the test. */
abstract class OnThePage {
  Browser browser;
  Page page;

  /** Where the server answers. */
  abstract String url();

  @BeforeEach
  final void open() {
    browser = new Browser();
    page = browser.page();
    page.navigate(url());
  }

  @AfterEach
  final void noFaults() {
    browser.close();
    assertEquals(List.of(), browser.faults);
  }

  final Locator button(String name) {
    return page.getByRole(
        AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  final void stop(String name) {
    page.getByRole(AriaRole.NAVIGATION, new Page.GetByRoleOptions().setName("Route"))
        .getByRole(
            AriaRole.LINK, new Locator.GetByRoleOptions().setName(Pattern.compile("^" + name)))
        .click();
  }

  /** Opens a crossing of the quay; its row may still be to come. */
  final void row(String name) {
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name).setExact(true)).click();
  }

  final void bring(Path... files) {
    page.getByTestId("files").setInputFiles(files);
    page.waitForURL(Pattern.compile("/crossings/[-0-9a-f]+/cargo"));
  }

  final void waitForViews() {
    assertThat(page.locator(".view[data-side=near][data-ready=true] canvas")).isVisible();
    assertThat(page.locator(".view[data-side=far][data-ready=true] canvas")).isVisible();
    page.waitForTimeout(800);
  }

  /** Part of a view's pixels that are dark iron, pale stone or ground, in its middle. */
  final double part(String side, java.util.function.IntPredicate colour) throws Exception {
    byte[] png = page.locator(".view[data-side=" + side + "] canvas").screenshot();
    BufferedImage image = ImageIO.read(new ByteArrayInputStream(png));
    int hits = 0;
    int all = 0;
    for (int y = image.getHeight() / 8; y < image.getHeight() * 7 / 8; y += 2) {
      for (int x = image.getWidth() / 10; x < image.getWidth() * 9 / 10; x += 2) {
        all++;
        hits += colour.test(image.getRGB(x, y) & 0xffffff) ? 1 : 0;
      }
    }
    return (double) hits / all;
  }
}
