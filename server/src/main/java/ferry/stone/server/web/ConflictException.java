package ferry.stone.server.web;

/** Something else must happen first. */
public final class ConflictException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  public ConflictException(String message) {
    super(message);
  }
}
