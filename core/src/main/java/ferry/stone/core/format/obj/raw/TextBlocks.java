package ferry.stone.core.format.obj.raw;

import ferry.stone.core.format.FormatException;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;

/**
 * A text file in blocks of whole lines, so that several can be parsed at once. A line that a
 * backslash joins with the next is never cut. Ends of line are LF, CR LF or CR.
 */
public final class TextBlocks {
  /** Bytes {@code [0, length)} of an array that the block owns. */
  public record Block(byte[] bytes, int length) {}

  private static final int LONGEST_LINE = 64 << 20;

  private final InputStream in;
  private final String resource;
  private final int size;
  private byte[] kept = new byte[0];
  private boolean ended;

  /**
   * @param size of a block in bytes; longer where a line is longer
   */
  public TextBlocks(InputStream in, String resource, int size) throws IOException, FormatException {
    this.in = TextStart.open(in, resource);
    this.resource = resource;
    this.size = size;
  }

  /** The next block, or {@code null} at the end of the file. */
  public Block next() throws IOException, FormatException {
    byte[] bytes = Arrays.copyOf(kept, Math.max(size, 2 * kept.length));
    int filled = kept.length;
    while (true) {
      if (!ended) {
        int wanted = bytes.length - filled;
        int read = in.readNBytes(bytes, filled, wanted);
        filled += read;
        ended = read < wanted;
      }
      if (ended) {
        kept = new byte[0];
        return filled == 0 ? null : new Block(bytes, filled);
      }
      int cut = lastLineEnd(bytes, filled);
      if (cut > 0) {
        kept = Arrays.copyOfRange(bytes, cut, filled);
        return new Block(bytes, cut);
      }
      if (bytes.length >= LONGEST_LINE) {
        throw new FormatException(
            FormatException.Kind.TOO_LARGE,
            resource,
            "",
            "a line is longer than 64 MB. Check that this is a text file.");
      }
      bytes = Arrays.copyOf(bytes, bytes.length * 2);
    }
  }

  /** One past the last end of a line that is certainly complete, or 0. */
  private static int lastLineEnd(byte[] bytes, int filled) {
    for (int i = filled - 1; i >= 0; i--) {
      // After a CR at the very end a LF may follow in the next block.
      boolean end = bytes[i] == '\n' || (bytes[i] == '\r' && i + 1 < filled);
      if (!end || (bytes[i] == '\r' && bytes[i + 1] == '\n')) {
        continue;
      }
      int before = bytes[i] == '\n' && i > 0 && bytes[i - 1] == '\r' ? i - 2 : i - 1;
      if (before < 0 || bytes[before] != '\\') {
        return i + 1;
      }
    }
    return 0;
  }
}
