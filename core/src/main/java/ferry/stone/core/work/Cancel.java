package ferry.stone.core.work;

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
    set(progress);
    try {
      return work.run();
    } finally {
      set(before);
    }
  }

  private static void set(Progress progress) {
    if (progress == null) {
      CURRENT.remove();
    } else {
      CURRENT.set(progress);
    }
  }

  /** Whose cancel points this thread meets, {@code null} for none. */
  static Progress current() {
    return CURRENT.get();
  }

  /** Ends the work of this thread when the user has asked for it. Call it every thousand rounds. */
  public static void point() {
    Progress progress = CURRENT.get();
    if (progress != null) {
      progress.checkCancelled();
    }
  }
}
