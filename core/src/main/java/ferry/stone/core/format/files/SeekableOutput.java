package ferry.stone.core.format.files;

import java.io.Closeable;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.StandardOpenOption;

/**
 * A file that is written from front to end, and of which what stands already can be written over:
 * for formats that say in front what is known at the end only. A target that is a file itself
 * ({@link FileOutputStream}) is written in place; for any other stream it grows in a temporary file
 * and gets there when it is closed. {@link #complete} must be called before, else the target stays
 * empty.
 */
public final class SeekableOutput implements Closeable {
  private static final int BLOCK = 1 << 16;

  private final OutputStream target;
  private final boolean inPlace;
  private final FileChannel channel;
  private final ByteBuffer block = ByteBuffer.allocate(BLOCK);
  private long written;
  private boolean complete;

  public SeekableOutput(OutputStream target) throws IOException {
    this.target = target;
    inPlace = target instanceof FileOutputStream;
    channel =
        target instanceof FileOutputStream file
            ? file.getChannel()
            : FileChannel.open(
                Files.createTempFile("ferry-", ".part"),
                StandardOpenOption.READ,
                StandardOpenOption.WRITE,
                StandardOpenOption.DELETE_ON_CLOSE);
  }

  /** How many bytes stand there. */
  public long position() {
    return written + block.position();
  }

  /** Writes what is left of a buffer, at once. */
  public void write(ByteBuffer bytes) throws IOException {
    flush();
    while (bytes.hasRemaining()) {
      written += channel.write(bytes, written);
    }
  }

  public void write(byte[] bytes) throws IOException {
    write(bytes, 0, bytes.length);
  }

  public void write(byte[] bytes, int from, int count) throws IOException {
    if (count >= BLOCK) {
      flush();
      ByteBuffer all = ByteBuffer.wrap(bytes, from, count);
      while (all.hasRemaining()) {
        written += channel.write(all, written);
      }
      return;
    }
    int at = from;
    int left = count;
    while (left > 0) {
      if (!block.hasRemaining()) {
        flush();
      }
      int some = Math.min(left, block.remaining());
      block.put(bytes, at, some);
      at += some;
      left -= some;
    }
  }

  /**
   * Writes over what stands at a place.
   *
   * @throws IllegalArgumentException when less stands there
   */
  public void patch(long at, byte[] bytes) throws IOException {
    if (at < 0 || at + bytes.length > position()) {
      throw new IllegalArgumentException(
          "bytes " + at + " to " + (at + bytes.length) + " are not written yet");
    }
    if (at >= written) {
      System.arraycopy(bytes, 0, block.array(), (int) (at - written), bytes.length);
      return;
    }
    flush();
    ByteBuffer over = ByteBuffer.wrap(bytes);
    while (over.hasRemaining()) {
      channel.write(over, at + over.position());
    }
  }

  private void flush() throws IOException {
    block.flip();
    while (block.hasRemaining()) {
      written += channel.write(block, written);
    }
    block.clear();
  }

  /** All is written: the target gets it on closing. */
  public void complete() {
    complete = true;
  }

  @Override
  public void close() throws IOException {
    try (target;
        channel) {
      if (inPlace && complete) {
        flush();
      } else if (inPlace) {
        channel.truncate(0);
      } else if (complete) {
        flush();
        for (long at = 0; at < written; at += block.limit()) {
          block.clear();
          block.limit((int) Math.min(BLOCK, written - at));
          while (block.hasRemaining() && channel.read(block, at + block.position()) >= 0) {
            // On until the block is full.
          }
          target.write(block.array(), 0, block.position());
        }
      }
    }
  }
}
