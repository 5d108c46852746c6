package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.math.DoubleList;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.Base64;
import java.util.Deque;

/**
 * Reads the text form: {@code Name: value, value { … }}, arrays as {@code *count { a: … }},
 * comments from {@code ;} to the end of the line.
 */
public final class FbxTextParser {
  private static final int DEEPEST = 256;
  private static final int MOST_SINGLE = 64;

  private final String resource;
  private final byte[] in;
  private int at;
  private int line = 1;

  private FbxTextParser(String resource, byte[] file) {
    this.resource = resource;
    in = file;
  }

  /** All top records below one that has no name. */
  public static FbxRecord parse(String resource, byte[] file) throws FormatException {
    return new FbxTextParser(resource, file).records();
  }

  private FbxRecord records() throws FormatException {
    FbxRecord root = new FbxRecord("", "");
    Deque<FbxRecord> open = new ArrayDeque<>();
    open.push(root);
    if (in.length > 2 && in[0] == (byte) 0xef && in[1] == (byte) 0xbb) {
      at = 3;
    }
    while (true) {
      skip();
      if (at >= in.length) {
        if (open.size() > 1) {
          throw error(Kind.TRUNCATED, "the file ends inside " + open.peek().name() + ".");
        }
        return root;
      }
      if (in[at] == '}') {
        at++;
        if (open.size() == 1) {
          throw error(Kind.CORRUPT, "a } closes nothing.");
        }
        open.pop();
        continue;
      }
      FbxRecord record = new FbxRecord(name(), "line " + line);
      values(record);
      open.peek().children().add(record);
      skip();
      if (at < in.length && in[at] == '{') {
        at++;
        open.push(record);
        if (open.size() > DEEPEST) {
          throw error(Kind.CORRUPT, "records are nested more than " + DEEPEST + " deep.");
        }
      }
    }
  }

  private String name() throws FormatException {
    int start = at;
    while (at < in.length && in[at] != ':' && in[at] != '\n' && in[at] != '{' && in[at] != '}') {
      at++;
    }
    if (at >= in.length || in[at] != ':') {
      throw error(Kind.CORRUPT, "expected a name followed by \":\".");
    }
    String name = new String(in, start, at - start, StandardCharsets.UTF_8).strip();
    at++;
    return name;
  }

  private void values(FbxRecord record) throws FormatException {
    DoubleList numbers = null;
    blanks();
    if (at < in.length && in[at] == ',') {
      // Carried files are written as a comma and the text on the next line.
      at++;
      skip();
    }
    while (at < in.length) {
      int c = in[at];
      if (c == '"') {
        record.values().add(string());
      } else if (c == '*') {
        array(record);
        return;
      } else if (isNumber(c)) {
        Object number = number();
        if (record.values().size() < MOST_SINGLE || record.name().equals("Key")) {
          record.values().add(number);
        } else {
          // Old files write arrays as long lists: they become one array below.
          numbers = numbers == null ? new DoubleList(1024) : numbers;
          numbers.add(((Number) number).doubleValue());
        }
      } else if (Character.isLetter(c)) {
        record.values().add(word());
      } else {
        break;
      }
      blanks();
      if (at < in.length && in[at] == ',') {
        at++;
        skip();
      } else {
        break;
      }
    }
    if (numbers != null) {
      join(record, numbers);
    }
  }

  private static void join(FbxRecord record, DoubleList rest) {
    DoubleList all = new DoubleList(record.values().size() + rest.size());
    for (Object value : record.values()) {
      all.add(value instanceof Number n ? n.doubleValue() : 0);
    }
    for (int i = 0; i < rest.size(); i++) {
      all.add(rest.get(i));
    }
    record.values().clear();
    record.values().add(all.toArray());
  }

  private void array(FbxRecord record) throws FormatException {
    at++;
    Object count = number();
    skip();
    if (at >= in.length || in[at] != '{') {
      throw error(Kind.CORRUPT, "expected { after the length of the array " + record.name() + ".");
    }
    at++;
    skip();
    if (at < in.length && in[at] == 'a') {
      name();
    }
    boolean whole = record.name().equals("KeyTime");
    DoubleList values = new DoubleList(16);
    java.util.ArrayList<Long> longs = new java.util.ArrayList<>();
    skip();
    while (at < in.length && in[at] != '}') {
      // What is no number is written as NaN or Infinity.
      if (!isNumber(in[at]) && in[at] != 'N' && in[at] != 'n' && in[at] != 'I') {
        throw error(
            Kind.CORRUPT, "the array " + record.name() + " holds something else than numbers.");
      }
      Object value = number();
      whole &= value instanceof Long;
      if (whole) {
        longs.add((Long) value);
      }
      values.add(((Number) value).doubleValue());
      skip();
      if (at < in.length && in[at] == ',') {
        at++;
        skip();
      }
    }
    if (at >= in.length) {
      throw error(Kind.TRUNCATED, "the file ends inside the array " + record.name() + ".");
    }
    at++;
    if (((Number) count).doubleValue() != values.size()) {
      throw error(
          Kind.CORRUPT,
          "the array "
              + record.name()
              + " claims "
              + count
              + " numbers but has "
              + values.size()
              + ".");
    }
    if (whole) {
      // Times are longer than a double holds.
      record.values().add(longs.stream().mapToLong(Long::longValue).toArray());
    } else {
      record.values().add(values.toArray());
    }
  }

  private static boolean isNumber(int c) {
    return c >= '0' && c <= '9' || c == '-' || c == '+' || c == '.';
  }

  private Object number() throws FormatException {
    int start = at;
    boolean whole = true;
    while (at < in.length) {
      int c = in[at];
      if (c == '.' || c == 'e' || c == 'E' || Character.isLetter(c) || c == '#') {
        whole = false;
      } else if (!(c >= '0' && c <= '9') && c != '-' && c != '+') {
        break;
      }
      at++;
    }
    String text = new String(in, start, at - start, StandardCharsets.US_ASCII);
    try {
      if (whole) {
        return Long.parseLong(text);
      }
      return Double.parseDouble(text);
    } catch (NumberFormatException e) {
      if (text.contains("#") || text.toLowerCase(java.util.Locale.ROOT).contains("n")) {
        // Some writers print what is no number as 1.#IND or nan.
        return Double.NaN;
      }
      throw error(Kind.CORRUPT, "\"" + text + "\" is no number.");
    }
  }

  private Object word() {
    int start = at;
    while (at < in.length && (Character.isLetterOrDigit(in[at]) || in[at] == '_')) {
      at++;
    }
    String word = new String(in, start, at - start, StandardCharsets.US_ASCII);
    return word.equals("T") || word.equals("Y")
        ? Boolean.TRUE
        : word.equals("F") || word.equals("N") ? Boolean.FALSE : word;
  }

  private Object string() throws FormatException {
    int start = ++at;
    while (at < in.length && in[at] != '"') {
      line += in[at] == '\n' ? 1 : 0;
      at++;
    }
    if (at >= in.length) {
      throw error(Kind.TRUNCATED, "a text has no end.");
    }
    String text = new String(in, start, at++ - start, StandardCharsets.UTF_8);
    return text.replace("&quot;", "\"").replace("&cr;", "\r").replace("&lf;", "\n");
  }

  private void blanks() {
    while (at < in.length && (in[at] == ' ' || in[at] == '\t' || in[at] == '\r')) {
      at++;
    }
  }

  /** Passes over blanks, line ends and comments. */
  private void skip() {
    while (at < in.length) {
      int c = in[at];
      if (c == ';') {
        while (at < in.length && in[at] != '\n') {
          at++;
        }
      } else if (c == '\n') {
        line++;
        at++;
      } else if (c == ' ' || c == '\t' || c == '\r') {
        at++;
      } else {
        return;
      }
    }
  }

  /** Bytes of a file that is carried inside as text. */
  public static byte[] base64(String text) {
    try {
      return Base64.getMimeDecoder().decode(text);
    } catch (IllegalArgumentException e) {
      return new byte[0];
    }
  }

  private FormatException error(Kind kind, String problem) {
    return new FormatException(kind, resource, "line " + line, problem);
  }
}
