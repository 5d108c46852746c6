package ferry.stone.core.work;

/** The user cancelled the work. Nothing half-done is kept. */
public final class CancelledException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  public CancelledException() {
    super("Cancelled.");
  }
}
