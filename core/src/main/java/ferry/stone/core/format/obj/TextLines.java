package ferry.stone.core.format.obj;

import ferry.stone.core.format.FormatException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Logical lines of a text file as ranges of a byte buffer: no object is made for a line. Ends of
 * line are LF, CR LF or CR. UTF-16 with a byte-order mark is turned into UTF-8; a UTF-8 mark is
 * dropped.
 */
final class TextLines {
  private static final int LONGEST_LINE = 64 << 20;
  private static final int MOST_UTF16 = 1 << 30;

  private final InputStream in;
  private final String resource;
  private final boolean joins;
  private byte[] buffer = new byte[1 << 20];
  private int filled;
  private int next;
  private boolean ended;
  private long bytesRead;
  private int start;
  private int end;
  private int lines;
  private int line;

  /**
   * @param joins whether a backslash at a line's end joins the next line
   */
  TextLines(InputStream in, String resource, boolean joins) throws IOException, FormatException {
    this.resource = resource;
    this.joins = joins;
    byte[] head = in.readNBytes(4096);
    int b0 = head.length > 1 ? head[0] & 0xff : 0;
    int b1 = head.length > 1 ? head[1] & 0xff : 0;
    if ((b0 == 0xff && b1 == 0xfe) || (b0 == 0xfe && b1 == 0xff)) {
      byte[] rest = in.readNBytes(MOST_UTF16);
      byte[] all = Arrays.copyOf(head, head.length + rest.length);
      System.arraycopy(rest, 0, all, head.length, rest.length);
      head = new String(all, StandardCharsets.UTF_16).getBytes(StandardCharsets.UTF_8);
      this.in = InputStream.nullInputStream();
    } else {
      this.in = in;
      for (byte b : head) {
        if (b == 0) {
          throw new FormatException(
              FormatException.Kind.NOT_THIS_FORMAT,
              resource,
              "",
              "this is a binary file, not the text that its name promises. Check that the right"
                  + " file was chosen.");
        }
      }
    }
    int skip = head.length >= 3 && (head[0] & 0xff) == 0xef && (head[1] & 0xff) == 0xbb ? 3 : 0;
    if (head.length > buffer.length) {
      buffer = head;
    } else {
      System.arraycopy(head, 0, buffer, 0, head.length);
    }
    filled = head.length;
    bytesRead = head.length;
    next = skip;
  }

  /** Moves to the next logical line; false at the end of the file. */
  boolean next() throws IOException, FormatException {
    if (next >= filled && !fill(next)) {
      return false;
    }
    start = next;
    line = lines + 1;
    int i = next;
    while (true) {
      if (i >= filled) {
        int shift = start;
        if (!fill(start)) {
          end = filled;
          next = filled;
          lines++;
          return true;
        }
        i -= shift - start;
        continue;
      }
      byte[] b = buffer;
      int stop = filled;
      // One comparison for nearly every byte: line ends are below the space.
      while (i < stop && (b[i] > '\r' || (b[i] != '\n' && b[i] != '\r'))) {
        i++;
      }
      if (i < stop) {
        i = afterLineEnd(i);
        if (end >= 0) {
          next = i;
          return true;
        }
      }
    }
  }

  /** Handles a line end at {@code i}: sets {@code end}, or −1 when the line goes on. */
  private int afterLineEnd(int at) throws IOException, FormatException {
    int i = at;
    lines++;
    int after = i + 1;
    if (buffer[i] == '\r') {
      if (after >= filled) {
        int shift = start;
        fill(start);
        i -= shift - start;
        after = i + 1;
      }
      if (after < filled && buffer[after] == '\n') {
        after++;
      }
    }
    int last = i - 1;
    if (joins && last >= start && buffer[last] == '\\') {
      Arrays.fill(buffer, last, after, (byte) ' ');
      end = -1;
      return after;
    }
    end = i;
    return after;
  }

  /** Reads more, keeping the bytes from {@code keep} on; {@code start} moves with them. */
  private boolean fill(int keep) throws IOException, FormatException {
    if (ended) {
      return false;
    }
    if (keep > 0) {
      System.arraycopy(buffer, keep, buffer, 0, filled - keep);
      filled -= keep;
      start -= keep;
      next -= keep;
    }
    if (filled == buffer.length) {
      if (buffer.length >= LONGEST_LINE) {
        throw new FormatException(
            FormatException.Kind.TOO_LARGE,
            resource,
            "line " + (lines + 1),
            "the line is longer than 64 MB. Check that this is a text file.");
      }
      buffer = Arrays.copyOf(buffer, buffer.length * 2);
    }
    int read = in.read(buffer, filled, buffer.length - filled);
    if (read <= 0) {
      ended = true;
      return false;
    }
    filled += read;
    bytesRead += read;
    return true;
  }

  /** The buffer that {@link #start()} and {@link #end()} point into; changes with every line. */
  byte[] buffer() {
    return buffer;
  }

  int start() {
    return start;
  }

  /** One past the last byte of the line. */
  int end() {
    return end;
  }

  /** Number of the line, from 1; of the first one when lines were joined. */
  int line() {
    return line;
  }

  /** Bytes taken from the file so far. */
  long bytesRead() {
    return bytesRead;
  }
}
