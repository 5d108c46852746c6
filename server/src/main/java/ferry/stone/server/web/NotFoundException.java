package ferry.stone.server.web;

/** What was asked for is not there. */
public final class NotFoundException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  public NotFoundException(String message) {
    super(message);
  }
}
