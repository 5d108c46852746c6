package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.TimeoutError;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import ferry.stone.demo.DemoWorld;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BooleanSupplier;
import java.util.function.IntPredicate;
import java.util.regex.Pattern;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** A page that is used as by hand; a fault in its console fails the test. */
abstract class OnThePage {
  @TempDir static Path folder;
  private static FerryProcess ferry;

  /** Software graphics on a machine with other work take their time. */
  private static final LocatorAssertions.IsVisibleOptions DRAWN =
      new LocatorAssertions.IsVisibleOptions().setTimeout(90_000);

  Browser browser;
  Page page;

  @BeforeAll
  static void startServer() throws Exception {
    ferry = FerryProcess.start(folder.resolve("data"), true);
  }

  @AfterAll
  static void stopServer() throws Exception {
    ferry.close();
  }

  /** A demo cargo as a user would have it: a zip. */
  static Path zip(DemoWorld.Cargo cargo) throws Exception {
    Path zip = folder.resolve(cargo.name().toLowerCase(Locale.ROOT) + ".zip");
    try (OutputStream out = Files.newOutputStream(zip)) {
      DemoWorld.write(cargo, out);
    }
    return zip;
  }

  static String url() {
    return ferry.url;
  }

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

  final Locator labelled(String label) {
    return page.getByLabel(label, new Page.GetByLabelOptions().setExact(true));
  }

  final Locator finding(String code) {
    return page.locator("tr[data-code=" + code + "]");
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
    assertThat(page.locator(".view[data-side=near][data-ready=true] canvas")).isVisible(DRAWN);
    assertThat(page.locator(".view[data-side=far][data-ready=true] canvas")).isVisible(DRAWN);
    still("near");
    still("far");
  }

  final byte[] picture(String side) {
    return page.locator(".view[data-side=" + side + "] canvas").screenshot();
  }

  /** Waits until a view has come to rest: views draw only when something changes. */
  final byte[] still(String side) {
    AtomicReference<byte[]> last = new AtomicReference<>(picture(side));
    until(
        () -> {
          byte[] now = picture(side);
          return Arrays.equals(now, last.getAndSet(now)) && now.length > 0;
        },
        "the " + side + " view comes to rest");
    return last.get();
  }

  /** Waits until a view shows something else than before, and has come to rest. */
  final byte[] changed(String side, byte[] before, String what) {
    until(() -> !Arrays.equals(before, picture(side)), what);
    return still(side);
  }

  /** Waits until at least a part of a view's pixels has a colour. */
  final void shows(String side, IntPredicate colour, double least, String what) {
    until(() -> part(side, colour) >= least, what);
  }

  final void until(BooleanSupplier holds, String what) {
    try {
      page.waitForCondition(holds, new Page.WaitForConditionOptions().setTimeout(20_000));
    } catch (TimeoutError e) {
      throw new AssertionError(what, e);
    }
  }

  /** Waits until the crossing's landing is proved. */
  final void landed() {
    assertThat(page.locator(".quayside-body .pill-kept").first())
        .containsText("kept", new LocatorAssertions.ContainsTextOptions().setTimeout(30_000));
  }

  final BufferedImage imageOf(String side) {
    try {
      return ImageIO.read(new ByteArrayInputStream(picture(side)));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Part of the pixels that differ by more than a shade. */
  static double differing(BufferedImage a, BufferedImage b) {
    assertEquals(
        List.of(a.getWidth(), a.getHeight()),
        List.of(b.getWidth(), b.getHeight()),
        "pictures of one size are compared");
    int off = 0;
    for (int y = 0; y < a.getHeight(); y++) {
      for (int x = 0; x < a.getWidth(); x++) {
        int p = a.getRGB(x, y);
        int q = b.getRGB(x, y);
        int most = 0;
        for (int shift = 0; shift <= 16; shift += 8) {
          most = Math.max(most, Math.abs((p >> shift & 255) - (q >> shift & 255)));
        }
        off += most > 12 ? 1 : 0;
      }
    }
    return (double) off / (a.getWidth() * a.getHeight());
  }

  /** Part of a view's pixels that are dark iron, pale stone or ground, in its middle. */
  final double part(String side, IntPredicate colour) {
    BufferedImage image = imageOf(side);
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
