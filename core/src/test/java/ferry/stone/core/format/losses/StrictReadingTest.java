package ferry.stone.core.format.losses;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A small file is read on one core, a large one on two: nobody can tell from what is said. */
class StrictReadingTest {
  private static final int SMALL = 10;
  private static final int LARGE = 2 << 20;

  private static FormatException fault(String who) {
    return new FormatException(Kind.CORRUPT, "a.x", "byte 0", who + " cannot.");
  }

  private static void tell(Findings findings, String who) {
    findings.add(Finding.of(who, Severity.LOOK, "a.x", who + " saw something."));
  }

  private static ReadContext context(int bytes, Findings findings) {
    return new ReadContext(
        new TestFiles().with("a.x", new byte[bytes]),
        Map.of(),
        findings,
        ferry.stone.core.work.Progress.NONE);
  }

  @ParameterizedTest
  @ValueSource(ints = {SMALL, LARGE})
  void rulesAreToldBeforeWhatTheReaderMet(int bytes) throws Exception {
    for (int round = 0; round < 50; round++) {
      Findings findings = new Findings();
      Scene made = new SceneBuilder("a").build();
      Scene read =
          StrictReading.read(
              (file, files, told) -> tell(told, "rules"),
              (file, context) -> {
                tell(context.findings(), "reader");
                return made;
              },
              "a.x",
              context(bytes, findings));
      assertEquals(made, read);
      assertEquals(
          List.of("rules", "reader"), findings.list().stream().map(Finding::code).toList());
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {SMALL, LARGE})
  void aFileThatNeitherCanReadIsRefusedByTheRules(int bytes) {
    FormatException e =
        assertThrows(
            FormatException.class,
            () ->
                StrictReading.read(
                    (file, files, told) -> {
                      throw fault("rules");
                    },
                    (file, context) -> {
                      throw fault("reader");
                    },
                    "a.x",
                    context(bytes, new Findings())));
    assertEquals(fault("rules").getMessage(), e.getMessage());
  }

  @ParameterizedTest
  @ValueSource(ints = {SMALL, LARGE})
  void whatTheReaderThrowsIsThrown(int bytes) {
    assertThrows(
        FormatException.class,
        () ->
            StrictReading.read(
                (file, files, told) -> {},
                (file, context) -> {
                  throw fault("reader");
                },
                "a.x",
                context(bytes, new Findings())));
    assertThrows(
        IOException.class,
        () ->
            StrictReading.read(
                (file, files, told) -> {},
                (file, context) -> {
                  throw new IOException("the disk is gone");
                },
                "a.x",
                context(bytes, new Findings())));
  }
}
