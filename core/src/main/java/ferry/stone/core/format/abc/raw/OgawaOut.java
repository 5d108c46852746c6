package ferry.stone.core.format.abc.raw;

import ferry.stone.core.format.files.SeekableOutput;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;

/**
 * Writes groups and data from front to end, children before what holds them; the head gets the
 * place of the root last. Values that stand there already are not written again.
 */
final class OgawaOut implements Closeable {
  /** Marks what names data; alone it names data without bytes. */
  static final long DATA = Long.MIN_VALUE;

  private static final int OPEN = 0;
  private static final byte CLOSED = (byte) 0xff;
  private static final int VERSION = 1;
  private static final int ROOT_AT = 8;
  private static final int KEY = 16;

  private final SeekableOutput out;
  private final Map<SampleKey, Written> samples = new HashMap<>();

  /**
   * Values that stand in the file.
   *
   * @param place what names them
   */
  record Written(long place, SampleKey key) {
    static final Written NOTHING = new Written(DATA, new SampleKey(0, 0, 0));
  }

  OgawaOut(SeekableOutput out) throws IOException {
    this.out = out;
    ByteBuffer head = numbers(OgawaFile.HEAD);
    head.put("Ogawa".getBytes(StandardCharsets.US_ASCII)).put((byte) OPEN);
    head.put((byte) 0).put((byte) VERSION).putLong(0);
    out.write(head.array());
  }

  static ByteBuffer numbers(int bytes) {
    return ByteBuffer.allocate(bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  /** Writes bytes and gives what names them. */
  long data(byte[] bytes) throws IOException {
    if (bytes.length == 0) {
      return DATA;
    }
    long at = out.position();
    out.write(numbers(Long.BYTES).putLong(bytes.length).array());
    out.write(bytes);
    return at | DATA;
  }

  /** Writes the values of a sample behind their key, unless the same ones stand there. */
  Written sample(byte[] values, int size) throws IOException {
    if (size == 0) {
      return Written.NOTHING;
    }
    SampleKey key = SampleKey.of(values, size);
    Written known = samples.get(key);
    if (known != null) {
      return known;
    }
    Written written = new Written(out.position() | DATA, key);
    ByteBuffer head = numbers(Long.BYTES + KEY).putLong((long) KEY + size);
    out.write(head.putLong(key.low()).putLong(key.high()).array());
    out.write(values, 0, size);
    samples.put(key, written);
    return written;
  }

  /** Writes a group of what was written before. */
  long group(LongList children) throws IOException {
    if (children.size() == 0) {
      return 0;
    }
    long at = out.position();
    out.write(numbers(Long.BYTES).putLong(children.size()).array());
    for (int i = 0; i < children.size(); i++) {
      out.write(numbers(Long.BYTES).putLong(children.get(i)).array());
    }
    return at;
  }

  /** Names the root: the archive is whole. */
  void finish(long root) throws IOException {
    out.patch(ROOT_AT, numbers(Long.BYTES).putLong(root).array());
    out.patch(5, new byte[] {CLOSED});
    out.complete();
  }

  @Override
  public void close() throws IOException {
    out.close();
  }
}
