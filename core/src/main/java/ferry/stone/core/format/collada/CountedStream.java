package ferry.stone.core.format.collada;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Counts what is read, and keeps a fault that a parser would wrap as one of the text. */
final class CountedStream extends FilterInputStream {
  private long count;
  private boolean atEnd;
  private IOException fault;

  CountedStream(InputStream in) {
    super(in);
  }

  @Override
  public int read() throws IOException {
    byte[] one = new byte[1];
    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
  }

  @Override
  public int read(byte[] into, int from, int length) throws IOException {
    try {
      int read = super.read(into, from, length);
      count += Math.max(0, read);
      atEnd |= read < 0;
      return read;
    } catch (IOException e) {
      fault = e;
      throw e;
    }
  }

  long count() {
    return count;
  }

  boolean atEnd() {
    return atEnd;
  }

  /** What the disk said, or {@code null}. */
  IOException fault() {
    return fault;
  }
}
