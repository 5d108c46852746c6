package ferry.stone.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;

class ProgressLineTest {
  private final StringWriter out = new StringWriter();
  private final AtomicLong nanos = new AtomicLong(5);

  private ProgressLine line() {
    return new ProgressLine(new PrintWriter(out), nanos::get);
  }

  @Test
  void shortWorkShowsNothing() {
    try (ProgressLine line = line()) {
      line.report("reading", 0.5);
    }
    assertEquals("", out.toString());
  }

  @Test
  void longWorkShowsOneLineThatIsGoneAtTheEnd() {
    try (ProgressLine line = line()) {
      nanos.addAndGet(1_000_000_000L);
      line.part(0.5, 1).report("comparing\n" + "a".repeat(200), 0.5);
      line.report("too soon to be seen", 0.8);
    }
    String[] shown = out.toString().split("\r");
    assertEquals(3, shown.length);
    assertTrue(shown[1].startsWith(" 75 %  comparing a"), shown[1]);
    assertEquals(78, shown[1].length());
    assertTrue(shown[2].isBlank());
    assertTrue(out.toString().endsWith("\r"));
  }

  @Test
  void withoutATerminalThereIsNone() {
    try (ProgressLine line = new ProgressLine(null, nanos::get)) {
      nanos.addAndGet(2_000_000_000L);
      line.report("reading", 0.5);
    }
    assertEquals("", out.toString());
  }
}
