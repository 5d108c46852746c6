package ferry.stone.core.format.abc.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.math.Half;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/** A property with its samples, each read when it is asked for. May be used by several threads. */
public final class AbcProperty {
  /** Bytes of the key before a value. */
  private static final int KEY = 16;

  private static final int LONGEST = Integer.MAX_VALUE - 16;
  private static final int BLOCK = 1 << 16;

  private final OgawaFile file;
  private final String name;
  private final Map<String, String> metaData;
  private final Type type;
  private final TimeSampling sampling;
  private final Stored stored;

  /**
   * What a sample is.
   *
   * @param array rows, each of {@code extent} values; otherwise one row
   */
  public record Type(boolean array, Pod pod, int extent) {}

  /**
   * Where samples are: those before the first that differs, and those from the last on, are kept
   * once.
   */
  record Stored(long count, long first, long last, OgawaFile.Group group) {
    /** Place among what is kept. */
    long place(long sample) {
      if (first == 0 && last == 0 || sample < first) {
        return 0;
      }
      return Math.min(sample, last) - first + 1;
    }

    long kept() {
      return count == 0 ? 0 : place(count - 1) + 1;
    }
  }

  /**
   * Where the values of a sample are.
   *
   * @param at place of the first
   * @param bytes of all together
   * @param rows how many; 1 for a property that is no array
   */
  public record Place(long at, long bytes, long rows) {}

  AbcProperty(
      OgawaFile file,
      String name,
      Map<String, String> metaData,
      Type type,
      TimeSampling sampling,
      Stored stored,
      long place)
      throws FormatException {
    this.file = file;
    this.name = name;
    this.metaData = metaData;
    this.type = type;
    this.sampling = sampling;
    this.stored = stored;
    boolean once = stored.first == 0 && stored.last == 0;
    boolean sane = once || stored.first >= 1 && stored.last >= stored.first - 1;
    long parts = type.array ? 2 : 1;
    if (stored.count > LONGEST || !sane || parts * stored.kept() > stored.group.count()) {
      throw file.error(
          Kind.CORRUPT,
          place,
          "the property \""
              + name
              + "\" claims "
              + stored.count
              + " samples, but "
              + stored.group.count() / parts
              + " are kept. Export the file again.");
    }
  }

  public String name() {
    return name;
  }

  public Map<String, String> metaData() {
    return metaData;
  }

  public Type type() {
    return type;
  }

  public TimeSampling sampling() {
    return sampling;
  }

  public int sampleCount() {
    return (int) stored.count;
  }

  /** Whether all samples are one. */
  public boolean isConstant() {
    return stored.kept() <= 1;
  }

  /** Whether all samples have as many rows, by what is kept of them. */
  public boolean hasOneCount() throws IOException, FormatException {
    long rows = place(0).rows;
    for (int sample = 1; sample < stored.count; sample++) {
      if (stored.place(sample) != stored.place(sample - 1) && place(sample).rows != rows) {
        return false;
      }
    }
    return true;
  }

  /** Seconds of a sample. */
  public double seconds(int sample) {
    return sampling.seconds(sample);
  }

  /** Where the values of a sample are; of the last one where there are fewer. */
  public Place place(int sample) throws IOException, FormatException {
    long kept = stored.place(Math.min(sample, stored.count - 1));
    OgawaFile.Data data = file.data(stored.group, type.array ? 2 * kept : kept);
    long bytes = Math.max(0, data.size() - KEY);
    long at = data.at() + KEY;
    if (!type.array) {
      check(data, bytes, type.pod.isText() ? bytes : (long) type.extent * type.pod.bytes);
      return new Place(at, bytes, 1);
    }
    OgawaFile.Data dimensions = file.data(stored.group, 2 * kept + 1);
    if (dimensions.size() == 0) {
      long row = (long) type.extent * type.pod.bytes;
      if (row == 0 && bytes > 0 || row > 0 && bytes % row != 0) {
        throw broken(data, bytes);
      }
      return new Place(at, bytes, row == 0 ? 0 : bytes / row);
    }
    long rows = 1;
    for (long i = 0; i < dimensions.size() / Long.BYTES; i++) {
      long part = file.read(dimensions.at() + Long.BYTES * i, Long.BYTES).getLong(0);
      // A row of text takes a byte at least.
      if (part < 0 || part > 0 && rows > bytes / part) {
        throw broken(data, bytes);
      }
      rows *= part;
    }
    if (!type.pod.isText()) {
      check(data, bytes, rows * type.extent * type.pod.bytes);
    }
    return new Place(at, bytes, rows);
  }

  private void check(OgawaFile.Data data, long bytes, long needed) throws FormatException {
    if (bytes < needed || bytes > LONGEST) {
      throw broken(data, bytes);
    }
  }

  private FormatException broken(OgawaFile.Data data, long bytes) {
    return file.error(
        Kind.CORRUPT,
        data.at(),
        "a sample of \""
            + name
            + "\" has "
            + bytes
            + " bytes, which does not fit its type and count. Export the file again.");
  }

  /** Number of values in a sample: rows by the extent. */
  private int length(Place place) {
    return Math.toIntExact(place.rows * type.extent);
  }

  private ByteBuffer bytes(Place place) throws IOException, FormatException {
    return file.read(place.at, (int) place.bytes);
  }

  /** Values of a sample of any type of number, rounded to 32 bits. */
  public float[] floats(int sample) throws IOException, FormatException {
    Place place = place(sample);
    float[] result = new float[length(place)];
    floats(place, 0, result.length, result);
    return result;
  }

  /**
   * Some values of a sample, rounded to 32 bits.
   *
   * @param from first value, counting each number of a row
   */
  public void floats(Place place, int from, int count, float[] into)
      throws IOException, FormatException {
    int size = number();
    byte[] block = new byte[(int) Math.min((long) count * size, BLOCK)];
    ByteBuffer numbers = ByteBuffer.wrap(block).order(ByteOrder.LITTLE_ENDIAN);
    int atOnce = block.length / Math.max(1, size);
    for (int done = 0; done < count; ) {
      int part = Math.min(count - done, atOnce);
      file.read(place.at + (long) size * (from + done), block, part * size);
      if (type.pod == Pod.FLOAT32) {
        numbers.asFloatBuffer().get(into, done, part);
      } else {
        for (int i = 0; i < part; i++) {
          into[done + i] = (float) real(numbers, i);
        }
      }
      done += part;
    }
  }

  /** Values of a sample of any type of number. */
  public double[] doubles(int sample) throws IOException, FormatException {
    number();
    Place place = place(sample);
    ByteBuffer numbers = bytes(place);
    double[] result = new double[length(place)];
    for (int i = 0; i < result.length; i++) {
      result[i] = real(numbers, i);
    }
    return result;
  }

  /** Values of a sample of whole numbers; of 64 bits the lower half. */
  public int[] ints(int sample) throws IOException, FormatException {
    number();
    Place place = place(sample);
    ByteBuffer numbers = bytes(place);
    int[] result = new int[length(place)];
    for (int i = 0; i < result.length; i++) {
      result[i] = (int) whole(numbers, i);
    }
    return result;
  }

  /** Texts of a sample. */
  public List<String> texts(int sample) throws IOException, FormatException {
    if (!type.pod.isText()) {
      throw file.error(
          Kind.CORRUPT, stored.group.at(), "\"" + name + "\" should be text. Export it again.");
    }
    Place place = place(sample);
    ByteBuffer bytes = bytes(place);
    List<String> texts = new ArrayList<>();
    int start = 0;
    int size = type.pod == Pod.STRING ? 1 : Integer.BYTES;
    for (int i = 0; i + size <= bytes.limit(); i += size) {
      if ((size == 1 ? bytes.get(i) : bytes.getInt(i)) == 0) {
        texts.add(text(bytes, start, i));
        start = i + size;
      }
    }
    if (start < bytes.limit() / size * size) {
      texts.add(text(bytes, start, bytes.limit() / size * size));
    }
    return List.copyOf(texts);
  }

  private String text(ByteBuffer bytes, int from, int to) {
    return type.pod == Pod.STRING
        ? new String(Arrays.copyOfRange(bytes.array(), from, to), StandardCharsets.UTF_8)
        : wide(bytes, from, to);
  }

  private static String wide(ByteBuffer bytes, int from, int to) {
    StringBuilder text = new StringBuilder();
    for (int i = from; i < to; i += Integer.BYTES) {
      int code = bytes.getInt(i);
      text.appendCodePoint(Character.isValidCodePoint(code) ? code : 0xfffd);
    }
    return text.toString();
  }

  /** Whether two samples are one and the same in the file. */
  public boolean same(int sample, int other) throws IOException, FormatException {
    return stored.place(Math.min(sample, stored.count - 1))
            == stored.place(Math.min(other, stored.count - 1))
        || place(sample).equals(place(other));
  }

  private int number() throws FormatException {
    if (type.pod.isText()) {
      throw file.error(Kind.CORRUPT, stored.group.at(), "\"" + name + "\" is text, not a number.");
    }
    return type.pod.bytes;
  }

  private double real(ByteBuffer numbers, int i) {
    return switch (type.pod) {
      case FLOAT16 -> Half.toFloat(numbers.getShort(2 * i));
      case FLOAT32 -> numbers.getFloat(4 * i);
      case FLOAT64 -> numbers.getDouble(8 * i);
      default -> whole(numbers, i);
    };
  }

  private long whole(ByteBuffer numbers, int i) {
    return switch (type.pod) {
      case BOOLEAN, UINT8 -> numbers.get(i) & 0xff;
      case INT8 -> numbers.get(i);
      case UINT16 -> numbers.getShort(2 * i) & 0xffff;
      case INT16 -> numbers.getShort(2 * i);
      case UINT32 -> numbers.getInt(4 * i) & 0xffff_ffffL;
      case INT32 -> numbers.getInt(4 * i);
      case UINT64, INT64 -> numbers.getLong(8 * i);
      default -> (long) real(numbers, i);
    };
  }
}
