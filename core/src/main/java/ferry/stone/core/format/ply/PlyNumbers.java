package ferry.stone.core.format.ply;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;

/** The numbers behind a head, one after another, whatever the encoding. */
final class PlyNumbers {
  private static final int LONGEST_WORD = 64;
  private static final int BLOCK = 1 << 16;

  private final String resource;
  private final PlyHead.Encoding encoding;
  private final InputStream in;
  private final byte[] block = new byte[BLOCK];
  private final ByteBuffer numbers = ByteBuffer.wrap(block);
  private int at;
  private int end;
  private final byte[] word = new byte[LONGEST_WORD];
  private long line;
  private long read;

  PlyNumbers(String resource, PlyHead head, InputStream in) {
    this.resource = resource;
    this.in = in;
    encoding = head.encoding();
    boolean little = encoding == PlyHead.Encoding.LITTLE;
    numbers.order(little ? ByteOrder.LITTLE_ENDIAN : ByteOrder.BIG_ENDIAN);
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
    need(type.bytes);
    int from = at;
    at += type.bytes;
    read += type.bytes;
    return switch (type) {
      case INT8 -> numbers.get(from);
      case UINT8 -> numbers.get(from) & 0xff;
      case INT16 -> numbers.getShort(from);
      case UINT16 -> numbers.getShort(from) & 0xffff;
      case INT32 -> numbers.getInt(from);
      case UINT32 -> numbers.getInt(from) & 0xffff_ffffL;
      case FLOAT32 -> numbers.getFloat(from);
      case FLOAT64 -> numbers.getDouble(from);
    };
  }

  /** Has so many bytes at hand, one behind the other. */
  private void need(int count) throws IOException, FormatException {
    if (end - at < count) {
      fill();
      if (end - at < count) {
        read += end - at;
        throw ended();
      }
    }
  }

  private void fill() throws IOException {
    System.arraycopy(block, at, block, 0, end - at);
    end -= at;
    at = 0;
    end += in.readNBytes(block, end, block.length - end);
  }

  /** Passes over bytes of the binary form. */
  void skip(long count) throws IOException, FormatException {
    long left = count;
    while (left > 0) {
      need(1);
      int step = (int) Math.min(left, end - at);
      at += step;
      read += step;
      left -= step;
    }
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

  /** The next byte, −1 at the end. */
  int character() throws IOException {
    if (at == end) {
      fill();
    }
    int b = at == end ? -1 : block[at++] & 0xff;
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
