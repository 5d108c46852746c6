package ferry.stone.core.routine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.SchemaCheck;
import ferry.stone.core.routine.RunRecord.Verdict;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Forty assets through one routine without a person, cut off and gone on with. */
class BatchRunTest {
  private static final Routine ROUTINE = Routines.read(FortyAssets.ROUTINE);

  @TempDir Path folder;

  private Batch batch(String out, int jobs) {
    return new Batch(ROUTINE, new RunSettings("1", false, jobs), folder.resolve(out));
  }

  private static Map<String, Verdict> verdicts(List<RunRecord> records) {
    Map<String, Verdict> verdicts = new TreeMap<>();
    records.forEach(r -> verdicts.put(r.asset(), r.verdict()));
    return verdicts;
  }

  private static Map<String, byte[]> landed(Path out) throws IOException {
    Map<String, byte[]> files = new TreeMap<>();
    try (Stream<Path> all = Files.walk(out)) {
      for (Path file : all.filter(p -> p.toString().endsWith(".glb")).toList()) {
        files.put(out.relativize(file).toString(), Files.readAllBytes(file));
      }
    }
    return files;
  }

  @Test
  void fortyAssetsGetTheVerdictsThatTheyDeserveAndOneReport() throws Exception {
    Map<String, Verdict> wanted = FortyAssets.write(folder.resolve("in"));
    assertThat(wanted).hasSize(40);
    List<BatchTask> tasks = BatchList.of(List.of(folder.resolve("in")));
    Batch batch = batch("out", 2);
    List<Double> parts = new ArrayList<>();
    Set<String> said = new TreeSet<>();
    Progress heard =
        new Progress() {
          @Override
          public synchronized void report(String what, double fraction) {
            said.add(what.replaceFirst(": .*", ""));
            parts.add(fraction);
          }

          @Override
          public boolean isCancelled() {
            return false;
          }
        };
    List<RunRecord> records = batch.run(tasks, (task, record, again) -> {}, heard);
    assertThat(verdicts(records)).isEqualTo(wanted);
    assertThat(said)
        .as("each asset says what it is at")
        .isSubsetOf(wanted.keySet())
        .hasSizeGreaterThan(20);
    assertThat(parts.get(parts.size() - 1)).isBetween(0.8, 1.0);
    for (int i = 1; i < parts.size(); i++) {
      // Two at once may say theirs in the other order.
      assertThat(parts.get(i)).isGreaterThan(parts.get(i - 1) - 0.03);
    }
    Path page = batch.report(tasks, records);
    assertThat(Files.readString(page))
        .contains(
            "25 assets of 40 to look at",
            "data:image/png;base64,",
            "No part is named",
            "torn-3.glb");
    JsonNode json = new ObjectMapper().readTree(folder.resolve("out/batch.json").toFile());
    assertThat(json.at("/verdicts/refused").asInt()).isEqualTo(10);
    for (JsonNode run : json.path("runs")) {
      assertThat(SchemaCheck.wrong(run, "run.schema.json")).isEmpty();
    }
    // The same routine gives the same bytes, whatever runs beside.
    batch("again", 1).run(tasks, (task, record, again) -> {}, Progress.NONE);
    assertThat(landed(folder.resolve("again"))).hasSize(30);
    landed(folder.resolve("again"))
        .forEach(
            (path, bytes) ->
                assertThat(folder.resolve("out").resolve(path)).as(path).hasBinaryContent(bytes));
  }

  @Test
  void whatWasDoneStaysAndWhatWasRefusedOrChangedIsDoneAgain() throws Exception {
    Path in = Files.createDirectories(folder.resolve("in"));
    FortyAssets.write(folder.resolve("forty"));
    for (String name : List.of("crate-1.glb", "crate-2.glb", "torn-1.glb")) {
      Files.copy(folder.resolve("forty").resolve(name), in.resolve(name));
    }
    List<BatchTask> tasks = BatchList.of(List.of(in));
    batch("out", 2).run(tasks, (task, record, again) -> {}, Progress.NONE);
    Files.copy(
        folder.resolve("forty/crate-5.glb"),
        in.resolve("crate-2.glb"),
        java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    List<String> anew = Collections.synchronizedList(new ArrayList<>());
    batch("out", 2)
        .run(
            tasks,
            (task, record, again) -> {
              if (!again) {
                anew.add(task.name());
              }
            },
            Progress.NONE);
    assertThat(anew).containsExactlyInAnyOrder("crate-2", "torn-1");
    new Batch(ROUTINE, new RunSettings("2", false, 2), folder.resolve("out"))
        .run(tasks, (task, record, again) -> assertThat(again).isFalse(), Progress.NONE);
  }

  @Test
  void pagesToHandOverStandBesideWhatLandedWhereTheyAreAskedFor() throws Exception {
    FortyAssets.write(folder.resolve("forty"));
    Path in = Files.createDirectories(folder.resolve("in"));
    Files.copy(folder.resolve("forty").resolve("crate-1.glb"), in.resolve("crate-1.glb"));
    RunSettings settings =
        new RunSettings("1", false, true, 1, ferry.stone.core.cargo.SharedFolders.NONE);
    Batch batch = new Batch(ROUTINE, settings, folder.resolve("out"));
    List<BatchTask> tasks = BatchList.of(List.of(in));
    List<RunRecord> records = batch.run(tasks, (task, record, again) -> {}, Progress.NONE);
    String page = records.get(0).landings().get(0).page();
    assertThat(page).isEqualTo("crate-1.page.html");
    Path file = folder.resolve("out").resolve("crate-1").resolve(page);
    assertThat(Files.readString(file)).startsWith("<!doctype html>").contains("crate-1");
    assertThat(Files.readString(batch.report(tasks, records)))
        .contains("href=\"crate-1/crate-1.page.html\"");
  }

  @Test
  void aRunThatIsStoppedAnywhereLeavesWholeFoldersAndGoesOn() throws Exception {
    FortyAssets.write(folder.resolve("forty"));
    Path in = Files.createDirectories(folder.resolve("in"));
    for (String name : List.of("crate-1.glb", "buoy-1.fbx", "slab-1.obj", "label-1.usda")) {
      Files.copy(folder.resolve("forty").resolve(name), in.resolve(name));
    }
    List<BatchTask> tasks = BatchList.of(List.of(in));
    for (int moment = 1; moment < 60; moment += 3) {
      AtomicInteger left = new AtomicInteger(moment);
      Progress stopped =
          new Progress() {
            @Override
            public void report(String what, double fraction) {}

            @Override
            public boolean isCancelled() {
              return left.decrementAndGet() < 0;
            }
          };
      Path out = folder.resolve("out" + moment);
      Batch batch = batch("out" + moment, 1);
      try {
        batch.run(tasks, (task, record, again) -> {}, stopped);
      } catch (CancelledException e) {
        assertWhole(out);
      }
      assertThat(verdicts(batch.run(tasks, (task, record, again) -> {}, Progress.NONE)))
          .containsEntry("crate-1", Verdict.KEPT)
          .hasSize(4);
      assertWhole(out);
    }
  }

  /** Every folder that can be seen has a record, and what the record names is there. */
  private static void assertWhole(Path out) throws IOException {
    try (Stream<Path> all = Files.list(out)) {
      for (Path asset : all.filter(p -> !p.getFileName().toString().startsWith(".")).toList()) {
        RunRecord record = Batch.record(asset).orElseThrow();
        for (RunRecord.LandingFact landing : record.landings()) {
          landing
              .files()
              .forEach(
                  f -> assertThat(asset.resolve(landing.folder() + f.path())).hasSize(f.bytes()));
        }
      }
    }
  }

  @Test
  void whatStandsInTheWayIsNotWrittenOver() throws Exception {
    FortyAssets.write(folder.resolve("in"));
    Files.createDirectories(folder.resolve("out/crate-1"));
    Files.writeString(folder.resolve("out/crate-1/mine.txt"), "keep");
    List<BatchTask> tasks = BatchList.of(List.of(folder.resolve("in/crate-1.glb")));
    assertThat(batch("out", 1).run(tasks, (t, r, a) -> {}, Progress.NONE))
        .singleElement()
        .satisfies(r -> assertThat(r.problem()).contains("no run made"));
    assertThat(folder.resolve("out/crate-1/mine.txt")).hasContent("keep");
  }

  @Test
  void aWatchedFolderIsEmptiedIntoDoneAndTrouble() throws Exception {
    Path in = folder.resolve("in");
    Map<String, Verdict> wanted = FortyAssets.write(in);
    WatchedFolder watched =
        new WatchedFolder(in, folder.resolve("out"), ROUTINE, new RunSettings("1", false, 2), 0);
    List<WatchedFolder.Filed> filed = watched.take(Progress.NONE);
    assertThat(filed).hasSize(40);
    wanted.forEach(
        (name, verdict) -> {
          String shelf = verdict.isTrouble() ? "trouble" : "done";
          assertThat(folder.resolve("out/" + shelf + "/" + name + "/run.json")).exists();
          assertThat(folder.resolve("out/" + shelf + "/" + name + "/source")).isNotEmptyDirectory();
        });
    try (Stream<Path> left = Files.list(in)) {
      assertThat(left).isEmpty();
    }
    assertThat(watched.take(Progress.NONE)).isEmpty();
    assertThatThrownBy(
            () ->
                new WatchedFolder(
                    in, in.resolve("out"), ROUTINE, new RunSettings("1", false, 1), 0))
        .hasMessageContaining("would be watched too");
  }

  @Test
  void whatAStopLeftUnfiledIsFiledByTheNextStart() throws Exception {
    FortyAssets.write(folder.resolve("forty"));
    Path in = Files.createDirectories(folder.resolve("in"));
    Files.copy(folder.resolve("forty/crate-1.glb"), in.resolve("crate-1.glb"));
    // A run that was done, and no filing.
    batch("out/running", 1).run(BatchList.of(List.of(in)), (t, r, a) -> {}, Progress.NONE);
    WatchedFolder watched =
        new WatchedFolder(in, folder.resolve("out"), ROUTINE, new RunSettings("1", false, 1), 0);
    assertThat(watched.resume()).hasSize(1);
    assertThat(folder.resolve("out/done/crate-1/source/crate-1.glb")).exists();
    assertThat(in.resolve("crate-1.glb")).doesNotExist();
  }
}
