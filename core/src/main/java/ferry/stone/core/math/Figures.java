package ferry.stone.core.math;

import java.math.BigDecimal;
import java.math.MathContext;
import java.util.Locale;

/** Numbers as people read them: sensible digits, a unit, no exponent in the usual range. */
public final class Figures {
  private Figures() {}

  /** Four significant digits, no trailing zeros. */
  public static String plain(double value) {
    if (Double.isNaN(value)) {
      return "not a number";
    }
    if (Double.isInfinite(value)) {
      return value > 0 ? "infinite" : "minus infinite";
    }
    if (value == 0) {
      return "0";
    }
    double size = Math.abs(value);
    if (size >= 1e9 || size < 1e-6) {
      return String.format(Locale.ROOT, "%.3g", value);
    }
    BigDecimal rounded = new BigDecimal(value).round(new MathContext(4)).stripTrailingZeros();
    return rounded.scale() < 0 ? rounded.setScale(0).toPlainString() : rounded.toPlainString();
  }

  /** A length in metres, shown in the unit that reads best: 0.96 m, 7.4 mm, 1.2 km. */
  public static String length(double metres) {
    double size = Math.abs(metres);
    if (size >= 1000) {
      return plain(metres / 1000) + " km";
    }
    if (size >= 0.1 || size == 0) {
      return plain(metres) + " m";
    }
    if (size >= 1e-4) {
      return plain(metres * 1000) + " mm";
    }
    return plain(metres * 1e6) + " µm";
  }

  /** A count with thin spaces between thousands: 18 432. */
  public static String count(long value) {
    String digits = Long.toString(Math.abs(value));
    if (value == Long.MIN_VALUE || digits.length() <= 3) {
      return Long.toString(value);
    }
    StringBuilder text = new StringBuilder(digits.length() + 8).append(value < 0 ? "-" : "");
    for (int i = 0; i < digits.length(); i++) {
      if (i > 0 && (digits.length() - i) % 3 == 0) {
        text.append('\u2009');
      }
      text.append(digits.charAt(i));
    }
    return text.toString();
  }

  /** A count with its noun, plural when it is not one. */
  public static String count(long value, String noun) {
    return count(value) + " " + (value == 1 ? noun : plural(noun));
  }

  private static String plural(String noun) {
    if (noun.endsWith("x")) {
      return noun.endsWith("rtex") ? noun.substring(0, noun.length() - 2) + "ices" : noun + "es";
    }
    if (noun.endsWith("y")) {
      return noun.substring(0, noun.length() - 1) + "ies";
    }
    return noun.endsWith("h") ? noun + "es" : noun + "s";
  }

  /** Bytes in the unit that reads best, by thousands. */
  public static String bytes(long bytes) {
    if (bytes < 1000) {
      return bytes + " B";
    }
    if (bytes < 1_000_000) {
      return plain(bytes / 1e3) + " kB";
    }
    return bytes < 1_000_000_000 ? plain(bytes / 1e6) + " MB" : plain(bytes / 1e9) + " GB";
  }
}
