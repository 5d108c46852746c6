package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.deque.html.axecore.results.CheckedNode;
import com.deque.html.axecore.results.Rule;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import ferry.stone.demo.DemoWorld;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Every screen by day and by night has nothing that axe finds against WCAG 2.2, A and AA. */
class ForEveryoneIT extends OnThePage {
  private static final List<String> RULES =
      List.of("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa");

  private final List<String> found = new ArrayList<>();

  private void look(String screen) {
    for (Rule rule : new AxeBuilder(page).withTags(RULES).analyze().getViolations()) {
      for (CheckedNode node : rule.getNodes()) {
        found.add(
            screen
                + ": "
                + rule.getId()
                + " at "
                + node.getTarget()
                + " "
                + String.join(
                    "; ", node.getAny().stream().map(check -> check.getMessage()).toList())
                + "\n");
      }
    }
  }

  private void go(String path) {
    page.navigate(url() + path);
    assertThat(page.locator("main")).isVisible();
  }

  @ParameterizedTest
  @EnumSource(
      value = ColorScheme.class,
      names = {"LIGHT", "DARK"})
  void everyScreenIsForEveryone(ColorScheme scheme) throws Exception {
    page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(scheme));
    page.reload();
    assertThat(page.locator("main")).isVisible();
    look("quay");
    bring(zip(DemoWorld.Cargo.BOLLARD_SET));
    waitForViews();
    String crossing = page.url().replaceFirst("/cargo.*", "").substring(url().length());
    look("cargo");
    stop("Survey");
    assertThat(page.locator(".quayside-body tr").first()).isVisible();
    look("survey");
    stop("Handling");
    page.keyboard().press("a");
    assertThat(page.getByLabel("Find a step")).isVisible();
    look("steps to add");
    page.keyboard().press("Escape");
    look("handling");
    stop("Landing");
    assertThat(page.getByLabel("GLB, one file")).isChecked();
    look("landing");
    button("Land as GLB").click();
    landed();
    assertThat(page.locator(".quayside-body tr").first()).isVisible();
    look("proof");
    page.keyboard().press("?");
    assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
    look("keys");
    page.keyboard().press("Escape");
    for (String path : List.of("/shores", "/compare", "/routines", "/batches", "/atlas", "/jobs")) {
      go(path);
      look(path);
    }
    assertEquals("", String.join("", found));
  }
}
