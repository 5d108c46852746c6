package ferry.stone.cli;

import ferry.stone.core.work.Progress;
import java.io.PrintWriter;
import java.util.Locale;
import java.util.function.LongSupplier;

/**
 * What long work is at, on one line of a terminal that is written over and gone at the end. Short
 * work shows nothing; neither does a command whose output goes to a file or another program.
 */
final class ProgressLine implements Progress, AutoCloseable {
  private static final long WAIT = 700_000_000L;
  private static final long PAUSE = 150_000_000L;
  private static final int WIDEST = 78;

  private final PrintWriter out;
  private final LongSupplier clock;
  private long next;
  private boolean shown;

  /**
   * @param out the terminal; {@code null} for none
   * @param clock nanoseconds
   */
  ProgressLine(PrintWriter out, LongSupplier clock) {
    this.out = out;
    this.clock = clock;
    next = clock.getAsLong() + WAIT;
  }

  /** On the terminal that the command was called from, if it was. */
  static ProgressLine onTerminal() {
    return new ProgressLine(
        System.console() == null ? null : new PrintWriter(System.err), System::nanoTime);
  }

  @Override
  public synchronized void report(String what, double fraction) {
    long now = clock.getAsLong();
    if (out == null || now < next) {
      return;
    }
    next = now + PAUSE;
    shown = true;
    double part = Math.max(0, Math.min(1, fraction));
    String line = String.format(Locale.ROOT, "%3.0f %%  %s", 100 * part, what);
    line = line.replaceAll("\\p{Cntrl}", " ");
    String fitting = line.length() > WIDEST ? line.substring(0, WIDEST - 1) + "…" : line;
    out.print("\r" + fitting + " ".repeat(WIDEST - fitting.length()));
    out.flush();
  }

  @Override
  public boolean isCancelled() {
    return false;
  }

  /** Takes the line away. */
  @Override
  public synchronized void close() {
    if (shown) {
      out.print("\r" + " ".repeat(WIDEST) + "\r");
      out.flush();
      shown = false;
    }
  }
}
