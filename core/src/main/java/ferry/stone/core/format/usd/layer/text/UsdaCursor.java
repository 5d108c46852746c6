package ferry.stone.core.format.usd.layer.text;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.usd.layer.HeldBytes;
import java.nio.charset.StandardCharsets;

/**
 * Words, numbers and signs of a text layer, one after another; blanks and remarks are passed over.
 */
final class UsdaCursor {
  private static final double[] TENS = tens();

  /** Up to this power of ten, and 2 to the 53, one division or product is exact to the last bit. */
  private static final int EXACT = 22;

  private static final long MOST_DIGITS = 1L << 53;
  private static final int SHOWN = 24;

  private final String resource;
  private final byte[] text;
  private int at;

  private static double[] tens() {
    double[] tens = new double[EXACT + 1];
    tens[0] = 1;
    for (int i = 1; i < tens.length; i++) {
      tens[i] = 10 * tens[i - 1];
    }
    return tens;
  }

  UsdaCursor(String resource, byte[] text) {
    this.resource = resource;
    this.text = text;
  }

  int position() {
    return at;
  }

  boolean startsWith(String begin) {
    byte[] wanted = begin.getBytes(StandardCharsets.UTF_8);
    for (int i = 0; i < wanted.length; i++) {
      if (at + i >= text.length || text[at + i] != wanted[i]) {
        return false;
      }
    }
    return true;
  }

  /** Passes the rest of a line. */
  void passLine() {
    while (at < text.length && text[at] != '\n' && text[at] != '\r') {
      at++;
    }
  }

  private void skip() throws FormatException {
    while (at < text.length) {
      int c = text[at];
      if (c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == ';') {
        at++;
      } else if (c == '#' || c == '/' && at + 1 < text.length && text[at + 1] == '/') {
        passLine();
      } else if (c == '/' && at + 1 < text.length && text[at + 1] == '*') {
        int from = at;
        at += 2;
        while (at + 1 < text.length && (text[at] != '*' || text[at + 1] != '/')) {
          at++;
        }
        if (at + 1 >= text.length) {
          at = from;
          throw error("a remark begins here and never ends. Close it with */.");
        }
        at += 2;
      } else {
        return;
      }
    }
  }

  /** The next sign that counts, 0 at the end. */
  char peek() throws FormatException {
    skip();
    return at < text.length ? (char) (text[at] & 0xff) : 0;
  }

  /** Takes a sign if it is next. */
  boolean take(char sign) throws FormatException {
    boolean is = peek() == sign;
    at += is ? 1 : 0;
    return is;
  }

  void expect(char sign) throws FormatException {
    if (!take(sign)) {
      throw expected("\"" + sign + "\"");
    }
  }

  private static boolean isWord(int c) {
    return c >= 'a' && c <= 'z'
        || c >= 'A' && c <= 'Z'
        || c >= '0' && c <= '9'
        || c == '_'
        || c == ':'
        || c < 0;
  }

  /** The next word without taking it; empty where none is next. */
  String peekWord() throws FormatException {
    skip();
    return new String(text, at, wordEnd() - at, StandardCharsets.UTF_8);
  }

  private int wordEnd() {
    int end = at;
    while (end < text.length && isWord(text[end])) {
      end++;
    }
    return end;
  }

  /** Takes a word if it is next. */
  boolean take(String word) throws FormatException {
    boolean is = peekWord().equals(word);
    at = is ? wordEnd() : at;
    return is;
  }

  /** A word of letters, digits, {@code _} and {@code :}. */
  String word(String what) throws FormatException {
    String word = peekWord();
    if (word.isEmpty()) {
      throw expected(what);
    }
    at = wordEnd();
    return word;
  }

  boolean isNumber() throws FormatException {
    char c = peek();
    if (c >= '0' && c <= '9' || c == '-' || c == '+' || c == '.') {
      return true;
    }
    String word = peekWord();
    return word.equals("inf") || word.equals("nan");
  }

  /** Whether the number that is next has no point and no exponent. */
  boolean isWhole() throws FormatException {
    skip();
    int i = at;
    while (i < text.length && (text[i] == '-' || text[i] == '+' || isDigit(text[i]))) {
      i++;
    }
    return i >= text.length || text[i] != '.' && text[i] != 'e' && text[i] != 'E' && text[i] != 'i';
  }

  private static boolean isDigit(int c) {
    return c >= '0' && c <= '9';
  }

  /** The nearest double to what is written. */
  double number() throws FormatException {
    skip();
    int from = at;
    boolean negative = at < text.length && text[at] == '-';
    if (negative || at < text.length && text[at] == '+') {
      at++;
    }
    if (at < text.length && (text[at] == 'i' || text[at] == 'n')) {
      String word = peekWord();
      if (word.equals("inf") || word.equals("nan")) {
        at += 3;
        return word.equals("nan")
            ? Double.NaN
            : negative ? Double.NEGATIVE_INFINITY : Double.POSITIVE_INFINITY;
      }
    }
    long digits = 0;
    int count = 0;
    int exponent = 0;
    boolean exact = true;
    boolean point = false;
    for (; at < text.length; at++) {
      int c = text[at];
      if (isDigit(c)) {
        exact &= digits < MOST_DIGITS / 10;
        digits = exact ? 10 * digits + c - '0' : digits;
        exponent -= point ? 1 : 0;
        count++;
      } else if (c == '.' && !point) {
        point = true;
      } else {
        break;
      }
    }
    if (count == 0) {
      at = from;
      throw expected("a number");
    }
    exponent += power();
    if (exact && Math.abs(exponent) <= EXACT) {
      double value = exponent < 0 ? digits / TENS[-exponent] : digits * TENS[exponent];
      return negative ? -value : value;
    }
    return Double.parseDouble(new String(text, from, at - from, StandardCharsets.US_ASCII));
  }

  /** What stands behind an {@code e}, 0 where there is none. */
  private int power() throws FormatException {
    if (at >= text.length || text[at] != 'e' && text[at] != 'E') {
      return 0;
    }
    int mark = at++;
    boolean down = at < text.length && text[at] == '-';
    if (down || at < text.length && text[at] == '+') {
      at++;
    }
    int power = 0;
    int first = at;
    for (; at < text.length && isDigit(text[at]); at++) {
      power = Math.min(100_000, 10 * power + text[at] - '0');
    }
    if (at == first) {
      at = mark;
      throw expected("the digits of an exponent");
    }
    return down ? -power : power;
  }

  /** A whole number of 64 bits, with or without a sign. */
  long whole() throws FormatException {
    skip();
    int from = at;
    boolean negative = at < text.length && text[at] == '-';
    at += negative ? 1 : 0;
    int first = at;
    while (at < text.length && isDigit(text[at])) {
      at++;
    }
    boolean real = at < text.length && (text[at] == '.' || text[at] == 'e');
    String digits = new String(text, first, at - first, StandardCharsets.US_ASCII);
    try {
      if (digits.isEmpty() || real) {
        throw new NumberFormatException();
      }
      long value = negative ? Long.parseLong("-" + digits) : Long.parseUnsignedLong(digits);
      return value;
    } catch (NumberFormatException e) {
      at = from;
      throw expected("a whole number");
    }
  }

  boolean isString() throws FormatException {
    char c = peek();
    return c == '"' || c == '\'';
  }

  /** A text in single or double quotes, or in three of them over lines. */
  String string(String what) throws FormatException {
    if (!isString()) {
      throw expected(what);
    }
    int from = at;
    byte quote = text[at];
    boolean triple = at + 2 < text.length && text[at + 1] == quote && text[at + 2] == quote;
    at += triple ? 3 : 1;
    HeldBytes bytes = new HeldBytes();
    while (true) {
      if (at >= text.length || !triple && (text[at] == '\n' || text[at] == '\r')) {
        at = from;
        throw error("a text begins here and never ends. Close it with the same quotes.");
      }
      byte c = text[at];
      boolean ends =
          c == quote
              && (!triple
                  || at + 2 < text.length && text[at + 1] == quote && text[at + 2] == quote);
      if (ends) {
        at += triple ? 3 : 1;
        return bytes.text();
      }
      if (c == '\\' && at + 1 < text.length) {
        at += 1;
        escape(bytes);
      } else {
        bytes.add(c);
        at++;
      }
    }
  }

  /** After a backslash: as in C. */
  private void escape(HeldBytes bytes) {
    int c = text[at++];
    switch (c) {
      case 'n' -> bytes.add('\n');
      case 't' -> bytes.add('\t');
      case 'r' -> bytes.add('\r');
      case 'a' -> bytes.add(7);
      case 'b' -> bytes.add('\b');
      case 'f' -> bytes.add('\f');
      case 'v' -> bytes.add(11);
      case 'x' -> {
        int value = 0;
        for (int i = 0; i < 2 && at < text.length; i++) {
          int digit = Character.digit(text[at], 16);
          if (digit < 0) {
            break;
          }
          value = 16 * value + digit;
          at++;
        }
        bytes.add(value);
      }
      default -> {
        if (c >= '0' && c <= '7') {
          int value = c - '0';
          for (int i = 0; i < 2 && at < text.length; i++) {
            if (text[at] < '0' || text[at] > '7') {
              break;
            }
            value = 8 * value + text[at++] - '0';
          }
          bytes.add(value);
        } else {
          bytes.add(c);
        }
      }
    }
  }

  /** A path of a file between {@code @} or {@code @@@}. */
  String asset() throws FormatException {
    if (peek() != '@') {
      throw expected("a path between @ signs");
    }
    int from = at;
    boolean triple = startsWith("@@@");
    at += triple ? 3 : 1;
    HeldBytes bytes = new HeldBytes();
    while (at < text.length && (triple || text[at] != '\n')) {
      if (triple && startsWith("\\@@@")) {
        at += 4;
        "@@@".chars().forEach(bytes::add);
      } else if (triple ? startsWith("@@@") : text[at] == '@') {
        at += triple ? 3 : 1;
        return bytes.text();
      } else {
        bytes.add(text[at++]);
      }
    }
    at = from;
    throw error("a path of a file begins here and never ends. Close it with @.");
  }

  /** A path of a prim or property between {@code <} and {@code >}. */
  String path() throws FormatException {
    if (peek() != '<') {
      throw expected("a path like </Yard/Mast>");
    }
    int from = ++at;
    while (at < text.length && text[at] != '>' && text[at] != '\n') {
      at++;
    }
    if (at >= text.length || text[at] != '>') {
      at = from - 1;
      throw error("a path begins here and never ends. Close it with >.");
    }
    return new String(text, from, at++ - from, StandardCharsets.UTF_8);
  }

  /** What stands between two places. */
  String between(int from, int to) {
    return new String(text, from, to - from, StandardCharsets.UTF_8);
  }

  FormatException expected(String what) {
    if (at >= text.length) {
      return new FormatException(
          Kind.TRUNCATED,
          resource,
          place(),
          "the file ends where " + what + " is expected. Export or copy it again.");
    }
    int end = at;
    while (end < text.length && end - at < SHOWN && text[end] != '\n' && text[end] != '\r') {
      end++;
    }
    return error("expected " + what + ", found \"" + between(at, end) + "\". Correct the file.");
  }

  FormatException error(String problem) {
    return new FormatException(Kind.CORRUPT, resource, place(), problem);
  }

  /** Line and column from 1. */
  private String place() {
    int line = 1;
    int begin = 0;
    int end = Math.min(at, text.length);
    for (int i = 0; i < end; i++) {
      if (text[i] == '\n') {
        line++;
        begin = i + 1;
      }
    }
    int column = new String(text, begin, end - begin, StandardCharsets.UTF_8).length() + 1;
    return "line " + line + ", column " + column;
  }
}
