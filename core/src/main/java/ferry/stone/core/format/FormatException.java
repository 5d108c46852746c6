package ferry.stone.core.format;

/** A file cannot be read or written. Says which file, where, what was expected and what to do. */
public final class FormatException extends Exception {
  private static final long serialVersionUID = 1L;

  /** What kind of trouble it is. */
  public enum Kind {
    /** Ends before it is complete. */
    TRUNCATED,
    /** Breaks the rules of its format. */
    CORRUPT,
    TOO_OLD,
    TOO_NEW,
    /** Right, but needs something this reader does not do. */
    UNSUPPORTED,
    /** Not a file of this format at all. */
    NOT_THIS_FORMAT,
    /** Over a limit that protects the machine. */
    TOO_LARGE,
    MISSING
  }

  private final Kind kind;
  private final String resource;
  private final String place;
  private final String problem;

  /**
   * @param resource path of the file in the cargo
   * @param place line, byte offset or path inside the file; empty for the whole file
   * @param problem what was found, against what was expected, and what to do
   */
  public FormatException(Kind kind, String resource, String place, String problem) {
    super(resource + (place.isEmpty() ? "" : ", " + place) + ": " + problem);
    this.kind = kind;
    this.resource = resource;
    this.place = place;
    this.problem = problem;
  }

  public Kind kind() {
    return kind;
  }

  public String resource() {
    return resource;
  }

  /** What was found and what to do, without the place. */
  public String problem() {
    return problem;
  }

  public String place() {
    return place;
  }
}
