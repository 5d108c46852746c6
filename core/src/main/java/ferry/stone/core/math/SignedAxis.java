package ferry.stone.core.math;

import java.util.Locale;
import java.util.Optional;
import org.joml.Vector3d;

/** One of the six axis directions of a coordinate frame. */
public enum SignedAxis {
  PLUS_X(0, 1),
  MINUS_X(0, -1),
  PLUS_Y(1, 1),
  MINUS_Y(1, -1),
  PLUS_Z(2, 1),
  MINUS_Z(2, -1);

  private final int index;
  private final int sign;

  SignedAxis(int index, int sign) {
    this.index = index;
    this.sign = sign;
  }

  /** 0 for X, 1 for Y, 2 for Z. */
  public int index() {
    return index;
  }

  /** +1 or −1. */
  public int sign() {
    return sign;
  }

  /** The unit vector of this direction. */
  public Vector3d vector() {
    return new Vector3d().setComponent(index, sign);
  }

  public SignedAxis opposite() {
    return of(index, -sign);
  }

  /** The text used in files, forms and on the command line: {@code y}, {@code -z}. */
  public String text() {
    return (sign < 0 ? "-" : "") + "xyz".charAt(index);
  }

  /** Words for people: {@code Z}, {@code −Z}. */
  public String label() {
    return (sign < 0 ? "−" : "") + "XYZ".charAt(index);
  }

  public static SignedAxis of(int index, int sign) {
    for (SignedAxis axis : values()) {
      if (axis.index == index && axis.sign == Integer.signum(sign)) {
        return axis;
      }
    }
    throw new IllegalArgumentException("no axis with index " + index + " and sign " + sign);
  }

  /** Reads {@code y}, {@code +y}, {@code -Z}; empty for anything else. */
  public static Optional<SignedAxis> parse(String text) {
    if (text == null) {
      return Optional.empty();
    }
    String wanted = text.strip().toLowerCase(Locale.ROOT).replace("+", "").replace('−', '-');
    for (SignedAxis axis : values()) {
      if (axis.text().equals(wanted)) {
        return Optional.of(axis);
      }
    }
    return Optional.empty();
  }
}
