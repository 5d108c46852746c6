package ferry.stone.core.work;

import java.util.concurrent.ForkJoinTask;

/**
 * Points deep inside long loops where work can be cancelled, without handing its progress through
 * every algorithm. Whoever runs work says so with {@link #during}; elsewhere a point does nothing.
 */
public final class Cancel {
  private static final ThreadLocal<Progress> CURRENT = new ThreadLocal<>();

  private Cancel() {}

  /** What is done as part of some work. */
  public interface Part<T, E extends Exception> {
    T run() throws E;
  }

  /** Does something so that its cancel points ask a progress. */
  public static <T, E extends Exception> T during(Progress progress, Part<T, E> work) throws E {
    Progress before = CURRENT.get();
    CURRENT.set(progress);
    try {
      return work.run();
    } finally {
      if (before == null) {
        CURRENT.remove();
      } else {
        CURRENT.set(before);
      }
    }
  }

  /**
   * Does something on another core, if one is free, as part of the same work.
   *
   * @return to be joined, which throws what the work threw
   */
  public static ForkJoinTask<?> beside(Runnable work) {
    Progress progress = CURRENT.get();
    Runnable told =
        () ->
            during(
                progress,
                () -> {
                  work.run();
                  return null;
                });
    return ForkJoinTask.adapt(progress == null ? work : told).fork();
  }

  /** Ends the work of this thread when the user has asked for it. Call it every thousand rounds. */
  public static void point() {
    Progress progress = CURRENT.get();
    if (progress != null) {
      progress.checkCancelled();
    }
  }
}
