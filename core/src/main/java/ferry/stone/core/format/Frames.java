package ferry.stone.core.format;

import ferry.stone.core.math.Frame;

/**
 * What the files of a format say of their unit and axes.
 *
 * @param unit who says how long a unit is
 * @param axes who says which way is up
 * @param fixed what the standard says, where it does; {@code null} otherwise
 */
public record Frames(Says unit, Says axes, Frame fixed) {
  /** Who says it. */
  public enum Says {
    /** Each file may say its own. */
    FILE,
    /** The standard: all files have the same. */
    STANDARD,
    /** Nobody: it has to be known or found out. */
    NOBODY
  }

  public static final Frames STATED = new Frames(Says.FILE, Says.FILE, null);
  public static final Frames UNSAID = new Frames(Says.NOBODY, Says.NOBODY, null);

  public Frames {
    boolean standard = unit == Says.STANDARD || axes == Says.STANDARD;
    if (standard != (fixed != null)) {
      throw new IllegalArgumentException("a standard's frame is said, and only then");
    }
  }

  public static Frames fixed(Frame frame) {
    return new Frames(Says.STANDARD, Says.STANDARD, frame);
  }

  /** In a few words, for people. */
  public String words() {
    if (unit == Says.STANDARD && axes == Says.STANDARD) {
      return fixed.label() + ", by the standard";
    }
    if (unit == axes) {
      return unit == Says.FILE ? "stated in the file" : "not stated";
    }
    return unit == Says.FILE
        ? "the unit is stated, axes are not"
        : "axes are stated, the unit is not";
  }
}
