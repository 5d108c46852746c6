package ferry.stone.core.format.obj.raw;

import ferry.stone.core.format.FormatException;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * The start of a text file: UTF-16 with a byte-order mark is turned into UTF-8, a UTF-8 mark is
 * dropped, a binary file is refused.
 */
final class TextStart {
  private static final int HEAD = 4096;
  private static final int MOST_UTF16 = 1 << 30;

  private TextStart() {}

  static InputStream open(InputStream in, String resource) throws IOException, FormatException {
    byte[] head = in.readNBytes(HEAD);
    int b0 = head.length > 1 ? head[0] & 0xff : 0;
    int b1 = head.length > 1 ? head[1] & 0xff : 0;
    if ((b0 == 0xff && b1 == 0xfe) || (b0 == 0xfe && b1 == 0xff)) {
      byte[] rest = in.readNBytes(MOST_UTF16);
      byte[] all = Arrays.copyOf(head, head.length + rest.length);
      System.arraycopy(rest, 0, all, head.length, rest.length);
      return new ByteArrayInputStream(
          new String(all, StandardCharsets.UTF_16).getBytes(StandardCharsets.UTF_8));
    }
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
    int mark = head.length >= 3 && b0 == 0xef && b1 == 0xbb ? 3 : 0;
    return new SequenceInputStream(new ByteArrayInputStream(head, mark, head.length - mark), in);
  }
}
