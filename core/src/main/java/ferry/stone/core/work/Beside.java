package ferry.stone.core.work;

import java.util.ArrayDeque;
import java.util.Iterator;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.FutureTask;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;

/**
 * Pieces of one work that are done on all cores. Other cores begin with what was given first; a
 * thread that waits for a piece does what nobody has begun meanwhile, the last first, so that no
 * core stands idle. For one thread; it closes this when it needs no more.
 */
public final class Beside implements AutoCloseable {
  private final ArrayDeque<FutureTask<?>> given = new ArrayDeque<>();

  /** Set for threads of which there are as many as cores; whether there are still. */
  private static final ThreadLocal<BooleanSupplier> OTHERS_BUSY = new ThreadLocal<>();

  /** How many cores there are, this one included. */
  public static int cores() {
    return 1 + ForkJoinPool.getCommonPoolParallelism();
  }

  /**
   * Does work of which each core has its own: its pieces are done by this thread, when they are
   * asked for, since handing them on would only cost.
   *
   * @param stillBusy asked at each piece: the last works to end leave cores free
   */
  public static <T, E extends Exception> T othersBusy(
      BooleanSupplier stillBusy, Cancel.Part<T, E> work) throws E {
    OTHERS_BUSY.set(stillBusy);
    try {
      return work.run();
    } finally {
      OTHERS_BUSY.remove();
    }
  }

  /**
   * Gives a piece to whichever core is free, as part of the work that this thread does.
   *
   * @return waits for its result and throws what the piece threw
   */
  public <T> Supplier<T> give(Supplier<T> piece) {
    Progress progress = Cancel.current();
    FutureTask<T> task = new FutureTask<>(() -> Cancel.during(progress, piece::get));
    given.add(task);
    BooleanSupplier busy = OTHERS_BUSY.get();
    if (busy == null || !busy.getAsBoolean()) {
      ForkJoinPool.commonPool().execute(task);
    }
    return () -> result(task);
  }

  private <T> T result(FutureTask<T> wanted) {
    // Does nothing where another core has begun it.
    wanted.run();
    Iterator<FutureTask<?>> lastFirst = given.descendingIterator();
    while (!wanted.isDone() && lastFirst.hasNext()) {
      lastFirst.next().run();
    }
    given.remove(wanted);
    boolean interrupted = false;
    try {
      while (true) {
        try {
          return wanted.get();
        } catch (InterruptedException e) {
          // What was begun ends soon; the thread is told then.
          interrupted = true;
        }
      }
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException problem) {
        throw problem;
      }
      if (e.getCause() instanceof Error error) {
        throw error;
      }
      throw new IllegalStateException(e.getCause());
    } finally {
      if (interrupted) {
        Thread.currentThread().interrupt();
      }
    }
  }

  /** Lets go of what nobody has begun. */
  @Override
  public void close() {
    given.forEach(task -> task.cancel(false));
  }
}
