package ferry.stone.e2e;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.ReducedMotion;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Debian's Chromium with WebGL in software; collects the page's own faults. */
final class Browser implements AutoCloseable {
  private static final List<String> FLAGS =
      List.of(
          "--no-sandbox",
          "--use-angle=swiftshader-webgl",
          "--enable-unsafe-swiftshader",
          "--ignore-gpu-blocklist",
          "--disable-quic",
          "--no-first-run",
          "--disable-background-networking",
          "--disable-component-update",
          "--disable-sync");

  private final Playwright playwright = Playwright.create();
  private final com.microsoft.playwright.Browser browser;
  private final BrowserContext context;
  final List<String> faults = new ArrayList<>();

  Browser() {
    // Pictures are drawn by the processor here: slow, but they come.
    PlaywrightAssertions.setDefaultAssertionTimeout(25_000);
    browser =
        playwright
            .chromium()
            .launch(
                new BrowserType.LaunchOptions()
                    .setExecutablePath(Path.of("/usr/bin/chromium"))
                    .setArgs(FLAGS));
    context =
        browser.newContext(
            new com.microsoft.playwright.Browser.NewContextOptions()
                .setViewportSize(1280, 800)
                .setReducedMotion(ReducedMotion.REDUCE));
  }

  Page page() {
    Page page = context.newPage();
    page.onPageError(faults::add);
    return page;
  }

  /** A page of a file on the disk, in a browser without any network. */
  Page alone(Path file) {
    BrowserContext offline =
        browser.newContext(
            new com.microsoft.playwright.Browser.NewContextOptions()
                .setViewportSize(1280, 800)
                .setReducedMotion(ReducedMotion.REDUCE)
                .setOffline(true));
    Page page = offline.newPage();
    page.onPageError(faults::add);
    page.onRequest(
        request -> {
          if (!request.url().matches("(file|blob|data):.*")) {
            faults.add("asked for " + request.url());
          }
        });
    page.navigate(file.toUri().toString());
    return page;
  }

  @Override
  public void close() {
    playwright.close();
  }
}
