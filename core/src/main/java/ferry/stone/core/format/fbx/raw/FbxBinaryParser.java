package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.BinaryCursor;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.RandomBytes;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.Deque;

/**
 * Reads the binary form: nested records whose heads are 32 bits wide, 64 from version 7500 on, with
 * arrays that may be deflated. What follows the last record is not looked at.
 */
public final class FbxBinaryParser {
  public static final int WIDE_HEADS = 7500;
  public static final int HEAD = 27;

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
  private final BinaryCursor in;
  private final FbxArrays arrays;
  private boolean wide;

  private FbxBinaryParser(String resource, RandomBytes file, Budget budget) {
    this.resource = resource;
    this.budget = budget;
    in = new BinaryCursor(resource, file, ByteOrder.LITTLE_ENDIAN);
    arrays = new FbxArrays(resource);
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
  static FbxRecord parse(String resource, RandomBytes file, int version, Budget budget)
      throws IOException, FormatException {
    FbxBinaryParser parser = new FbxBinaryParser(resource, file, budget);
    parser.wide = version >= WIDE_HEADS;
    try (FbxArrays arrays = parser.arrays) {
      try {
        FbxRecord root = parser.records();
        arrays.finish();
        return root;
      } catch (FormatException later) {
        // What is wrong with an array that stands before that is told first.
        arrays.finish();
        throw later;
      }
    }
  }

  private record Open(FbxRecord record, long end) {}

  private FbxRecord records() throws IOException, FormatException {
    FbxRecord root = new FbxRecord("", "");
    Deque<Open> open = new ArrayDeque<>();
    open.push(new Open(root, in.size()));
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
      long at = in.position();
      int head = wide ? 25 : 13;
      if (in.remaining() < head) {
        if (open.size() == 1) {
          return root;
        }
        throw error(Kind.TRUNCATED, at, "the file ends inside a record. Copy or export it again.");
      }
      long end = wide ? in.readLong() : in.readUnsignedInt();
      long count = wide ? in.readLong() : in.readUnsignedInt();
      long listLength = wide ? in.readLong() : in.readUnsignedInt();
      int nameLength = in.readByte() & 0xff;
      if (end == 0) {
        // An empty record closes a list; at the top the footer follows.
        if (open.size() == 1) {
          return root;
        }
        in.position(top.end());
        continue;
      }
      if (end < at + head || end > top.end() || listLength < 0 || nameLength > in.remaining()) {
        throw error(
            end > in.size() ? Kind.TRUNCATED : Kind.CORRUPT,
            at,
            "a record claims to end at byte " + end + ", outside the one around it.");
      }
      byte[] name = in.bytes(nameLength, "a name");
      String place = "byte " + at;
      FbxRecord record = new FbxRecord(new String(name, StandardCharsets.UTF_8), place);
      long valuesEnd = in.position() + listLength;
      if (valuesEnd > end || count > listLength) {
        throw error(Kind.CORRUPT, at, "the values of " + record.name() + " do not fit into it.");
      }
      for (long v = 0; v < count; v++) {
        value(valuesEnd, record);
      }
      top.record().children().add(record);
      in.position(valuesEnd);
      if (valuesEnd < end) {
        if (open.size() > DEEPEST) {
          throw error(Kind.CORRUPT, at, "records are nested more than " + DEEPEST + " deep.");
        }
        open.push(new Open(record, end));
      }
    }
  }

  private void value(long end, FbxRecord record) throws IOException, FormatException {
    long at = in.position();
    String name = record.name();
    char type = (char) take(1, end, name).readByte();
    switch (type) {
      case 'f', 'd', 'l', 'i', 'b', 'c' -> array(type, end, record);
      default -> record.values().add(single(type, end, name, at));
    }
  }

  private Object single(char type, long end, String name, long at)
      throws IOException, FormatException {
    return switch (type) {
      case 'Y' -> (long) take(2, end, name).readShort();
      case 'C', 'B' -> {
        byte b = take(1, end, name).readByte();
        // Keys of version 6 are told by letters.
        yield b >= 'A' ? (Object) String.valueOf((char) b) : (Object) (b != 0);
      }
      case 'I' -> (long) take(4, end, name).readInt();
      case 'F' -> (double) take(4, end, name).readFloat();
      case 'D' -> take(8, end, name).readDouble();
      case 'L' -> take(8, end, name).readLong();
      case 'S', 'R' -> {
        long room = end - in.position() - 4;
        int length = take(4, end, name).readCount("a value of " + name, room);
        byte[] bytes = in.bytes(length, "a value of " + name);
        yield type == 'R' ? bytes : new String(bytes, StandardCharsets.UTF_8);
      }
      default ->
          throw error(Kind.CORRUPT, at, name + " has a value of unknown type '" + type + "'.");
    };
  }

  /** The cursor, after a check that so many bytes are left. */
  private BinaryCursor take(long bytes, long end, String name) throws FormatException {
    if (bytes < 0 || bytes > end - in.position()) {
      throw error(
          Kind.CORRUPT, in.position(), "a value of " + name + " is longer than its record.");
    }
    return in;
  }

  private void array(char type, long end, FbxRecord record) throws IOException, FormatException {
    long at = in.position();
    String name = record.name();
    take(12, end, name);
    int count = in.readInt();
    int encoding = in.readInt();
    int stored = in.readInt();
    int width =
        switch (type) {
          case 'd', 'l' -> 8;
          case 'f', 'i' -> 4;
          default -> 1;
        };
    long bytes = (long) count * width;
    take(encoding == 0 ? bytes : stored, end, name);
    if (count < 0
        || encoding > 1
        || encoding < 0
        || bytes > (long) MOST_GROWTH * stored + 64 + (encoding == 0 ? bytes : 0)) {
      throw error(
          Kind.CORRUPT,
          at,
          "the array of " + name + " claims " + count + " values, which do not fit.");
    }
    long kept = (long) count * (type == 'i' || width == 1 ? Integer.BYTES : Double.BYTES);
    String what = "the array of " + name;
    if (!budget.allows(kept + bytes)) {
      // For a while it is there twice: as bytes, and as the numbers that are kept.
      budget.claim(kept + bytes, "byte " + at, what);
    }
    budget.claim(kept, "byte " + at, what);
    if (count > Integer.MAX_VALUE - 16) {
      throw error(Kind.TOO_LARGE, at, what + " has more values than can be held.");
    }
    byte[] raw = in.bytes(encoding == 0 ? bytes : stored, what);
    arrays.add(record, new FbxArrays.Packed(type, count, encoding != 0, raw, at));
  }

  private FormatException error(Kind kind, long at, String problem) {
    return new FormatException(kind, resource, "byte " + at, problem);
  }
}
