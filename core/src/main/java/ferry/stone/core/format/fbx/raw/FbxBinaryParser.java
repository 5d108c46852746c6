package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.Budget;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.zip.DataFormatException;
import java.util.zip.Inflater;

/**
 * Reads the binary form: nested records whose heads are 32 bits wide, 64 from version 7500 on, with
 * arrays that may be deflated. What follows the last record is not looked at.
 */
public final class FbxBinaryParser {
  public static final int WIDE_HEADS = 7500;
  static final int HEAD = 27;

  /** The first bytes of every file of this form. */
  static final byte[] MARK = {
    0x4b, 0x61, 0x79, 0x64, 0x61, 0x72, 0x61, 0x20, 0x46, 0x42, 0x58, 0x20, 0x42, 0x69, 0x6e, 0x61,
    0x72, 0x79, 0x20, 0x20, 0, 0x1a, 0
  };

  private static final int DEEPEST = 256;

  /** Deflate grows by at most this: RFC 1951 codes 258 bytes in two bits or more. */
  private static final int MOST_GROWTH = 1040;

  private final String resource;
  private final Budget budget;
  private final ByteBuffer in;
  private boolean wide;

  private FbxBinaryParser(String resource, byte[] file, Budget budget) {
    this.resource = resource;
    this.budget = budget;
    in = ByteBuffer.wrap(file).order(ByteOrder.LITTLE_ENDIAN);
  }

  /**
   * Whether a file without a whole mark was binary once: it has some of the mark, or zero bytes
   * near its beginning, which text has nowhere.
   */
  static boolean wasBinary(byte[] file) {
    int same = 0;
    for (int i = 0; i < Math.min(MARK.length, file.length); i++) {
      same += file[i] == MARK[i] ? 1 : 0;
    }
    boolean zeros = false;
    for (int i = 0; i < Math.min(4 * HEAD, file.length); i++) {
      zeros |= file[i] == 0;
    }
    return file.length > 0 && (2 * same >= MARK.length || zeros && same >= 4);
  }

  /** Whether a file begins as the binary form does. */
  public static boolean isBinary(byte[] file) {
    if (file.length < HEAD) {
      return false;
    }
    for (int i = 0; i < MARK.length; i++) {
      if (file[i] != MARK[i]) {
        return false;
      }
    }
    return true;
  }

  static int version(byte[] file) {
    return ByteBuffer.wrap(file).order(ByteOrder.LITTLE_ENDIAN).getInt(23);
  }

  /** All top records below one that has no name. */
  static FbxRecord parse(String resource, byte[] file, Budget budget) throws FormatException {
    FbxBinaryParser parser = new FbxBinaryParser(resource, file, budget);
    parser.wide = version(file) >= WIDE_HEADS;
    return parser.records();
  }

  private record Open(FbxRecord record, long end) {}

  private FbxRecord records() throws FormatException {
    FbxRecord root = new FbxRecord("", "");
    Deque<Open> open = new ArrayDeque<>();
    open.push(new Open(root, in.capacity()));
    in.position(HEAD);
    while (true) {
      Open top = open.peek();
      if (in.position() >= top.end()) {
        open.pop();
        if (open.isEmpty()) {
          return root;
        }
        continue;
      }
      int at = in.position();
      int head = wide ? 25 : 13;
      if (in.remaining() < head) {
        if (open.size() == 1) {
          return root;
        }
        throw error(Kind.TRUNCATED, at, "the file ends inside a record. Copy or export it again.");
      }
      long end = wide ? in.getLong() : in.getInt() & 0xffff_ffffL;
      long count = wide ? in.getLong() : in.getInt() & 0xffff_ffffL;
      long listLength = wide ? in.getLong() : in.getInt() & 0xffff_ffffL;
      int nameLength = in.get() & 0xff;
      if (end == 0) {
        // An empty record closes a list; at the top the footer follows.
        if (open.size() == 1) {
          return root;
        }
        in.position((int) top.end());
        continue;
      }
      if (end < at + head || end > top.end() || listLength < 0 || nameLength > in.remaining()) {
        throw error(
            end > in.capacity() ? Kind.TRUNCATED : Kind.CORRUPT,
            at,
            "a record claims to end at byte " + end + ", outside the one around it.");
      }
      byte[] name = new byte[nameLength];
      in.get(name);
      String place = "byte " + at;
      FbxRecord record = new FbxRecord(new String(name, StandardCharsets.UTF_8), place);
      long valuesEnd = in.position() + listLength;
      if (valuesEnd > end || count > listLength) {
        throw error(Kind.CORRUPT, at, "the values of " + record.name() + " do not fit into it.");
      }
      for (long v = 0; v < count; v++) {
        record.values().add(value((int) valuesEnd, record.name()));
      }
      top.record().children().add(record);
      in.position((int) valuesEnd);
      if (valuesEnd < end) {
        if (open.size() > DEEPEST) {
          throw error(Kind.CORRUPT, at, "records are nested more than " + DEEPEST + " deep.");
        }
        open.push(new Open(record, end));
      }
    }
  }

  private Object value(int end, String name) throws FormatException {
    int at = in.position();
    char type = (char) take(1, end, name).get();
    return switch (type) {
      case 'Y' -> (long) take(2, end, name).getShort();
      case 'C', 'B' -> {
        byte b = take(1, end, name).get();
        // Keys of version 6 are told by letters.
        yield b >= 'A' ? (Object) String.valueOf((char) b) : (Object) (b != 0);
      }
      case 'I' -> (long) take(4, end, name).getInt();
      case 'F' -> (double) take(4, end, name).getFloat();
      case 'D' -> take(8, end, name).getDouble();
      case 'L' -> take(8, end, name).getLong();
      case 'S', 'R' -> {
        int length = take(4, end, name).getInt();
        take(length, end, name);
        byte[] bytes = new byte[length];
        in.get(bytes);
        yield type == 'R' ? bytes : new String(bytes, StandardCharsets.UTF_8);
      }
      case 'f', 'd', 'l', 'i', 'b', 'c' -> array(type, end, name);
      default ->
          throw error(Kind.CORRUPT, at, name + " has a value of unknown type '" + type + "'.");
    };
  }

  /** The buffer, after a check that so many bytes are left. */
  private ByteBuffer take(int bytes, int end, String name) throws FormatException {
    if (bytes < 0 || bytes > end - in.position()) {
      throw error(
          Kind.CORRUPT, in.position(), "a value of " + name + " is longer than its record.");
    }
    return in;
  }

  private Object array(char type, int end, String name) throws FormatException {
    int at = in.position();
    take(12, end, name);
    int count = in.getInt();
    int encoding = in.getInt();
    int stored = in.getInt();
    int width =
        switch (type) {
          case 'd', 'l' -> 8;
          case 'f', 'i' -> 4;
          default -> 1;
        };
    long bytes = (long) count * width;
    take(encoding == 0 ? (int) Math.min(bytes, Integer.MAX_VALUE) : stored, end, name);
    if (count < 0
        || encoding > 1
        || encoding < 0
        || bytes > (long) MOST_GROWTH * stored + 64 + (encoding == 0 ? bytes : 0)) {
      throw error(
          Kind.CORRUPT,
          at,
          "the array of " + name + " claims " + count + " values, which do not fit.");
    }
    // Unpacked once as bytes, and once as the numbers that are kept.
    budget.claim(2L * Double.BYTES * count, "byte " + at, "the array of " + name);
    ByteBuffer data;
    if (encoding == 0) {
      data = in.slice(in.position(), (int) bytes).order(ByteOrder.LITTLE_ENDIAN);
      in.position(in.position() + (int) bytes);
    } else {
      data = ByteBuffer.wrap(inflated(stored, bytes, at, name)).order(ByteOrder.LITTLE_ENDIAN);
    }
    return unpacked(type, data, count);
  }

  private static Object unpacked(char type, ByteBuffer data, int count) {
    return switch (type) {
      case 'f' -> {
        double[] values = new double[count];
        for (int i = 0; i < count; i++) {
          values[i] = data.getFloat(4 * i);
        }
        yield values;
      }
      case 'd' -> {
        double[] values = new double[count];
        data.asDoubleBuffer().get(values);
        yield values;
      }
      case 'l' -> {
        long[] values = new long[count];
        data.asLongBuffer().get(values);
        yield values;
      }
      case 'i' -> {
        int[] values = new int[count];
        data.asIntBuffer().get(values);
        yield values;
      }
      default -> {
        int[] values = new int[count];
        for (int i = 0; i < count; i++) {
          values[i] = data.get(i);
        }
        yield values;
      }
    };
  }

  private byte[] inflated(int stored, long bytes, int at, String name) throws FormatException {
    if (bytes > Integer.MAX_VALUE - 16) {
      throw error(Kind.TOO_LARGE, at, "the array of " + name + " is larger than 2 GB.");
    }
    byte[] result = new byte[(int) bytes];
    Inflater inflater = new Inflater();
    try {
      inflater.setInput(in.array(), in.position(), stored);
      int filled = 0;
      while (filled < result.length) {
        int got = inflater.inflate(result, filled, result.length - filled);
        if (got == 0) {
          throw error(Kind.TRUNCATED, at, "the packed array of " + name + " ends too early.");
        }
        filled += got;
      }
    } catch (DataFormatException e) {
      throw error(Kind.CORRUPT, at, "the packed array of " + name + " is damaged.");
    } finally {
      inflater.end();
    }
    in.position(in.position() + stored);
    return result;
  }

  private FormatException error(Kind kind, int at, String problem) {
    return new FormatException(kind, resource, "byte " + at, problem);
  }
}
