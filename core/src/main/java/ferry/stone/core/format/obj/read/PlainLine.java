package ferry.stone.core.format.obj.read;

import ferry.stone.core.format.obj.raw.NumberText;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Reads the lines that most of a file is made of: numbers of digits and a point, and corners of
 * digits and slashes, divided by spaces. Eight bytes are looked at at once, so that how long a
 * number is costs nothing. Whatever else a line may hold is left to {@link ObjBlockParser}.
 */
final class PlainLine {
  /** For a line that is not such a line. */
  static final int OTHER = -1;

  private static final VarHandle WORDS =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
  private static final int WORD = Long.BYTES;
  private static final long ZEROS = 0x3030_3030_3030_3030L;
  private static final long TO_SIGN_ABOVE_NINE = 0x7676_7676_7676_7676L;
  private static final long SIGNS = 0x8080_8080_8080_8080L;
  private static final int MOST_CORNERS = 32;

  /** Whole numbers of so many digits over powers of ten are as near as doubles come. */
  private static final int MOST_DIGITS = 17;

  private final byte[] text;
  private final int end;

  /** The last place from which a word can be looked at. */
  private final int lastWord;

  /** The numbers of the line that was read. */
  final double[] numbers = new double[3];

  /** Vertex, UV and normal of each corner as written, 0 where it is left out. */
  final int[] corners = new int[3 * MOST_CORNERS];

  /** How many corners were read. */
  int count;

  private double number;

  PlainLine(byte[] text, int end) {
    this.text = text;
    this.end = end;
    lastWord = end - WORD;
  }

  /**
   * Reads so many numbers to {@link #numbers}.
   *
   * @param from place after the key word
   * @return the place of the line's end, or {@link #OTHER} where the line holds anything else
   */
  int numbers(int from, int wanted) {
    int i = from;
    for (int n = 0; n < wanted; n++) {
      i = number(pastSpaces(i));
      if (i == OTHER) {
        return OTHER;
      }
      numbers[n] = number;
    }
    i = pastSpaces(i);
    return i < end && isLineEnd(text[i]) ? i : OTHER;
  }

  /**
   * Reads three corners or more to {@link #corners}.
   *
   * @param from place after the key word
   * @return the place of the line's end, or {@link #OTHER} where the line holds anything else
   */
  int corners(int from) {
    int i = pastSpaces(from);
    int read = 0;
    while (i < end && !isLineEnd(text[i])) {
      if (read == corners.length) {
        return OTHER;
      }
      i = corner(i, read);
      if (i == OTHER) {
        return OTHER;
      }
      read += 3;
      i = pastSpaces(i);
    }
    count = read / 3;
    return i < end && count >= 3 ? i : OTHER;
  }

  private int corner(int from, int place) {
    int i = from;
    for (int part = 0; part < 3; part++) {
      if (i > lastWord) {
        return OTHER;
      }
      long word = (long) WORDS.get(text, i) ^ ZEROS;
      int digits = digits(word);
      if (digits == WORD || digits == 0 && part != 1) {
        return OTHER;
      }
      corners[place + part] = digits == 0 ? 0 : (int) value(word, digits);
      i += digits;
      // A word was there: what comes after fewer digits than it holds is there too.
      int next = text[i];
      if (next == '/' && part < 2) {
        i++;
      } else if (digits > 0 && (next == ' ' || isLineEnd(next))) {
        for (int left = part + 1; left < 3; left++) {
          corners[place + left] = 0;
        }
        return corners[place] == 0 ? OTHER : i;
      } else {
        return OTHER;
      }
    }
    return OTHER;
  }

  /** Reads one number to {@link #number}; the place after it, or {@link #OTHER}. */
  private int number(int from) {
    if (from >= lastWord) {
      return OTHER;
    }
    boolean minus = text[from] == '-';
    int i = minus ? from + 1 : from;
    long word = (long) WORDS.get(text, i) ^ ZEROS;
    int whole = digits(word);
    if (whole == WORD) {
      return OTHER;
    }
    long mantissa = whole == 0 ? 0 : value(word, whole);
    i += whole;
    int decimals = 0;
    if (text[i] == '.') {
      i++;
      int some = WORD;
      while (some == WORD && whole + decimals <= MOST_DIGITS) {
        if (i > lastWord) {
          return OTHER;
        }
        word = (long) WORDS.get(text, i) ^ ZEROS;
        some = digits(word);
        if (some > 0 && whole + decimals + some <= MOST_DIGITS) {
          mantissa = mantissa * (long) NumberText.ten(some) + value(word, some);
        }
        decimals += some;
        i += some;
      }
    }
    if (whole + decimals == 0 || whole + decimals > MOST_DIGITS || i >= end || !endsAt(i)) {
      return OTHER;
    }
    // Exact as in NumberText: a whole number over a power of ten.
    double value = decimals == 0 ? mantissa : mantissa / NumberText.ten(decimals);
    number = minus ? -value : value;
    return i;
  }

  private boolean endsAt(int i) {
    return text[i] == ' ' || isLineEnd(text[i]);
  }

  private int pastSpaces(int from) {
    int i = from;
    while (i < end && text[i] == ' ') {
      i++;
    }
    return i;
  }

  private static boolean isLineEnd(int c) {
    return c == '\n' || c == '\r';
  }

  /** How many of eight bytes, the lowest first, are digits; of bytes from which '0' was taken. */
  private static int digits(long word) {
    return Long.numberOfTrailingZeros((word + TO_SIGN_ABOVE_NINE | word) & SIGNS) >>> 3;
  }

  /** The number that the first one to eight bytes write: tens and ones joined, then their pairs. */
  private static long value(long word, int digits) {
    long d = word << WORD * (WORD - digits);
    d = d * 10 + (d >>> 8);
    long low = (d & 0xff_0000_00ffL) * (100 + (1_000_000L << 32));
    long high = (d >>> 16 & 0xff_0000_00ffL) * (1 + (10_000L << 32));
    return low + high >>> 32;
  }
}
