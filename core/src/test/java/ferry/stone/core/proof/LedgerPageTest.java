package ferry.stone.core.proof;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.FaultScene.Fault;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.List;
import org.junit.jupiter.api.Test;

class LedgerPageTest {
  private static List<LedgerRow> rows() throws Exception {
    Scene scene = FaultScene.with(Fault.NONE);
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of("stl");
    Landing landing = Landing.write(scene, options, "a", new TestFiles(), out, Progress.NONE);
    return Proof.of(scene, scene, landing.landed(options, out), new TestFiles(), Progress.NONE)
        .rows();
  }

  @Test
  void theFirstRowsThatFitComeWithHowManyThereAre() throws Exception {
    List<LedgerRow> all = rows();
    LedgerPage first = LedgerPage.of(all, null, "", 3);
    assertThat(first.rows()).containsExactlyElementsOf(all.subList(0, 3));
    assertThat(first.fitting()).isEqualTo(all.size());
    assertThat(first.kept() + first.changed() + first.lost()).isEqualTo(all.size());
    LedgerPage lost = LedgerPage.of(all, Verdict.LOST, "", 1000);
    assertThat(lost.rows()).hasSize(lost.lost()).isNotEmpty();
    assertThat(lost.kept()).isEqualTo(first.kept());
    LedgerPage found = LedgerPage.of(all, null, "  HEIGHT ", 1000);
    assertThat(found.rows()).extracting(LedgerRow::fact).containsOnly("Height");
    assertThat(LedgerPage.of(all, Verdict.LOST, "height", 10).fitting()).isZero();
    assertThat(LedgerPage.of(all, null, "", 0).rows()).isEmpty();
  }
}
