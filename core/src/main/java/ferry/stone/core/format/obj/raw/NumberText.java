package ferry.stone.core.format.obj.raw;

import java.nio.charset.StandardCharsets;

/**
 * Reads decimal numbers from bytes.
 *
 * <p>Up to 18 digits and a power of ten within ±22 are computed with one multiplication or division
 * of exact doubles (Clinger 1990, "How to read floating point numbers accurately", fast path); for
 * more digits than 15 the result may differ from the nearest double in the last place. All else
 * goes through the JDK.
 */
public final class NumberText {
  private static final double[] TENS = new double[23];

  static {
    double ten = 1;
    for (int i = 0; i < TENS.length; i++) {
      TENS[i] = ten;
      ten *= 10;
    }
  }

  private NumberText() {}

  /** 10 to the power of 0 to 22, exact. */
  public static double ten(int power) {
    return TENS[power];
  }

  private static final int NO_EXPONENT = Integer.MIN_VALUE;

  /** The number in {@code [from, to)}; throws {@link NumberFormatException} if it is none. */
  public static double parse(byte[] text, int from, int to) {
    int i = from;
    boolean negative = false;
    if (i < to && (text[i] == '-' || text[i] == '+')) {
      negative = text[i] == '-';
      i++;
    }
    long mantissa = 0;
    int digits = 0;
    int scale = 0;
    boolean point = false;
    int firstDigit = i;
    for (; i < to; i++) {
      int c = text[i];
      if (c >= '0' && c <= '9') {
        if (digits >= 18) {
          return slow(text, from, to);
        }
        mantissa = mantissa * 10 + (c - '0');
        digits += mantissa == 0 ? 0 : 1;
        scale -= point ? 1 : 0;
      } else if (c == '.' && !point) {
        point = true;
      } else {
        break;
      }
    }
    if (i - firstDigit <= (point ? 1 : 0)) {
      return slow(text, from, to);
    }
    if (i < to) {
      if ((text[i] | 0x20) != 'e' || i + 1 >= to) {
        return slow(text, from, to);
      }
      int exponent = exponent(text, i + 1, to);
      if (exponent == NO_EXPONENT) {
        return slow(text, from, to);
      }
      scale += exponent;
    }
    double value = mantissa;
    if (mantissa != 0) {
      if (scale < -22 || scale > 22) {
        return slow(text, from, to);
      }
      value = scale < 0 ? value / TENS[-scale] : value * TENS[scale];
    }
    return negative ? -value : value;
  }

  /**
   * The whole number in {@code [from, to)}, at most four digits; {@link #NO_EXPONENT} otherwise.
   */
  private static int exponent(byte[] text, int from, int to) {
    boolean minus = text[from] == '-';
    int i = text[from] == '-' || text[from] == '+' ? from + 1 : from;
    if (i >= to || to - i > 4) {
      return NO_EXPONENT;
    }
    int exponent = 0;
    for (; i < to; i++) {
      int c = text[i] - '0';
      if (c < 0 || c > 9) {
        return NO_EXPONENT;
      }
      exponent = exponent * 10 + c;
    }
    return minus ? -exponent : exponent;
  }

  private static double slow(byte[] text, int from, int to) {
    String word = new String(text, from, to - from, StandardCharsets.ISO_8859_1).toLowerCase();
    return switch (word) {
      case "nan", "-nan", "+nan", "nan(ind)", "-nan(ind)", "1.#ind", "-1.#ind", "1.#qnan" ->
          Double.NaN;
      case "inf", "+inf", "infinity", "1.#inf" -> Double.POSITIVE_INFINITY;
      case "-inf", "-infinity", "-1.#inf" -> Double.NEGATIVE_INFINITY;
      default -> {
        if (word.isEmpty() || word.endsWith("d") || word.endsWith("f") || word.contains("x")) {
          throw new NumberFormatException(word);
        }
        // A decimal comma is met in files written under some locales.
        yield Double.parseDouble(word.replace(',', '.'));
      }
    };
  }
}
