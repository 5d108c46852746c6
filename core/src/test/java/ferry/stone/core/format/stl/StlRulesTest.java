package ferry.stone.core.format.stl;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.FaultScene;
import ferry.stone.core.proof.FaultScene.Fault;
import ferry.stone.core.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** The "StereoLithography Interface Specification" (October 1989), broken bit by bit. */
class StlRulesTest {
  private final TestFiles files = new TestFiles();

  private List<Finding> told(byte[] bytes) throws Exception {
    files.with("a.stl", bytes);
    Findings findings = new Findings();
    StlRules.check("a.stl", files, findings);
    return findings.list();
  }

  private byte[] landed(String form) throws Exception {
    LandingOptions options = LandingOptions.of("stl").with("encoding", form);
    Landing.write(FaultScene.with(Fault.NONE), options, "a", new TestFiles(), files, Progress.NONE);
    return files.bytes("a.stl").clone();
  }

  @Test
  void whatWeWriteKeepsThemAll() throws Exception {
    assertThat(told(landed("binary"))).isEmpty();
    assertThat(told(landed("text"))).isEmpty();
  }

  private static ByteBuffer in(byte[] bytes) {
    return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  private static Arguments broken(String form, String words, UnaryOperator<byte[]> how) {
    return Arguments.of(form, words, how);
  }

  private static byte[] text(byte[] bytes, String what, String to) {
    String text = new String(bytes, StandardCharsets.UTF_8);
    String changed = text.replaceFirst(what, to);
    assertThat(changed).isNotEqualTo(text);
    return changed.getBytes(StandardCharsets.UTF_8);
  }

  static Stream<Arguments> rules() {
    return Stream.of(
        broken("binary", "longer or shorter", b -> Arrays.copyOf(b, b.length + 1)),
        broken(
            "binary",
            "not that of its corners",
            b -> {
              in(b).putFloat(StlFormat.HEAD, 0.6f);
              return b;
            }),
        broken(
            "binary",
            "behind a triangle are not 0",
            b -> {
              in(b).putShort(StlFormat.HEAD + 48, (short) 9);
              return b;
            }),
        broken("text", "not the one that has to", b -> text(b, "outer loop", "inner loop")),
        broken("text", "not that of its corners", b -> text(b, "normal \\S+ \\S+", "normal 3 4")),
        broken("text", "Three numbers", b -> text(b, "vertex \\S+", "vertex x")),
        broken("text", "does not end", b -> text(b, "endsolid[^\n]*\\s*$", "")));
  }

  @ParameterizedTest(name = "{0}: {1}")
  @MethodSource("rules")
  void eachIsTold(String form, String words, UnaryOperator<byte[]> how) throws Exception {
    assertThat(told(how.apply(landed(form))))
        .extracting(Finding::message)
        .anyMatch(m -> m.contains(words));
  }
}
