package ferry.stone.core.format.cache;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What readers of MDD and PC2 expect: common practice, no source. */
class CacheRulesTest {
  private static final int POINTS = 3;

  private static byte[] file(CacheKind kind, double... seconds) {
    byte[] head = kind.head(POINTS, seconds, 24);
    return Arrays.copyOf(head, head.length + 12 * POINTS * seconds.length);
  }

  private static List<String> told(CacheKind kind, byte[] bytes) throws Exception {
    TestFiles files = new TestFiles();
    files.with("sway", bytes);
    Findings findings = new Findings();
    CacheRules.check(kind, "sway", files.random("sway"), findings);
    return findings.list().stream().map(Finding::message).toList();
  }

  @ParameterizedTest
  @EnumSource(CacheKind.class)
  void lengthsAreHeldToTheByte(CacheKind kind) throws Exception {
    byte[] whole = file(kind, 0, 0.5, 1);
    assertThat(told(kind, whole)).isEmpty();
    assertThat(told(kind, Arrays.copyOf(whole, whole.length + 1)))
        .containsExactly("The file is longer or shorter than its samples.");
  }

  @Test
  void timesRise() throws Exception {
    assertThat(told(CacheKind.MDD, file(CacheKind.MDD, 0, 0.5, 0.5)))
        .containsExactly("The times of samples do not rise.");
    byte[] still = file(CacheKind.PC2, 0, 0.5);
    ByteBuffer.wrap(still).order(CacheKind.PC2.order).putFloat(24, 0);
    assertThat(told(CacheKind.PC2, still))
        .containsExactly("The head does not say when samples are.");
  }
}
