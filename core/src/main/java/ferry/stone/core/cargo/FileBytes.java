package ferry.stone.core.cargo;

import ferry.stone.core.format.files.RandomBytes;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.FileChannel;
import java.nio.file.Path;

/**
 * A file on disk. It stays open between reads as long as not too many others are wanted ({@link
 * OpenFiles}): opening costs more than a sample of a cache.
 */
final class FileBytes implements RandomBytes {
  private static final int TRIES = 8;

  private final Path place;
  private final long size;

  FileBytes(Path place, long size) {
    this.place = place;
    this.size = size;
  }

  @Override
  public long size() {
    return size;
  }

  @Override
  public void read(long at, byte[] into, int from, int count) throws IOException {
    read(at, ByteBuffer.wrap(into, from, count));
  }

  @Override
  public void read(long at, ByteBuffer into) throws IOException {
    int begin = into.position();
    for (int i = 1; ; i++) {
      try {
        readOnce(at, into);
        return;
      } catch (ClosedChannelException e) {
        // Given up for another file, or by a thread that was stopped.
        if (i == TRIES || Thread.currentThread().isInterrupted()) {
          throw e;
        }
        into.position(begin);
      }
    }
  }

  private void readOnce(long at, ByteBuffer into) throws IOException {
    FileChannel channel = OpenFiles.open(this, place);
    long next = at;
    while (into.hasRemaining()) {
      int read = channel.read(into, next);
      if (read < 0) {
        throw new EOFException(
            place.getFileName() + " ends before byte " + (next + into.remaining()));
      }
      next += read;
    }
  }
}
