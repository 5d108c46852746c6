package ferry.stone.core.format.gltf.draco;

/** A stream that is not as the specification says. */
public final class DracoException extends Exception {
  private static final long serialVersionUID = 1;

  private final boolean version;

  DracoException(String problem) {
    this(problem, false);
  }

  private DracoException(String problem, boolean version) {
    super(problem);
    this.version = version;
  }

  static DracoException version(String problem) {
    return new DracoException(problem, true);
  }

  /** Whether the stream may be whole, and is of a version that is not read. */
  public boolean isVersion() {
    return version;
  }
}
