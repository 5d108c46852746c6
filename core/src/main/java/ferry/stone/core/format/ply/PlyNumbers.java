package ferry.stone.core.format.ply;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;

/** The numbers behind a head, one after another, whatever the encoding. */
final class PlyNumbers {
  private static final int LONGEST_WORD = 64;

  private final String resource;
  private final PlyHead.Encoding encoding;
  private final DataInputStream in;
  private final byte[] word = new byte[LONGEST_WORD];
  private long line;
  private long read;

  PlyNumbers(String resource, PlyHead head, InputStream in) {
    this.resource = resource;
    this.in = new DataInputStream(in);
    encoding = head.encoding();
    line = head.lines() + 1L;
  }

  /** How many bytes were read. */
  long bytes() {
    return read;
  }

  String place() {
    return encoding == PlyHead.Encoding.TEXT ? "line " + line : "byte " + read + " behind the head";
  }

  double next(PlyHead.Type type) throws IOException, FormatException {
    if (encoding == PlyHead.Encoding.TEXT) {
      return text();
    }
    boolean turn = encoding == PlyHead.Encoding.LITTLE;
    try {
      read += type.bytes;
      return switch (type) {
        case INT8 -> in.readByte();
        case UINT8 -> in.readUnsignedByte();
        case INT16 -> {
          short v = in.readShort();
          yield turn ? Short.reverseBytes(v) : v;
        }
        case UINT16 -> {
          short v = in.readShort();
          yield (turn ? Short.reverseBytes(v) : v) & 0xffff;
        }
        case INT32 -> whole(turn);
        case UINT32 -> whole(turn) & 0xffff_ffffL;
        case FLOAT32 -> Float.intBitsToFloat(whole(turn));
        case FLOAT64 -> {
          long v = in.readLong();
          yield Double.longBitsToDouble(turn ? Long.reverseBytes(v) : v);
        }
      };
    } catch (EOFException e) {
      throw ended();
    }
  }

  private int whole(boolean turn) throws IOException {
    int v = in.readInt();
    return turn ? Integer.reverseBytes(v) : v;
  }

  private double text() throws IOException, FormatException {
    int length = 0;
    int b = character();
    while (b >= 0 && b <= ' ') {
      b = character();
    }
    if (b < 0) {
      throw ended();
    }
    long place = line;
    while (b > ' ') {
      if (length == LONGEST_WORD) {
        throw new FormatException(
            Kind.CORRUPT, resource, "line " + line, "expected a number, found a long word.");
      }
      word[length++] = (byte) b;
      b = character();
    }
    String number = new String(word, 0, length, StandardCharsets.ISO_8859_1);
    try {
      return Double.parseDouble(number);
    } catch (NumberFormatException e) {
      return odd(number, place);
    }
  }

  /** Spellings of C: nan and inf. */
  private double odd(String number, long place) throws FormatException {
    String low = number.toLowerCase(java.util.Locale.ROOT);
    if (low.matches("[-+]?nan.*")) {
      return Double.NaN;
    }
    if (low.matches("[-+]?inf(inity)?")) {
      return low.startsWith("-") ? Double.NEGATIVE_INFINITY : Double.POSITIVE_INFINITY;
    }
    throw new FormatException(
        Kind.CORRUPT, resource, "line " + place, "expected a number, found \"" + number + "\".");
  }

  private int character() throws IOException {
    int b = in.read();
    read++;
    if (b == '\n') {
      line++;
    }
    return b;
  }

  private FormatException ended() {
    return new FormatException(
        Kind.TRUNCATED,
        resource,
        place(),
        "the file ends before all that its head claims. Export or copy it again.");
  }
}
