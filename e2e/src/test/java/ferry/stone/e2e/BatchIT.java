package ferry.stone.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import ferry.stone.core.routine.Batch;
import ferry.stone.core.routine.FortyAssets;
import ferry.stone.core.routine.RunRecord;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;

/** Forty assets from a folder to one report: on the page, and the same from the command line. */
class BatchIT extends OnThePage {
  private static final LocatorAssertions.HasCountOptions LONG =
      new LocatorAssertions.HasCountOptions().setTimeout(120_000);

  @Test
  void fortyAssetsLandFromThePageAsFromTheCommandLine() throws Exception {
    Path in = folder.resolve("forty");
    Map<String, RunRecord.Verdict> wanted = FortyAssets.write(in);
    Path routine = folder.resolve("forty.routine.json");
    Files.writeString(routine, FortyAssets.ROUTINE);
    Path out = folder.resolve("landed");
    Path log = folder.resolve("run.log");
    int code =
        Command.run(
            log,
            "run",
            in.toString(),
            "--routine",
            routine.toString(),
            "--out",
            out.toString(),
            "--jobs",
            "2");
    assertEquals(1, code, "some are to be looked at");

    page.navigate(url() + "/routines");
    page.getByLabel("Routine file").setInputFiles(routine);
    page.waitForURL(Pattern.compile("/routines/forty"));
    assertThat(page.locator(".routine-facts")).containsText("on marker*");
    button("Begin a batch").click();
    page.waitForURL(Pattern.compile("/batches/"));
    page.getByLabel("Folder").setInputFiles(in);
    Locator rows = page.locator(".asset-table tbody tr");
    assertThat(rows).hasCount(40, LONG);
    assertThat(page.locator(".asset-table .pill-plain")).hasCount(0, LONG);
    Map<String, RunRecord.Verdict> seen = new TreeMap<>();
    for (Locator row : rows.all()) {
      seen.put(
          row.locator("td").nth(1).innerText(),
          RunRecord.Verdict.valueOf(row.locator("td").nth(2).innerText().toUpperCase()));
    }
    assertEquals(wanted, seen);
    assertThat(page.getByText("40 assets, 25 to look at")).isVisible();
    assertThat(rows.filter(new Locator.FilterOptions().setHasText("torn-2")))
        .containsText("byte 8");

    Download zip = page.waitForDownload(() -> page.getByText("Take everything").click());
    Map<String, byte[]> taken = new TreeMap<>();
    try (ZipInputStream files = new ZipInputStream(Files.newInputStream(zip.path()))) {
      for (ZipEntry e = files.getNextEntry(); e != null; e = files.getNextEntry()) {
        taken.put(e.getName(), files.readAllBytes());
      }
    }
    int landed = 0;
    try (Stream<Path> all = Files.walk(out)) {
      for (Path file : all.filter(p -> p.toString().endsWith(".glb")).toList()) {
        String name = out.relativize(file).toString();
        assertTrue(java.util.Arrays.equals(Files.readAllBytes(file), taken.get(name)), name);
        landed++;
      }
    }
    assertEquals(30, landed);
    assertTrue(new String(taken.get("batch.html")).contains("25 assets of 40 to look at"));
    assertTrue(taken.containsKey("crate-1/crate-1.report.html"));

    // Any of them opens as a crossing, with the steps that the routine took.
    rows.filter(new Locator.FilterOptions().setHasText("slab-1")).getByText("Open").click();
    waitForViews();
    stop("Handling");
    assertThat(page.locator(".stone[data-step=remove]")).isVisible();
    assertThat(page.locator(".stone[data-step=ground]")).isVisible();
  }

  @Test
  void aHandlingIsSavedAsARoutineAtTheLandingStop() throws Exception {
    bring(zip(ferry.stone.demo.DemoWorld.Cargo.BOLLARD_SET));
    waitForViews();
    stop("Landing");
    button("Save as a routine").click();
    page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true))
        .fill("Bollards for the web");
    button("Save").click();
    page.waitForURL(Pattern.compile("/routines/bollards-for-the-web"));
    assertThat(page.locator(".shore-body h1")).hasText("Bollards for the web");
    assertThat(page.locator(".routine-facts")).containsText("GLB");
  }

  @Test
  void twoFilesThatAreDroppedAreHeldAgainstEachOther() throws Exception {
    Path first = folder.resolve("slab.obj");
    Path second = folder.resolve("slab_bent.obj");
    String slab = "o slab\nv 0 0 0\nv 4 0 0\nv 4 0 2\nv 0 0 2\nf 1 4 3 2\n";
    Files.writeString(first, slab);
    Files.writeString(second, slab.replace("v 4 0 2", "v 4 0.001 2"));
    page.navigate(url() + "/compare");
    assertThat(page.getByText("Compare two assets")).isVisible();
    page.getByTestId("files").setInputFiles(new Path[] {first, second});
    Locator rows = page.locator(".pair-table tr[data-verdict]");
    Locator apart = rows.filter(new Locator.FilterOptions().setHasText("Surface distance"));
    assertThat(apart).containsText("1.000 mm");
    assertThat(apart).containsText("4, 0.001, 2 m");
    // Another of the same bytes is the same asset.
    page.getByLabel("Second", new Page.GetByLabelOptions().setExact(true))
        .selectOption(new com.microsoft.playwright.options.SelectOption().setLabel("slab"));
    assertThat(page.getByText("The same asset")).isVisible();
  }

  @Test
  void aBatchGoesOnAfterTheServerWasKilled() throws Exception {
    Path in = folder.resolve("killed");
    Map<String, RunRecord.Verdict> wanted = FortyAssets.write(in);
    Path data = folder.resolve("killed-data");
    FerryProcess first = FerryProcess.start(data, false);
    page.navigate(first.url + "/routines/web-room");
    button("Begin a batch").click();
    page.waitForURL(Pattern.compile("/batches/"));
    String path = page.url().substring(first.url.length());
    page.getByLabel("Folder").setInputFiles(in);
    assertThat(page.locator(".asset-table tbody tr")).hasCount(wanted.size(), LONG);
    assertThat(page.getByText("Sending")).hasCount(0, LONG);
    first.kill();
    try (FerryProcess second = FerryProcess.start(data, false)) {
      page.navigate(second.url + path);
      assertThat(page.locator(".asset-table tbody tr")).hasCount(wanted.size(), LONG);
      assertThat(page.locator(".asset-table .pill-plain")).hasCount(0, LONG);
      assertThat(
              page.locator(".asset-table .pill-loss")
                  .filter(new Locator.FilterOptions().setHasText("refused")))
          .hasCount(10);
    }
  }

  /** FERRY_KILLS says how often: the command is killed at a random moment, then run to its end. */
  @Test
  void aRunThatIsKilledLeavesNothingHalfWrittenAndGoesOn() throws Exception {
    int kills = Integer.parseInt(System.getenv().getOrDefault("FERRY_KILLS", "8"));
    Path in = folder.resolve("cut");
    Map<String, RunRecord.Verdict> wanted = FortyAssets.write(in);
    Path routine = folder.resolve("cut.routine.json");
    Files.writeString(routine, FortyAssets.ROUTINE);
    Path log = folder.resolve("cut.log");
    java.util.Random random = new java.util.Random(16);
    int seen = 0;
    for (int i = 0; i < kills; i++) {
      Path out = folder.resolve("cut-" + i / 4);
      String[] run = {
        "run", in.toString(), "--routine", routine.toString(), "--out", out.toString()
      };
      Process process = Command.start(log, run);
      // A slow machine has nothing to show at first: later ones are killed later.
      int reach = seen == 0 ? 2200 + 1500 * i : 2200;
      Thread.sleep(300 + random.nextInt(reach));
      process.destroyForcibly().waitFor();
      seen += whole(out);
      if (i % 4 == 3 || i == kills - 1) {
        assertEquals(1, Command.run(log, run));
        assertEquals(40, whole(out));
        for (var each : wanted.entrySet()) {
          Path asset = out.resolve(each.getKey());
          assertEquals(each.getValue(), Batch.record(asset).orElseThrow().verdict());
        }
        try (Stream<Path> left = Files.list(out)) {
          assertEquals(
              0, left.filter(p -> p.getFileName().toString().startsWith(".ferry")).count());
        }
      }
    }
    assertTrue(seen > 0, "some were cut off in the middle");
  }

  /** Counts folders of assets that can be seen; each has a record, and all that it names. */
  private static int whole(Path out) throws Exception {
    if (!Files.isDirectory(out)) {
      return 0;
    }
    int assets = 0;
    try (Stream<Path> all = Files.list(out)) {
      for (Path asset : all.filter(Files::isDirectory).toList()) {
        if (asset.getFileName().toString().startsWith(".")) {
          continue;
        }
        RunRecord record = Batch.record(asset).orElseThrow();
        for (RunRecord.LandingFact landing : record.landings()) {
          for (var file : landing.files()) {
            assertEquals(file.bytes(), Files.size(asset.resolve(landing.folder() + file.path())));
          }
          try (InputStream in = Files.newInputStream(asset.resolve(landing.proof()))) {
            assertTrue(in.readAllBytes().length > 100);
          }
        }
        assets++;
      }
    }
    return assets;
  }
}
