package ferry.stone.core.format.files;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * Reads numbers one after another from a file of any size, through a window of it. What a file
 * claims is checked before memory is taken: {@link #readCount} for counts, {@link #block} for
 * bytes.
 */
public final class BinaryCursor {
  private static final int WINDOW = 1 << 16;

  /** Longest array of bytes that there can be. */
  private static final int LONGEST = Integer.MAX_VALUE - 16;

  /** What goes from a file into numbers does so by way of this: files fill it without a copy. */
  private static final ThreadLocal<ByteBuffer> SCRATCH =
      ThreadLocal.withInitial(() -> ByteBuffer.allocateDirect(1 << 18));

  private final String resource;
  private final RandomBytes file;
  private final ByteOrder order;
  private final ByteBuffer window;
  private long windowAt;

  public BinaryCursor(String resource, RandomBytes file, ByteOrder order) {
    this(resource, file, order, WINDOW);
  }

  /**
   * @param ahead bytes that are read at once: few for one that is there for a single value
   */
  public BinaryCursor(String resource, RandomBytes file, ByteOrder order, int ahead) {
    this.resource = resource;
    this.file = file;
    this.order = order;
    window = ByteBuffer.allocate(ahead).order(order).limit(0);
  }

  public long size() {
    return file.size();
  }

  public long position() {
    return windowAt + window.position();
  }

  /** Goes to a place, which may be the end. */
  public void position(long at) {
    if (at < 0 || at > size()) {
      throw new IllegalArgumentException("byte " + at + " of " + size());
    }
    if (at >= windowAt && at <= windowAt + window.limit()) {
      window.position((int) (at - windowAt));
    } else {
      windowAt = at;
      window.limit(0);
    }
  }

  public long remaining() {
    return size() - position();
  }

  /** Makes sure that the window holds the next bytes, at most as many as it can. */
  private void need(int bytes) throws IOException, FormatException {
    if (window.remaining() >= bytes) {
      return;
    }
    long at = position();
    if (bytes > size() - at) {
      throw truncated(at);
    }
    int length = (int) Math.min(window.capacity(), size() - at);
    window.clear();
    fill(at, window.array(), length);
    window.limit(length);
    windowAt = at;
  }

  private void fill(long at, byte[] into, int length) throws IOException, FormatException {
    try {
      file.read(at, into, 0, length);
    } catch (EOFException e) {
      throw truncated(at);
    }
  }

  private FormatException truncated(long at) {
    return new FormatException(
        Kind.TRUNCATED, resource, "byte " + at, "the file ends here. Copy or export it again.");
  }

  public byte readByte() throws IOException, FormatException {
    need(1);
    return window.get();
  }

  public short readShort() throws IOException, FormatException {
    need(2);
    return window.getShort();
  }

  public int readInt() throws IOException, FormatException {
    need(4);
    return window.getInt();
  }

  public long readUnsignedInt() throws IOException, FormatException {
    return readInt() & 0xffff_ffffL;
  }

  public long readLong() throws IOException, FormatException {
    need(8);
    return window.getLong();
  }

  public float readFloat() throws IOException, FormatException {
    return Float.intBitsToFloat(readInt());
  }

  public double readDouble() throws IOException, FormatException {
    return Double.longBitsToDouble(readLong());
  }

  /**
   * A count of 32 bits: the one place where a count of a file is believed.
   *
   * @param name what is counted, for the error
   * @param most how many there can be in what is left
   */
  public int readCount(String name, long most) throws IOException, FormatException {
    long at = position();
    int count = readInt();
    if (count < 0 || count > most) {
      throw new FormatException(
          Kind.CORRUPT,
          resource,
          "byte " + at,
          name + " claims " + count + " values, but there is room for " + Math.max(0, most) + ".");
    }
    return count;
  }

  /** The next bytes, in memory of their own. */
  public byte[] bytes(long count, String name) throws IOException, FormatException {
    long at = position();
    if (count < 0 || count > remaining()) {
      throw truncated(at);
    }
    if (count > LONGEST) {
      throw new FormatException(
          Kind.TOO_LARGE, resource, "byte " + at, name + " is larger than 2 GB. Split the asset.");
    }
    byte[] bytes = new byte[(int) count];
    if (count <= window.capacity()) {
      need(bytes.length);
      window.get(bytes);
    } else {
      fill(at, bytes, bytes.length);
      position(at + count);
    }
    return bytes;
  }

  /**
   * The next numbers of 32 bits, by way of a buffer that is kept: what is read next goes over it.
   *
   * @param target gets them from its beginning on
   */
  public void floats(float[] target, int count) throws IOException, FormatException {
    long at = position();
    if (4L * count > remaining()) {
      throw truncated(at);
    }
    ByteBuffer kept = SCRATCH.get().order(order);
    int done = 0;
    while (done < count) {
      int some = Math.min(count - done, kept.capacity() / 4);
      kept.clear().limit(4 * some);
      try {
        file.read(at + 4L * done, kept);
      } catch (EOFException e) {
        throw truncated(at + 4L * done);
      }
      kept.flip();
      kept.asFloatBuffer().get(target, done, some);
      done += some;
    }
    position(at + 4L * count);
  }

  /** The next bytes, in the order of this cursor. */
  public ByteBuffer block(long count, String name) throws IOException, FormatException {
    return ByteBuffer.wrap(bytes(count, name)).order(order);
  }
}
