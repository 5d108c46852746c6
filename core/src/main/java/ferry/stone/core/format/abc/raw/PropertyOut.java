package ferry.stone.core.format.abc.raw;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;

/**
 * A property that is being written. Of samples that are equal from the first on, and from some
 * sample to the last, one is kept: see {@link AbcProperty.Stored}.
 */
public final class PropertyOut {
  private static final int CONSTANT = 0x800;
  private static final int ONE_COUNT = 0x400;
  private static final int RANGE = 0x200;
  private static final int SAMPLED = 0x100;
  private static final int SCALAR = 1;
  private static final int ARRAY = 2;
  private static final int ARRAYS_OF_ONE = 3;

  /** Size of numbers of 64 bits in a header. */
  private static final int WIDE = 3;

  private final AbcOut archive;
  private final byte[] name;
  private final AbcProperty.Type type;
  private final String metaData;
  private final int sampling;
  private final LongList kept = new LongList();
  private final HeadersOut digest = new HeadersOut();
  private int count;
  private int first;
  private int last;
  private OgawaOut.Written values = OgawaOut.Written.NOTHING;
  private long dimensions;
  private long rows = -1;
  private boolean oneCount = true;
  private boolean single = true;

  PropertyOut(AbcOut archive, String name, AbcProperty.Type type, String metaData, int sampling) {
    this.archive = archive;
    this.name = HeadersOut.utf8(name);
    this.type = type;
    this.metaData = metaData;
    this.sampling = sampling;
  }

  /** The next sample of whole numbers, cut to the type's size. */
  public void add(int... numbers) throws IOException {
    ByteBuffer bytes = archive.buffer((long) type.pod().bytes * numbers.length);
    for (int number : numbers) {
      switch (type.pod().bytes) {
        case 1 -> bytes.put((byte) number);
        case 2 -> bytes.putShort((short) number);
        case 4 -> bytes.putInt(number);
        default -> bytes.putLong(number);
      }
    }
    put(bytes, numbers.length);
  }

  /** The next sample of 64-bit whole numbers. */
  public void addLongs(long... numbers) throws IOException {
    ByteBuffer bytes = archive.buffer(8L * numbers.length);
    bytes.asLongBuffer().put(numbers);
    put(bytes.position(8 * numbers.length), numbers.length);
  }

  /** The next sample of 64-bit numbers. */
  public void add(double... numbers) throws IOException {
    ByteBuffer bytes = archive.buffer(8L * numbers.length);
    bytes.asDoubleBuffer().put(numbers);
    put(bytes.position(8 * numbers.length), numbers.length);
  }

  /** The next sample of 32-bit numbers. */
  public void add(float[] numbers) throws IOException {
    ByteBuffer bytes = archive.buffer(4L * numbers.length);
    bytes.asFloatBuffer().put(numbers);
    put(bytes.position(4 * numbers.length), numbers.length);
  }

  /** The next sample of 16-bit numbers. */
  public void addHalves(short[] numbers) throws IOException {
    ByteBuffer bytes = archive.buffer(2L * numbers.length);
    bytes.asShortBuffer().put(numbers);
    put(bytes.position(2 * numbers.length), numbers.length);
  }

  /** The next sample of texts; what follows a zero in one is cut off. */
  public void add(List<String> texts) throws IOException {
    HeadersOut all = new HeadersOut();
    for (String text : texts) {
      int end = text.indexOf('\0');
      all.put(HeadersOut.utf8(end < 0 ? text : text.substring(0, end)));
      all.small(0);
    }
    byte[] bytes = all.toArray();
    OgawaOut.Written ref = archive.out.sample(bytes, bytes.length);
    byte[] size = OgawaOut.numbers(Long.BYTES).putLong(texts.size()).array();
    boolean same = texts.size() == rows;
    keep(ref, !type.array() || same ? dimensions : archive.out.data(size), texts.size());
  }

  /** The last sample again, so many times. */
  public void repeat(int times) {
    count += times;
  }

  private void put(ByteBuffer bytes, int numbers) throws IOException {
    OgawaOut.Written ref = archive.out.sample(bytes.array(), bytes.position());
    keep(ref, OgawaOut.DATA, numbers / type.extent());
  }

  private void keep(OgawaOut.Written ref, long size, long newRows) {
    oneCount &= rows < 0 || rows == newRows;
    single &= newRows == 1;
    rows = newRows;
    boolean same = count > 0 && ref.equals(values) && size == dimensions;
    if (count == 0) {
      put(ref, size);
    } else if (!same) {
      if (first == 0) {
        first = count;
      } else {
        for (int s = last + 1; s < count; s++) {
          put(values, dimensions);
        }
      }
      last = count;
      put(ref, size);
    }
    values = ref;
    dimensions = size;
    count++;
  }

  private void put(OgawaOut.Written ref, long size) {
    kept.add(ref.place());
    digest.number(ref.key().low(), WIDE);
    digest.number(ref.key().high(), WIDE);
    if (type.array()) {
      kept.add(size);
    }
  }

  long close(HeadersOut digests) throws IOException {
    digests.put(digest.toArray());
    archive.sampled(sampling, count);
    return archive.out.group(kept);
  }

  void header(HeadersOut headers) {
    boolean constant = first == 0;
    boolean range = !constant && (first != 1 || last != count - 1);
    int meta = HeadersOut.utf8(metaData).length;
    int hint = HeadersOut.hint(Math.max(Math.max(count, name.length), Math.max(meta, sampling)));
    int index = archive.metaData(metaData);
    int kind = !type.array() ? SCALAR : single ? ARRAYS_OF_ONE : ARRAY;
    long info =
        kind
            | hint << 2
            | type.pod().ordinal() << 4
            | (sampling != 0 ? SAMPLED : 0)
            | (range ? RANGE : 0)
            | (oneCount ? ONE_COUNT : 0)
            | (constant ? CONSTANT : 0)
            | type.extent() << 12
            | (long) index << 20;
    headers.number(info, HeadersOut.WORD);
    headers.number(count, hint);
    if (range) {
      headers.number(first, hint);
      headers.number(last, hint);
    }
    if (sampling != 0) {
      headers.number(sampling, hint);
    }
    CompoundOut.tail(headers, name, metaData, index, hint);
  }
}
