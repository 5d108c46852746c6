package ferry.stone.core.format.obj.raw;

/** Logical lines of a block of text: a backslash at a line's end joins the next line to it. */
public final class TextLines {
  private final byte[] bytes;
  private final int length;
  private int next;
  private int start;
  private int end;
  private int lines;
  private int line;

  /**
   * @param linesBefore lines of the file before this block
   */
  public TextLines(TextBlocks.Block block, int linesBefore) {
    bytes = block.bytes();
    length = block.length();
    lines = linesBefore;
  }

  /** Moves to the next logical line; false at the end of the block. */
  public boolean next() {
    if (next >= length) {
      return false;
    }
    start = next;
    line = lines + 1;
    int i = next;
    while (true) {
      while (i < length && bytes[i] != '\n' && bytes[i] != '\r') {
        i++;
      }
      end = i;
      next = afterLineEnd(bytes, length, i);
      lines++;
      if (next >= length || i == start || bytes[i - 1] != '\\') {
        return true;
      }
      bytes[i - 1] = ' ';
      for (; i < next; i++) {
        bytes[i] = ' ';
      }
    }
  }

  /** The place after the line end (LF, CR LF or CR) at {@code i}. */
  public static int afterLineEnd(byte[] bytes, int length, int i) {
    boolean two = i + 1 < length && bytes[i] == '\r' && bytes[i + 1] == '\n';
    return Math.min(length, i + (two ? 2 : 1));
  }

  public int start() {
    return start;
  }

  /** One past the last byte of the line. */
  public int end() {
    return end;
  }

  /** Number of the line in the file, from 1; of the first one when lines were joined. */
  public int line() {
    return line;
  }

  /** Lines of the file up to here. */
  public int lines() {
    return lines;
  }
}
