package ferry.stone.core.format.ply;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.FaultScene;
import ferry.stone.core.proof.FaultScene.Fault;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** "The PLY Polygon File Format" (Greg Turk, 1994), broken line by line. */
class PlyRulesTest {
  private final TestFiles files = new TestFiles();

  private List<Finding> told(byte[] bytes) throws Exception {
    files.with("a.ply", bytes);
    Findings findings = new Findings();
    PlyRules.check("a.ply", files, findings);
    return findings.list();
  }

  private byte[] landed(String form) throws Exception {
    LandingOptions options = LandingOptions.of("ply").with("encoding", form);
    Landing.write(FaultScene.with(Fault.NONE), options, "a", new TestFiles(), files, Progress.NONE);
    return files.bytes("a.ply");
  }

  @ParameterizedTest
  @ValueSource(strings = {"binary", "text"})
  void whatWeWriteKeepsThemAll(String form) throws Exception {
    assertThat(told(landed(form))).isEmpty();
  }

  @Test
  void nothingFollows() throws Exception {
    byte[] whole = landed("binary");
    assertThat(told(Arrays.copyOf(whole, whole.length + 3)))
        .extracting(Finding::message)
        .containsExactly("Something follows the last element.");
  }

  @ParameterizedTest(name = "{2}")
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          3 0 1 2            | 2 0 1            | fewer than three corners
          3 0 1 2            | 3 0 1 9          | names a vertex that is not there
          1 0 0              | nan 0 0          | value is no number
          3 0 1 2            | 3 0 1 2\\n3 0 1 2 | follows the last element
          property float z   | property float z\\nproperty float z | Two properties have one name
          uchar red          | float red        | not of one byte a channel
          element vertex 3   | element rope 0\\nelement vertex 3 | not the first elements
          """)
  void eachIsTold(String what, String to, String words) throws Exception {
    String plain =
        "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\n"
            + "property float z\nproperty uchar red\nelement face 1\n"
            + "property list uchar int vertex_indices\nend_header\n"
            + "0 0 0 1\n1 0 0 1\n0 1 0 1\n3 0 1 2\n";
    assertThat(told(plain.getBytes(StandardCharsets.UTF_8))).isEmpty();
    String changed = plain.replace(what, to.replace("\\n", "\n"));
    assertThat(changed).isNotEqualTo(plain);
    // Where vertices got one more number, so did their lines.
    changed =
        words.startsWith("Two")
            ? changed.replaceAll("(?m)^(\\S) 0 0 1$|^0 1 0 1$", "0 1 0 0 1")
            : changed;
    assertThat(told(changed.getBytes(StandardCharsets.UTF_8)))
        .extracting(Finding::message)
        .anyMatch(m -> m.contains(words));
  }
}
