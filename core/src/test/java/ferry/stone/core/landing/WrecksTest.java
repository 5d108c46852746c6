package ferry.stone.core.landing;

import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomWreck;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.work.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Scenes with much wrong are surveyed, handled by their offers, landed and proved, or refused. */
class WrecksTest {
  private static final int SEEDS = 120;
  private static final Resources NONE = new CargoFolder(Map.of());

  @TempDir Path folder;

  private static Survey survey(Scene scene) {
    return Survey.of(scene, List.of(), Shores.usual(), new SurveyMemo(), Progress.NONE);
  }

  @Test
  void wrecksAreSurveyedAndTheirOffersRun() {
    int offers = 0;
    int answered = 0;
    for (int seed = 0; seed < SEEDS; seed++) {
      Scene near = RandomWreck.of(new Random(seed));
      for (Finding finding : survey(near).findings()) {
        assertFalse(finding.message().isEmpty());
        for (Offer offer : finding.offers()) {
          List<Step> steps = new ArrayList<>();
          offer.first().forEach(o -> steps.add(step(o)));
          steps.add(step(offer));
          var stages = Handling.run(near, steps, Progress.NONE);
          Survey after = survey(Handling.result(near, stages));
          boolean gone =
              after.findings().stream()
                  .noneMatch(
                      f -> f.code().equals(finding.code()) && f.where().equals(finding.where()));
          offers++;
          answered += gone ? 1 : 0;
        }
      }
    }
    assertTrue(offers > 500, offers + " offers");
    // Wrecks have one fault over the other: not each offer can answer its finding alone.
    assertTrue(answered > 0.7 * offers, answered + " of " + offers + " answered");
  }

  private static Step step(Offer offer) {
    return new Step("a", offer.kind(), offer.params(), true, offer.nodeIds());
  }

  @Test
  void wrecksLandAndAreProvedOrRefusedWithASentence() throws Exception {
    int landed = 0;
    int refused = 0;
    for (int seed = 0; seed < SEEDS; seed++) {
      Scene near = RandomWreck.of(new Random(seed));
      for (LandingOptions options :
          List.of(
              LandingOptions.of("glb"),
              LandingOptions.of("fbx"),
              LandingOptions.of("glb")
                  .withParts(new PartFiles(true, "{number}", PartFiles.Origin.BASE)))) {
        Path out = Files.createDirectories(folder.resolve(seed + options.format()));
        Map<String, Path> written = new TreeMap<>();
        try {
          Forecast.of(near, options, NONE);
          Landings landings =
              Landings.write(
                  near,
                  options,
                  "wreck",
                  NONE,
                  path -> {
                    written.put(path, out.resolve(path));
                    return Files.newOutputStream(out.resolve(path));
                  },
                  Progress.NONE);
          Proof proof =
              landings.proof(near, near, options, new CargoFolder(written), NONE, Progress.NONE);
          assertFalse(proof.rows().isEmpty());
          landed++;
        } catch (FormatException | IllegalArgumentException e) {
          assertTrue(e.getMessage().matches("(?s).*\\w+ \\w+ \\w+.*"), "seed " + seed + ": " + e);
          refused++;
        }
      }
    }
    assertTrue(landed > 2 * refused, landed + " landed, " + refused + " refused");
  }
}
