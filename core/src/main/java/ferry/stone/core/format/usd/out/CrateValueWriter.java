package ferry.stone.core.format.usd.out;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.SeekableOutput;
import ferry.stone.core.format.usd.layer.CrateTypes;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdBlock;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.math.Half;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Values of a crate: what fits stands in the 64 bits for it, all else in the file before what names
 * it. Equal small values stand there once.
 */
final class CrateValueWriter {
  private static final long ARRAY = 1L << 63;
  private static final long INLINED = 1L << 62;
  private static final long PACKED = 1L << 61;
  private static final int FEWEST_PACKED = 16;

  /** Larger values are compared with the one before alone. */
  private static final int LARGEST_SHARED = 1 << 12;

  /** Files take these without a copy; larger arrays are rare. */
  private static final int LARGEST_KEPT = 1 << 24;

  private final ByteBuffer[] kept = new ByteBuffer[2];
  private final SeekableOutput out;
  private final CrateTables tables;
  private final Map<ByteBuffer, Long> known = new HashMap<>();
  private ByteBuffer before = ByteBuffer.allocate(0);
  private long placeBefore;
  private int version = CrateWriter.VERSION;

  CrateValueWriter(SeekableOutput out, CrateTables tables) {
    this.out = out;
    this.tables = tables;
  }

  /** The least version of crates that has all types of the values so far. */
  int version() {
    return version;
  }

  static byte[] bytes(long value) {
    return ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN).putLong(value).array();
  }

  private static ByteBuffer buffer(long size) {
    return ByteBuffer.allocate(Math.toIntExact(size)).order(ByteOrder.LITTLE_ENDIAN);
  }

  /** A buffer for an array: a large one is one of two that are kept, not the one written last. */
  private ByteBuffer array(long size) {
    if (size <= LARGEST_SHARED || size > LARGEST_KEPT) {
      return buffer(size);
    }
    int which = before == kept[0] ? 1 : 0;
    if (kept[which] == null || kept[which].capacity() < size) {
      kept[which] = ByteBuffer.allocateDirect((int) size).order(ByteOrder.LITTLE_ENDIAN);
    }
    return kept[which].clear().limit((int) size);
  }

  private static long rep(int type, long payload) {
    return (long) type << 48 | payload;
  }

  /** A number of few values, which stands in the 64 bits. */
  static long word(int type, int value) {
    return rep(type, value) | INLINED;
  }

  long token(String text) {
    return rep(CrateTypes.TOKEN, tables.token(text)) | INLINED;
  }

  /** Bytes in the file, those of equal small values once. */
  private long stored(ByteBuffer bytes) throws IOException {
    bytes.flip();
    boolean small = bytes.remaining() <= LARGEST_SHARED;
    Long there = small ? known.get(bytes) : null;
    if (there != null) {
      return there;
    }
    if (!small && bytes.equals(before)) {
      return placeBefore;
    }
    int over = (int) (out.position() % 8);
    out.write(new byte[over == 0 ? 0 : 8 - over]);
    long at = out.position();
    if (bytes.isDirect()) {
      out.write(bytes.duplicate());
    } else {
      out.write(bytes.array(), 0, bytes.limit());
    }
    if (small) {
      known.put(bytes, at);
    } else {
      before = bytes;
      placeBefore = at;
    }
    return at;
  }

  /** Numbers and texts, a dictionary, or nothing on purpose. */
  long any(Object value) throws IOException, FormatException {
    if (value instanceof UsdValue own) {
      return value(own);
    }
    if (value instanceof Map<?, ?> map) {
      ByteBuffer bytes = dictionary(map);
      return rep(CrateTypes.DICTIONARY, stored(bytes));
    }
    int block = value == UsdBlock.ANIMATION ? CrateTypes.ANIMATION_BLOCK : CrateTypes.BLOCK;
    return rep(block, 0) | INLINED;
  }

  private long value(UsdValue value) throws IOException {
    UsdType type = value.type();
    int number = CrateTypes.number(type);
    version = Math.max(version, CrateTypes.since(type));
    if (value.array()) {
      return array(value, number);
    }
    switch (type.kind()) {
      case BOOL:
        return word(number, value.number(0) != 0 ? 1 : 0);
      case STRING:
        return word(number, tables.string(value.text()));
      case TOKEN, ASSET:
        return word(number, tables.token(value.text()));
      default:
        break;
    }
    if (type.components() == 1) {
      switch (type.kind()) {
        case UCHAR, INT:
          return rep(number, value.ints()[0] & 0xffff_ffffL) | INLINED;
        case UINT:
          return rep(number, ((long[]) value.data())[0] & 0xffff_ffffL) | INLINED;
        case HALF:
          return rep(number, Half.of(value.floats()[0]) & 0xffff) | INLINED;
        case FLOAT:
          return rep(number, Float.floatToRawIntBits(value.floats()[0]) & 0xffff_ffffL) | INLINED;
        case DOUBLE:
          double d = value.doubles()[0];
          if ((float) d == d) {
            return rep(number, Float.floatToRawIntBits((float) d) & 0xffff_ffffL) | INLINED;
          }
          break;
        default:
          break;
      }
    }
    ByteBuffer bytes = buffer((long) sizeOf(type) * type.components());
    numbers(value, bytes);
    // What has room in the 64 bits has to stand there.
    boolean fits = bytes.position() <= 4 && !type.kind().isText();
    return fits
        ? rep(number, bytes.getInt(0) & 0xffff_ffffL) | INLINED
        : rep(number, stored(bytes));
  }

  private static int sizeOf(UsdType type) {
    return switch (type.kind()) {
      case BOOL, UCHAR -> 1;
      case HALF -> 2;
      case INT64, UINT64, DOUBLE, TIMECODE -> 8;
      default -> 4;
    };
  }

  private long array(UsdValue value, int number) throws IOException {
    UsdType type = value.type();
    int length = value.length();
    if (length == 0) {
      return rep(number, 0) | ARRAY;
    }
    int count = length / type.components();
    boolean packs =
        type.components() == 1 && type.kind() == UsdType.Kind.INT && count >= FEWEST_PACKED;
    if (packs) {
      ByteBuffer bytes = CratePacking.ints(value.ints(), 16);
      bytes.putLong(0, count).putLong(8, bytes.position() - 16);
      return rep(number, stored(bytes)) | ARRAY | PACKED;
    }
    ByteBuffer bytes = array(8L + (long) sizeOf(type) * length);
    bytes.putLong(count);
    numbers(value, bytes);
    return rep(number, stored(bytes)) | ARRAY;
  }

  private void numbers(UsdValue value, ByteBuffer bytes) {
    int length = value.length();
    switch (value.type().kind()) {
      case BOOL, UCHAR -> {
        for (int i = 0; i < length; i++) {
          bytes.put((byte) value.number(i));
        }
      }
      case INT -> {
        bytes.asIntBuffer().put((int[]) value.data());
        bytes.position(bytes.position() + 4 * length);
      }
      case UINT -> {
        for (long each : (long[]) value.data()) {
          bytes.putInt((int) each);
        }
      }
      case INT64, UINT64 -> {
        for (long each : (long[]) value.data()) {
          bytes.putLong(each);
        }
      }
      case HALF -> {
        float[] all = realLast(value);
        for (float each : all) {
          bytes.putShort(Half.of(each));
        }
      }
      case FLOAT -> {
        bytes.asFloatBuffer().put(realLast(value));
        bytes.position(bytes.position() + 4 * length);
      }
      case DOUBLE, TIMECODE -> {
        double[] all = value.doubles();
        int width = value.type().components();
        boolean turned = value.type().isQuaternion();
        for (int i = 0; i < length; i++) {
          bytes.putDouble(all[turned ? i / width * width + (i + 1) % width : i]);
        }
      }
      // A single asset is a token, those of an array are strings.
      case STRING, PATH_EXPRESSION, ASSET -> {
        for (String text : value.texts()) {
          bytes.putInt(tables.string(text));
        }
      }
      default -> {
        for (String text : value.texts()) {
          bytes.putInt(tables.token(text));
        }
      }
    }
  }

  /** Crates have the real part of a quaternion last. */
  private static float[] realLast(UsdValue value) {
    float[] all = value.floats();
    if (!value.type().isQuaternion()) {
      return all;
    }
    float[] turned = new float[all.length];
    for (int i = 0; i < all.length; i++) {
      turned[i] = all[i / 4 * 4 + (i + 1) % 4];
    }
    return turned;
  }

  /** Count, then each name with the way to the 64 bits of its value, which follow at once. */
  private ByteBuffer dictionary(Map<?, ?> map) throws IOException, FormatException {
    ByteBuffer bytes = buffer(8 + 20L * map.size());
    bytes.putLong(map.size());
    for (Map.Entry<?, ?> entry : map.entrySet()) {
      long rep = any(entry.getValue());
      bytes.putInt(tables.string(String.valueOf(entry.getKey()))).putLong(8).putLong(rep);
    }
    return bytes;
  }

  long tokens(List<String> all) throws IOException {
    ByteBuffer bytes = buffer(8 + 4L * all.size());
    bytes.putLong(all.size());
    all.forEach(text -> bytes.putInt(tables.token(text)));
    return rep(CrateTypes.TOKEN_VECTOR, stored(bytes));
  }

  long texts(List<String> all) throws IOException {
    ByteBuffer bytes = buffer(8 + 4L * all.size());
    bytes.putLong(all.size());
    all.forEach(text -> bytes.putInt(tables.string(text)));
    return rep(CrateTypes.STRING_VECTOR, stored(bytes));
  }

  long offsets(List<UsdArc> arcs) throws IOException {
    ByteBuffer bytes = buffer(8 + 16L * arcs.size());
    bytes.putLong(arcs.size());
    arcs.forEach(arc -> bytes.putDouble(arc.offset()).putDouble(arc.scale()));
    return rep(CrateTypes.OFFSET_VECTOR, stored(bytes));
  }

  long selections(Map<?, ?> map) throws IOException {
    ByteBuffer bytes = buffer(8 + 8L * map.size());
    bytes.putLong(map.size());
    map.forEach(
        (set, chosen) -> {
          String name = chosen instanceof UsdValue value ? value.text() : String.valueOf(chosen);
          bytes.putInt(tables.string(String.valueOf(set))).putInt(tables.string(name));
        });
    return rep(CrateTypes.VARIANT_SELECTION, stored(bytes));
  }

  long relocates(Map<?, ?> map) throws IOException {
    ByteBuffer bytes = buffer(8 + 8L * map.size());
    bytes.putLong(map.size());
    map.forEach(
        (from, to) ->
            bytes
                .putInt(tables.path(String.valueOf(from)))
                .putInt(tables.path(String.valueOf(to))));
    return rep(CrateTypes.RELOCATES, stored(bytes));
  }

  /** A byte that says which lists follow, then these: explicit, added, prepended, … */
  long list(int type, ListOp<?> edit) throws IOException, FormatException {
    List<List<?>> lists =
        List.of(
            edit.explicit() == null ? List.of() : edit.explicit(),
            edit.added(),
            edit.prepended(),
            edit.appended(),
            edit.deleted(),
            edit.reordered());
    int[] flags = {2, 4, 32, 64, 8, 16};
    int head = edit.explicit() == null ? 0 : 1;
    ByteBuffer[] parts = new ByteBuffer[lists.size()];
    long size = 1;
    for (int i = 0; i < parts.length; i++) {
      if (!lists.get(i).isEmpty()) {
        head |= flags[i];
        parts[i] = items(type, lists.get(i));
        size += parts[i].position();
      }
    }
    ByteBuffer bytes = buffer(size);
    bytes.put((byte) head);
    for (ByteBuffer part : parts) {
      if (part != null) {
        bytes.put(part.array(), 0, part.position());
      }
    }
    return rep(type, stored(bytes));
  }

  private ByteBuffer items(int type, List<?> items) throws IOException, FormatException {
    List<ByteBuffer> all = new ArrayList<>();
    long size = 8;
    for (Object item : items) {
      all.add(item(type, item));
      size += all.get(all.size() - 1).position();
    }
    ByteBuffer bytes = buffer(size);
    bytes.putLong(items.size());
    all.forEach(one -> bytes.put(one.array(), 0, one.position()));
    return bytes;
  }

  private ByteBuffer item(int type, Object item) throws IOException, FormatException {
    if (item instanceof UsdArc arc) {
      boolean reference = type == CrateTypes.REFERENCE_LIST;
      ByteBuffer custom = reference ? dictionary(arc.custom()) : buffer(0);
      ByteBuffer bytes = buffer(24L + custom.position());
      bytes.putInt(tables.string(arc.asset())).putInt(tables.path(arc.prim()));
      bytes.putDouble(arc.offset()).putDouble(arc.scale());
      return bytes.put(custom.array(), 0, custom.position());
    }
    ByteBuffer bytes = buffer(8);
    if (item instanceof Number number) {
      return type == CrateTypes.INT64_LIST || type == CrateTypes.UINT64_LIST
          ? bytes.putLong(number.longValue())
          : bytes.putInt(number.intValue());
    }
    String text = String.valueOf(item);
    int index =
        switch (type) {
          case CrateTypes.PATH_LIST -> tables.path(text);
          case CrateTypes.STRING_LIST -> tables.string(text);
          default -> tables.token(text);
        };
    return bytes.putInt(index);
  }

  /** Times, then the 64 bits of each value; what these name stands before. */
  long samples(UsdSamples samples) throws IOException, FormatException {
    double[] codes = samples.codes();
    long[] reps = new long[codes.length];
    for (int s = 0; s < codes.length; s++) {
      reps[s] = any(samples.value(s));
    }
    ByteBuffer times = buffer(8 + 8L * codes.length);
    times.putLong(codes.length);
    Arrays.stream(codes).forEach(times::putDouble);
    long timesRep = rep(CrateTypes.DOUBLE_VECTOR, stored(times));
    ByteBuffer bytes = buffer(32 + 8L * codes.length);
    bytes.putLong(8).putLong(timesRep).putLong(8).putLong(codes.length);
    Arrays.stream(reps).forEach(bytes::putLong);
    return rep(CrateTypes.TIME_SAMPLES, stored(bytes));
  }
}
