package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.BinaryCursor;
import ferry.stone.core.format.usd.layer.spline.SplineBytes;
import ferry.stone.core.format.usd.layer.spline.UsdSpline;
import ferry.stone.core.math.Half;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Values of a crate, from the 64 bits that stand for each: its type, whether it is an array, packed
 * or held in those bits themselves, and else its place in the file.
 */
final class CrateValues {
  private static final long ARRAY = 1L << 63;
  private static final long INLINED = 1L << 62;
  private static final long PACKED = 1L << 61;

  /** An edit of an array: two arrays, of what it puts in and of what it does. */
  private static final long EDIT = 1L << 60;

  /** How often an operation of an edit is done; above it stands which. */
  private static final long COUNT = (1L << 56) - 1;

  private static final long PAYLOAD = (1L << 48) - 1;

  /** Shorter arrays are never packed. */
  private static final int FEWEST_PACKED = 16;

  private static final int DEEPEST = 64;

  private final CrateFile file;
  private final CrateArrays arrays;

  CrateValues(CrateFile file) {
    this.file = file;
    arrays = new CrateArrays(file);
  }

  static int type(long rep) {
    return (int) (rep >>> 48 & 0xff);
  }

  private static boolean is(long rep, long flag) {
    return (rep & flag) != 0;
  }

  /** A value of a field or a sample. */
  Object value(long rep) throws IOException, FormatException {
    return value(rep, 0);
  }

  private Object value(long rep, int depth) throws IOException, FormatException {
    if (depth > DEEPEST) {
      throw file.corrupt(rep & PAYLOAD, "values are nested too deep.");
    }
    int type = type(rep);
    UsdType plain = CrateTypes.plain(type);
    if (plain != null && is(rep, EDIT)) {
      return edit(plain, rep);
    }
    if (plain != null) {
      return is(rep, ARRAY)
          ? array(plain, rep)
          : is(rep, INLINED) ? inlined(plain, rep) : single(plain, rep);
    }
    long payload = rep & PAYLOAD;
    if (is(rep, INLINED)) {
      return switch (type) {
        case CrateTypes.BLOCK -> UsdBlock.VALUE;
        case CrateTypes.ANIMATION_BLOCK -> UsdBlock.ANIMATION;
        case CrateTypes.SPECIFIER, CrateTypes.VARIABILITY, CrateTypes.PERMISSION -> (int) payload;
        case CrateTypes.DICTIONARY -> Map.of();
        default -> throw unknown(type, payload);
      };
    }
    BinaryCursor in = file.near();
    file.seek(in, payload, "a value");
    return switch (type) {
      case CrateTypes.DICTIONARY -> dictionary(in, depth);
      case CrateTypes.TOKEN_LIST -> list(in, () -> file.token(in.readUnsignedInt(), payload), 4);
      case CrateTypes.STRING_LIST -> list(in, () -> file.string(in.readUnsignedInt(), payload), 4);
      case CrateTypes.PATH_LIST -> list(in, () -> file.path(in.readUnsignedInt(), payload), 4);
      case CrateTypes.INT_LIST -> list(in, () -> (long) in.readInt(), 4);
      case CrateTypes.UINT_LIST -> list(in, in::readUnsignedInt, 4);
      case CrateTypes.INT64_LIST, CrateTypes.UINT64_LIST -> list(in, in::readLong, 8);
      case CrateTypes.REFERENCE_LIST -> list(in, () -> reference(in, depth), 24);
      case CrateTypes.PAYLOAD_LIST -> list(in, () -> payload(in), 8);
      case CrateTypes.PAYLOAD -> ListOp.explicit(List.of(payload(in)));
      case CrateTypes.PATH_VECTOR -> vector(in, () -> file.path(in.readUnsignedInt(), payload), 4);
      case CrateTypes.TOKEN_VECTOR ->
          vector(in, () -> file.token(in.readUnsignedInt(), payload), 4);
      case CrateTypes.STRING_VECTOR ->
          vector(in, () -> file.string(in.readUnsignedInt(), payload), 4);
      case CrateTypes.DOUBLE_VECTOR -> doubles(in);
      case CrateTypes.OFFSET_VECTOR ->
          vector(in, () -> new double[] {in.readDouble(), in.readDouble()}, 16);
      case CrateTypes.VARIANT_SELECTION -> selections(in, payload);
      case CrateTypes.RELOCATES -> relocates(in, payload);
      case CrateTypes.VALUE, CrateTypes.UNREGISTERED -> value(nested(in), depth + 1);
      case CrateTypes.TIME_SAMPLES -> samples(in, depth);
      case CrateTypes.SPLINE -> spline(in);
      default -> throw unknown(type, payload);
    };
  }

  private FormatException unknown(int type, long place) {
    return file.corrupt(place, "a value is of type " + type + ", which is not known.");
  }

  /** What reads one item of a list. */
  private interface Item<T> {
    T read() throws IOException, FormatException;
  }

  private <T> List<T> vector(BinaryCursor in, Item<T> item, int least)
      throws IOException, FormatException {
    long at = in.position();
    long count = in.readLong();
    if (count < 0 || count > in.remaining() / least) {
      throw file.corrupt(at, "a list claims " + count + " items.");
    }
    file.claim(16 * count, at, "a list");
    List<T> items = new ArrayList<>((int) count);
    for (long i = 0; i < count; i++) {
      items.add(item.read());
    }
    return items;
  }

  private <T> ListOp<T> list(BinaryCursor in, Item<T> item, int least)
      throws IOException, FormatException {
    int head = in.readByte();
    List<T> explicit = (head & 2) != 0 ? vector(in, item, least) : List.of();
    List<T> added = (head & 4) != 0 ? vector(in, item, least) : List.of();
    List<T> prepended = (head & 32) != 0 ? vector(in, item, least) : List.of();
    List<T> appended = (head & 64) != 0 ? vector(in, item, least) : List.of();
    List<T> deleted = (head & 8) != 0 ? vector(in, item, least) : List.of();
    List<T> ordered = (head & 16) != 0 ? vector(in, item, least) : List.of();
    return new ListOp<>(
        (head & 1) != 0 ? explicit : null, added, prepended, appended, deleted, ordered);
  }

  private UsdArc reference(BinaryCursor in, int depth) throws IOException, FormatException {
    long at = in.position();
    String asset = file.string(in.readUnsignedInt(), at);
    String prim = primPath(in.readUnsignedInt(), at);
    double offset = in.readDouble();
    double scale = in.readDouble();
    return new UsdArc(asset, prim, offset, scale, dictionary(in, depth + 1));
  }

  private UsdArc payload(BinaryCursor in) throws IOException, FormatException {
    long at = in.position();
    String asset = file.string(in.readUnsignedInt(), at);
    String prim = primPath(in.readUnsignedInt(), at);
    boolean offset = file.isFrom(0, 8);
    return new UsdArc(
        asset, prim, offset ? in.readDouble() : 0, offset ? in.readDouble() : 1, Map.of());
  }

  /** The empty path has a place of its own, and no text. */
  private String primPath(long index, long at) throws FormatException {
    boolean none = index >= 0 && index < file.paths.length && file.paths[(int) index] == null;
    return none ? "" : file.path(index, at);
  }

  private Map<String, Object> dictionary(BinaryCursor in, int depth)
      throws IOException, FormatException {
    long at = in.position();
    long count = in.readLong();
    if (count < 0 || count > in.remaining() / 12 || depth > DEEPEST) {
      throw file.corrupt(at, "a dictionary claims " + count + " entries.");
    }
    Map<String, Object> entries = new LinkedHashMap<>();
    for (long i = 0; i < count; i++) {
      String key = file.string(in.readUnsignedInt(), at);
      long rep = nested(in);
      long next = in.position();
      entries.put(key, value(rep, depth + 1));
      in.position(next);
    }
    return entries;
  }

  /** A value that stands as far on as the next number says; the cursor goes on behind it. */
  private long nested(BinaryCursor in) throws IOException, FormatException {
    long at = in.position();
    file.seek(in, at + in.readLong(), "a value");
    return in.readLong();
  }

  private Map<String, Object> selections(BinaryCursor in, long place)
      throws IOException, FormatException {
    Map<String, Object> all = new LinkedHashMap<>();
    List<String[]> pairs =
        vector(
            in,
            () ->
                new String[] {
                  file.string(in.readUnsignedInt(), place), file.string(in.readUnsignedInt(), place)
                },
            8);
    pairs.forEach(p -> all.put(p[0], UsdValue.text(UsdType.Kind.STRING, p[1])));
    return all;
  }

  private Map<String, Object> relocates(BinaryCursor in, long place)
      throws IOException, FormatException {
    Map<String, Object> all = new LinkedHashMap<>();
    List<String[]> pairs =
        vector(
            in,
            () ->
                new String[] {
                  file.path(in.readUnsignedInt(), place), primPath(in.readUnsignedInt(), place)
                },
            8);
    pairs.forEach(p -> all.put(p[0], p[1]));
    return all;
  }

  private double[] doubles(BinaryCursor in) throws IOException, FormatException {
    long at = in.position();
    long count = in.readLong();
    if (count < 0 || count > in.remaining() / 8) {
      throw file.corrupt(at, "a list claims " + count + " numbers.");
    }
    file.claim(8 * count, at, "a list of numbers");
    double[] all = new double[(int) count];
    in.block(8 * count, "numbers").asDoubleBuffer().get(all);
    return all;
  }

  private Object spline(BinaryCursor in) throws IOException, FormatException {
    long at = in.position();
    long count = in.readLong();
    if (count < 0 || count > in.remaining()) {
      throw file.corrupt(at, "a curve claims " + count + " bytes.");
    }
    file.claim(8 * count, at, "a curve");
    UsdSpline spline = SplineBytes.read(in.bytes(count, "a curve"));
    if (spline == null) {
      throw file.corrupt(at, "a curve is cut off, or of a kind that is not known.");
    }
    return spline;
  }

  private ArrayEdit edit(UsdType type, long rep) throws IOException, FormatException {
    long at = rep & PAYLOAD;
    BinaryCursor in = file.near();
    file.seek(in, at, "an edit of an array");
    long literals = in.readLong();
    long said = in.readLong();
    boolean known =
        CrateTypes.plain(type(literals)) == type
            && is(literals, ARRAY)
            && UsdType.known("int64").equals(CrateTypes.plain(type(said)))
            && is(said, ARRAY);
    if (!known || is(literals | said, EDIT)) {
      throw file.corrupt(at, "an edit of an array has other parts than values and operations.");
    }
    UsdValue values = array(type, literals);
    long[] all = (long[]) array(UsdType.known("int64"), said).data();
    List<ArrayEdit.Operation> operations = new ArrayList<>();
    int next = 0;
    while (next < all.length) {
      int kind = (int) (all[next] >>> 56);
      long count = all[next++] & COUNT;
      if (kind >= ArrayEdit.Kind.values().length) {
        throw file.corrupt(at, "an edit of an array does what is not known.");
      }
      ArrayEdit.Kind own = ArrayEdit.Kind.values()[kind];
      int width = own.arguments();
      if (count > (all.length - next) / width) {
        throw file.corrupt(at, "an edit of an array claims " + count + " operations.");
      }
      for (long i = 0; i < count; i++) {
        operations.add(new ArrayEdit.Operation(own, all[next], width > 1 ? all[next + 1] : 0));
        next += width;
      }
    }
    return new ArrayEdit(type, values, operations);
  }

  /** Codes are read at once, values when they are asked for. */
  private UsdSamples samples(BinaryCursor in, int depth) throws IOException, FormatException {
    long codesRep = nested(in);
    long behind = in.position();
    Object codes = value(codesRep, depth + 1);
    in.position(behind);
    long at = in.position();
    file.seek(in, at + in.readLong(), "the values of samples");
    long count = in.readLong();
    double[] times =
        codes instanceof double[] d ? d : codes instanceof UsdValue v ? v.doubles() : new double[0];
    if (count != times.length || count > in.remaining() / 8) {
      throw file.corrupt(at, "samples have " + times.length + " times and " + count + " values.");
    }
    file.claim(8 * count, at, "the values of samples");
    long[] reps = new long[times.length];
    in.block(8 * count, "the values of samples").asLongBuffer().get(reps);
    return new Samples(times, reps);
  }

  private final class Samples implements UsdSamples {
    private final double[] codes;
    private final long[] reps;

    Samples(double[] codes, long[] reps) {
      this.codes = codes;
      this.reps = reps;
    }

    @Override
    public double[] codes() {
      return codes;
    }

    @Override
    public Object value(int sample) throws IOException, FormatException {
      return new CrateValues(file.later()).value(reps[sample]);
    }

    @Override
    public int length(int sample) throws IOException, FormatException {
      UsdType type = plainArray(reps[sample]);
      return type == null ? UsdSamples.super.length(sample) : head(type, reps[sample], file.near());
    }

    @Override
    public void floats(int sample, int from, int count, float[] target)
        throws IOException, FormatException {
      UsdType type = plainArray(reps[sample]);
      if (type == null || type.kind() != UsdType.Kind.FLOAT || type.isQuaternion()) {
        UsdSamples.super.floats(sample, from, count, target);
        return;
      }
      BinaryCursor in = file.near();
      int length = head(type, reps[sample], in);
      if (from + count > length) {
        throw file.corrupt(
            reps[sample] & PAYLOAD, "a sample has " + length + " numbers, others have more.");
      }
      in.position(in.position() + 4L * from);
      in.floats(target, count);
    }
  }

  /** A value that its 48 bits hold. */
  private UsdValue inlined(UsdType type, long rep) throws FormatException {
    long payload = rep & PAYLOAD;
    int bits = (int) payload;
    int n = type.components();
    Object data =
        switch (type.kind()) {
          case BOOL -> new boolean[] {bits != 0};
          case UCHAR -> new int[] {bits & 0xff};
          case INT -> n == 1 ? new int[] {bits} : small(type, bits);
          case UINT -> new long[] {bits & 0xffff_ffffL};
          case INT64 -> new long[] {bits};
          case UINT64 -> new long[] {bits & 0xffff_ffffL};
          case HALF ->
              n == 1
                  ? new float[] {Half.toFloat((short) bits)}
                  : n == 2 ? halves(bits) : small(type, bits);
          case FLOAT -> n == 1 ? new float[] {Float.intBitsToFloat(bits)} : small(type, bits);
          case DOUBLE ->
              n == 1
                  ? new double[] {Float.intBitsToFloat(bits)}
                  : type.name().startsWith("matrix") ? diagonal(bits, n) : small(type, bits);
          case TIMECODE -> new double[] {Float.intBitsToFloat(bits)};
          case STRING, PATH_EXPRESSION -> new String[] {file.string(bits & 0xffff_ffffL, payload)};
          case TOKEN, ASSET -> new String[] {file.token(bits & 0xffff_ffffL, payload)};
          case OPAQUE -> null;
        };
    return new UsdValue(type, false, data);
  }

  /** Two of them have room as they are. */
  private static float[] halves(int bits) {
    return new float[] {Half.toFloat((short) bits), Half.toFloat((short) (bits >> 16))};
  }

  /** Whole numbers of a byte each, whatever they stand for. */
  private static Object small(UsdType type, int bits) {
    GrowingData all = new GrowingData(type.kind());
    for (int i = 0; i < type.components(); i++) {
      all.add((double) (byte) (bits >> 8 * i));
    }
    return all.data();
  }

  private static double[] diagonal(int bits, int n) {
    double[] all = new double[n];
    int rows = (int) Math.round(Math.sqrt(n));
    for (int i = 0; i < rows; i++) {
      all[i * rows + i] = (byte) (bits >> 8 * i);
    }
    return all;
  }

  private UsdValue single(UsdType type, long rep) throws IOException, FormatException {
    BinaryCursor in = file.near();
    file.seek(in, rep & PAYLOAD, "a value");
    return new UsdValue(type, false, arrays.numbers(in, type, type.components()));
  }

  private UsdValue array(UsdType type, long rep) throws IOException, FormatException {
    long at = rep & PAYLOAD;
    if (at == 0) {
      return new UsdValue(type, true, new GrowingData(type.kind()).data());
    }
    BinaryCursor in = file.near();
    int length = head(type, rep, in);
    file.claim((long) length * type.kind().bytes(), at, "an array of " + type.name());
    int count = length / Math.max(1, type.components());
    boolean packed = is(rep, PACKED) && count >= FEWEST_PACKED;
    Object data = packed ? arrays.packed(in, type, count) : arrays.numbers(in, type, length);
    return new UsdValue(type, true, data);
  }

  /** How many numbers an array has; the cursor stands behind that then. */
  private int head(UsdType type, long rep, BinaryCursor in) throws IOException, FormatException {
    long at = rep & PAYLOAD;
    if (at == 0) {
      return 0;
    }
    file.seek(in, at, "an array");
    if (!file.isFrom(0, 5)) {
      in.readInt();
    }
    long count = file.isFrom(0, 7) ? in.readLong() : in.readUnsignedInt();
    long length = count * type.components();
    boolean packed = is(rep, PACKED) && count >= FEWEST_PACKED;
    // Nothing is packed to less than a hundredth and a half: LZ4 and two bits for a number.
    long most = packed ? 2048L * in.remaining() : in.remaining() / CrateArrays.sizeOf(type);
    if (count < 0 || length > Integer.MAX_VALUE - 16 || length > most || length < 0) {
      throw file.corrupt(at, "an array claims " + count + " values.");
    }
    return (int) length;
  }

  /** The type of an array that stands in the file as it is, {@code null} for other values. */
  private static UsdType plainArray(long rep) {
    return is(rep, ARRAY) && !is(rep, PACKED | EDIT) ? CrateTypes.plain(type(rep)) : null;
  }
}
