package ferry.stone.e2e;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld.Cargo;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * Every fault that the demo cargo was made with is found by the survey, put right by the offered
 * step, and what lands is as the forecast said.
 */
class DemoFaultsIT {
  /** What the makers of the cargo put in. */
  private static final Map<Cargo, List<String>> FAULTS =
      Map.ofEntries(
          Map.entry(
              Cargo.BOLLARD_SET,
              List.of(
                  "unit-likely",
                  "lying-down",
                  "coincident-vertices",
                  "versions-apart",
                  "texture-missing")),
          Map.entry(
              Cargo.LANTERN_STRING, List.of("duplicate-names", "texture-missing", "no-normals")),
          Map.entry(Cargo.GATE_LANTERN, List.of("images-loose")),
          Map.entry(
              Cargo.CAPSTAN, List.of("pivot-beside-axis", "mirrored-part", "duplicate-names")),
          Map.entry(
              Cargo.CAPSTAN_FBX,
              List.of("pivot-beside-axis", "mirrored-part", "duplicate-names", "uneven-scale")),
          Map.entry(Cargo.HERON, List.of("over-influences", "morph-shifts-all")),
          Map.entry(Cargo.HERON_FBX, List.of("over-influences", "morph-shifts-all")),
          Map.entry(Cargo.BOLLARD_FBX, List.of("below-ground", "texture-missing")),
          Map.entry(
              Cargo.SAIL,
              List.of("unit-likely", "coincident-vertices", "panels-opposed", "unused-vertices")),
          Map.entry(Cargo.ARCH, List.of("unit-doubted", "empty-groups")),
          Map.entry(Cargo.PENNANT, List.of("unit-likely", "cache-frame-differs")),
          Map.entry(Cargo.SINGING_HEAD, List.of("look-beside")),
          Map.entry(Cargo.PENNANT_CACHE, List.of("unit-likely")),
          Map.entry(Cargo.ARCH_CACHE, List.of("unit-likely")),
          Map.entry(Cargo.BARGE, List.of("usd-layer-missing", "over-influences")));

  /** Faults that are put right by choosing a file, not by a step. */
  private static final Set<String> BY_FILE = Set.of("texture-missing", "usd-layer-missing");

  @TempDir Path folder;

  private static Set<String> codes(Survey survey) {
    Set<String> codes = new TreeSet<>();
    survey.findings().forEach(f -> codes.add(f.code()));
    return codes;
  }

  @ParameterizedTest
  @EnumSource(Cargo.class)
  void faultsAreFoundPutRightAndProved(Cargo cargo) throws Exception {
    CargoFolder files = DemoCargo.unpack(cargo, folder);
    Map<String, String> chosen = new HashMap<>();
    Findings read = new Findings();
    Scene near =
        CargoReader.read(cargo.label(), new ReadContext(files, chosen, read, Progress.NONE));
    SurveyMemo memo = new SurveyMemo();
    Survey survey = survey(near, read.list(), memo);
    for (String fault : FAULTS.get(cargo)) {
      assertTrue(codes(survey).contains(fault), cargo + ": " + fault + " in " + codes(survey));
    }
    // First the files that went missing are chosen, as the page does.
    survey.findings().stream()
        .flatMap(f -> f.offers().stream().limit(1))
        .filter(o -> o.action().equals("bind"))
        .forEach(o -> chosen.put(o.kind(), o.params().get("file").toString()));
    Findings again = new Findings();
    near = CargoReader.read(cargo.label(), new ReadContext(files, chosen, again, Progress.NONE));
    survey = survey(near, again.list(), memo);
    List<Step> steps = new ArrayList<>();
    Scene far = near;
    for (int round = 0; round < 3; round++) {
      Survey now = survey(far, again.list(), memo);
      boolean any = false;
      for (Finding finding : now.findings()) {
        boolean meant =
            finding.severity() != Severity.NOTE || FAULTS.get(cargo).contains(finding.code());
        for (Offer offer :
            meant
                ? finding.offers().subList(0, Math.min(1, finding.offers().size()))
                : List.<Offer>of()) {
          if (offer.action().equals("step")) {
            Step step =
                new Step("s" + steps.size(), offer.kind(), offer.params(), true, offer.nodeIds());
            steps.add(offer.kind().startsWith("source") ? 0 : steps.size(), step);
            any = true;
          }
        }
      }
      var stages = Handling.run(near, steps, Progress.NONE);
      stages.forEach(s -> assertEquals(null, s.failure(), s.step().kind()));
      far = Handling.result(near, stages);
      if (!any) {
        break;
      }
    }
    Survey after = survey(far, again.list(), memo);
    for (String fault : FAULTS.get(cargo)) {
      boolean byFile = BY_FILE.contains(fault);
      assertTrue(
          !codes(byFile ? survey : after).contains(fault),
          cargo + ": " + fault + " is left in " + codes(after));
    }
    land(cargo, near, far, files);
  }

  /** Each offer by itself does what it says and brings nothing about that must be put right. */
  @ParameterizedTest
  @EnumSource(Cargo.class)
  void everyOfferHelpsAndHarmsNothing(Cargo cargo) throws Exception {
    CargoFolder files = DemoCargo.unpack(cargo, folder);
    Findings read = new Findings();
    Scene near =
        CargoReader.read(cargo.label(), new ReadContext(files, Map.of(), read, Progress.NONE));
    SurveyMemo memo = new SurveyMemo();
    Survey before = survey(near, read.list(), memo);
    int tried = 0;
    for (Finding finding : before.findings()) {
      for (Offer offer : finding.offers()) {
        if (!offer.action().equals("step")) {
          continue;
        }
        String what = cargo + ", " + finding.code() + ": " + offer.label();
        List<Step> steps = new ArrayList<>();
        for (Offer one : Stream.concat(offer.first().stream(), Stream.of(offer)).toList()) {
          steps.add(new Step("a", one.kind(), one.params(), true, one.nodeIds()));
        }
        var stages = Handling.run(near, steps, Progress.NONE);
        stages.forEach(s -> assertEquals(null, s.failure(), what));
        Survey after = survey(Handling.result(near, stages), read.list(), memo);
        String same =
            after.findings().stream()
                .filter(f -> f.code().equals(finding.code()) && f.where().equals(finding.where()))
                .map(Finding::measured)
                .findFirst()
                .orElse(null);
        boolean shown = offer.kind().equals("materialFlags");
        assertTrue(shown || !finding.measured().equals(same), what + " changed nothing");
        Set<String> worse = fixes(after);
        worse.removeAll(fixes(before));
        assertEquals(Set.of(), worse, what);
        tried++;
      }
    }
    assertTrue(tried >= 2, cargo + ": " + tried + " offers");
  }

  private static Set<String> fixes(Survey survey) {
    Set<String> codes = new TreeSet<>();
    survey.findings().stream()
        .filter(f -> f.severity() == Severity.FIX)
        // A panel that shows its back is opposed to its neighbours once it is sewn to them.
        .forEach(f -> codes.add(f.code().replace("panels-opposed", "opposed-faces")));
    return codes;
  }

  private static Survey survey(Scene scene, List<Finding> read, SurveyMemo memo) {
    return Survey.of(scene, read, Shores.usual(), memo, Progress.NONE);
  }

  private void land(Cargo cargo, Scene near, Scene far, CargoFolder files) throws Exception {
    for (LandingOptions options : List.of(LandingOptions.of("glb"), LandingOptions.of("fbx"))) {
      Path out = Files.createDirectories(folder.resolve("landed-" + options.format()));
      Landing landing =
          Landing.write(
              far,
              options,
              "landed",
              files,
              path -> {
                Files.createDirectories(out.resolve(path).getParent());
                return Files.newOutputStream(out.resolve(path));
              },
              Progress.NONE);
      Map<String, Path> written = new TreeMap<>();
      try (var all = Files.walk(out)) {
        all.filter(Files::isRegularFile).forEach(p -> written.put(out.relativize(p).toString(), p));
      }
      Proof proof =
          Proof.of(
              near, far, landing.landed(options, new CargoFolder(written)), files, Progress.NONE);
      Map<Capability, String> proved = new TreeMap<>();
      for (LedgerRow row : proof.rows()) {
        if (row.verdict() != LedgerRow.Verdict.KEPT) {
          assertTrue(row.about() != null, cargo + " as " + options.format() + ": " + row);
          proved.merge(row.about(), row.verdict().name(), (a, b) -> a.equals("LOST") ? a : b);
        }
      }
      Map<Capability, String> forecast = new TreeMap<>();
      for (Forecast.Item item : Forecast.of(far, options, files).items()) {
        forecast.merge(item.capability(), item.fate().name(), (a, b) -> a.equals("LOST") ? a : b);
      }
      assertEquals(
          forecast,
          proved,
          cargo
              + " as "
              + options.format()
              + proof.rows().stream()
                  .filter(r -> r.verdict() != LedgerRow.Verdict.KEPT)
                  .map(r -> "\n" + r)
                  .collect(Collectors.joining()));
    }
  }
}
