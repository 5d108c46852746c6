package ferry.stone.core.format.abc.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;

/** Headers one after another, with the place of each for errors. */
final class HeaderBytes {
  private final OgawaFile file;
  private final long at;
  private final ByteBuffer bytes;

  /**
   * @param tail bytes at the end that are no headers
   */
  HeaderBytes(OgawaFile file, OgawaFile.Data data, int tail) throws IOException, FormatException {
    this.file = file;
    at = data.at();
    long size = data.size() - tail;
    if (size < 0 || size > Integer.MAX_VALUE - 16) {
      throw file.error(
          Kind.CORRUPT, at, "headers of " + data.size() + " bytes. Export the file again.");
    }
    bytes = file.read(at, (int) size);
  }

  boolean hasMore() {
    return bytes.hasRemaining();
  }

  long place() {
    return at + bytes.position();
  }

  /** The headers of a property need this word. */
  int word() throws FormatException {
    need(4);
    return bytes.getInt();
  }

  double real() throws FormatException {
    need(8);
    return bytes.getDouble();
  }

  int small() throws FormatException {
    need(1);
    return bytes.get() & 0xff;
  }

  /** A number of 32 bits without a sign. */
  long number() throws FormatException {
    return word() & 0xffff_ffffL;
  }

  /**
   * A number whose size a header told.
   *
   * @param hint 0 for 8 bits, 1 for 16, 2 for 32
   */
  long number(int hint) throws FormatException {
    switch (hint) {
      case 0:
        return small();
      case 1:
        need(2);
        return bytes.getShort() & 0xffff;
      case 2:
        return number();
      default:
        throw file.error(Kind.CORRUPT, place(), "a number of unknown size. Export it again.");
    }
  }

  String text(long size) throws FormatException {
    need(size);
    byte[] text = new byte[(int) size];
    bytes.get(text);
    return new String(text, StandardCharsets.UTF_8);
  }

  /** Makes sure of so many values of 8 bytes and gives how many they are. */
  int reals(long count) throws FormatException {
    need(8 * count);
    return (int) count;
  }

  private void need(long count) throws FormatException {
    if (count > bytes.remaining()) {
      throw file.error(
          Kind.CORRUPT,
          place(),
          "a header needs "
              + count
              + " bytes here, but "
              + bytes.remaining()
              + " are left. Export the file again.");
    }
  }
}
