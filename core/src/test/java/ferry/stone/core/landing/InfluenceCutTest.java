package ferry.stone.core.landing;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.InfluenceCut;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** What leaving joints out moves is measured, forecast and proved. */
class InfluenceCutTest {
  private static Forecast.Item forecast(Scene far, LandingOptions options) {
    return Forecast.of(far, options, new TestFiles()).items().stream()
        .filter(i -> i.capability() == Capability.INFLUENCES)
        .findFirst()
        .orElse(null);
  }

  private static Proof prove(Scene far, LandingOptions options, TestFiles out) throws Exception {
    TestFiles cargo = new TestFiles();
    Landing landing = Landing.write(far, options, "out", cargo, out, Progress.NONE);
    return Proof.of(far, far, landing.landed(options, out), cargo, Progress.NONE);
  }

  private static LandingOptions options(int influences, double skinMove) {
    return LandingOptions.of("glb").with("influences", influences).withSkinMove(skinMove);
  }

  @Test
  void beyondTheToleranceItIsALossWithAChoice() throws Exception {
    // Five joints a metre apart, each with a fifth of the weight: the mean of 0…4 is 2, that of
    // the first four 1.5 (equal weights keep the first).
    Scene far = CapabilityScenes.influences(1);
    assertEquals(0.5, InfluenceCut.of(far, 4, Progress.NONE).metres(), 1e-6);
    Forecast.Item item = forecast(far, options(4, 0.5));
    assertEquals(Fate.LOST, item.fate());
    assertEquals("option", item.offers().get(0).action());
    assertEquals("influences", item.offers().get(0).kind());
    assertEquals(0, item.offers().get(0).params().get("value"));
    Proof proof = prove(far, options(4, 0.5), new TestFiles());
    assertTrue(
        proof.rows().stream()
            .anyMatch(
                r ->
                    r.fact().equals("Vertices under their joints, rest pose")
                        && r.verdict() == LedgerRow.Verdict.LOST
                        && r.differs().startsWith("500")),
        proof.rows().toString());
  }

  @Test
  void theShoreDecidesHowMuchIsALoss() throws Exception {
    Scene far = CapabilityScenes.influences(1);
    assertEquals(Fate.CHANGED, forecast(far, options(4, 2000)).fate());
    assertEquals(0, prove(far, options(4, 2000), new TestFiles()).lost());
  }

  @Test
  void allJointsKeptLoseNothing() throws Exception {
    Scene far = CapabilityScenes.influences(1);
    assertEquals(null, forecast(far, options(0, 0.5)));
    assertEquals(0, prove(far, options(0, 0.5), new TestFiles()).lost());
  }

  /** The measure is the difference of the surfaces that the proof compares, over all clips too. */
  @Test
  void measuresWhatTheProofSees() throws Exception {
    int cut = 0;
    for (int seed = 0; seed < 30; seed++) {
      Scene far = RandomRig.of(new Random(seed), 6);
      InfluenceCut measured = InfluenceCut.of(far, 4, Progress.NONE);
      if (measured.vertices() == 0) {
        assertEquals(0, measured.metres());
        continue;
      }
      cut++;
      double most = 0;
      for (int c = -1; c < far.clips().size(); c++) {
        Clip a = c < 0 ? null : far.clips().get(c);
        for (int i = 0; i < InfluenceCut.MOMENTS; i++) {
          double t = a == null ? 0 : a.startSeconds() + (a.endSeconds() - a.startSeconds()) * i / 8;
          most = Math.max(most, worst(far, Pose.at(far, a, t), 4));
        }
      }
      double unit = far.frame().metresPerUnit();
      assertEquals(most * unit, measured.metres(), 1e-5 * far.bounds().diagonal() * unit);
    }
    assertTrue(cut > 3, "rigs with more than four joints: " + cut);
  }

  /** By a skin that the handling step would make. */
  private static double worst(Scene far, Pose pose, int most) {
    Scene cut =
        far.toBuilder()
            .skins(far.skins().stream().map(s -> StrongestJoints.of(s, most)).toList())
            .build();
    double worst = 0;
    for (int i = 0; i < far.nodes().size(); i++) {
      double[] a = Deform.world(far, pose, i);
      double[] b = Deform.world(cut, pose, i);
      for (int k = 0; k < a.length; k += 3) {
        worst =
            Math.max(
                worst,
                Math.sqrt(
                    Math.pow(a[k] - b[k], 2)
                        + Math.pow(a[k + 1] - b[k + 1], 2)
                        + Math.pow(a[k + 2] - b[k + 2], 2)));
      }
    }
    return worst;
  }
}
