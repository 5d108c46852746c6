package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.BinaryCursor;
import ferry.stone.core.math.Half;
import java.io.IOException;
import java.nio.ByteBuffer;

/** Arrays of a crate, as they stand and packed: as whole numbers, or as places in a short table. */
final class CrateArrays {
  private final CrateFile file;

  CrateArrays(CrateFile file) {
    this.file = file;
  }

  /** Bytes of a number in the file. */
  static int sizeOf(UsdType type) {
    return switch (type.kind()) {
      case BOOL, UCHAR -> 1;
      case HALF -> 2;
      case INT64, UINT64, DOUBLE, TIMECODE -> 8;
      default -> 4;
    };
  }

  /** Numbers or texts as they stand. */
  Object numbers(BinaryCursor in, UsdType type, int length) throws IOException, FormatException {
    if (type.kind() == UsdType.Kind.FLOAT) {
      float[] all = new float[length];
      in.floats(all, length);
      return type.isQuaternion() ? realFirst(all) : all;
    }
    long at = in.position();
    ByteBuffer bytes = in.block((long) length * sizeOf(type), "an array");
    Object data =
        switch (type.kind()) {
          case BOOL -> truths(bytes, length);
          case UCHAR, INT -> ints(bytes, length, type.kind());
          case UINT, INT64, UINT64 -> longs(bytes, length, type.kind());
          case HALF -> halves(bytes, length);
          case DOUBLE, TIMECODE -> {
            double[] all = new double[length];
            bytes.asDoubleBuffer().get(all);
            yield all;
          }
          default -> texts(bytes, length, type.kind(), at);
        };
    return type.isQuaternion() ? realFirst(data) : data;
  }

  private static boolean[] truths(ByteBuffer bytes, int length) {
    boolean[] all = new boolean[length];
    for (int i = 0; i < length; i++) {
      all[i] = bytes.get(i) != 0;
    }
    return all;
  }

  private static int[] ints(ByteBuffer bytes, int length, UsdType.Kind kind) {
    int[] all = new int[length];
    if (kind == UsdType.Kind.INT) {
      bytes.asIntBuffer().get(all);
      return all;
    }
    for (int i = 0; i < length; i++) {
      all[i] = bytes.get(i) & 0xff;
    }
    return all;
  }

  private static long[] longs(ByteBuffer bytes, int length, UsdType.Kind kind) {
    long[] all = new long[length];
    if (kind != UsdType.Kind.UINT) {
      bytes.asLongBuffer().get(all);
      return all;
    }
    for (int i = 0; i < length; i++) {
      all[i] = bytes.getInt(4 * i) & 0xffff_ffffL;
    }
    return all;
  }

  private static float[] halves(ByteBuffer bytes, int length) {
    float[] all = new float[length];
    for (int i = 0; i < length; i++) {
      all[i] = Half.toFloat(bytes.getShort(2 * i));
    }
    return all;
  }

  private String[] texts(ByteBuffer bytes, int length, UsdType.Kind kind, long at)
      throws FormatException {
    String[] all = new String[length];
    for (int i = 0; i < length; i++) {
      long index = bytes.getInt(4 * i) & 0xffff_ffffL;
      all[i] = kind == UsdType.Kind.TOKEN ? file.token(index, at) : file.string(index, at);
    }
    return all;
  }

  /** Files have the real part last; values here have it first, as text has. */
  private static Object realFirst(Object data) {
    if (data instanceof float[] f) {
      for (int i = 0; i + 3 < f.length; i += 4) {
        float real = f[i + 3];
        System.arraycopy(f, i, f, i + 1, 3);
        f[i] = real;
      }
    } else if (data instanceof double[] d) {
      for (int i = 0; i + 3 < d.length; i += 4) {
        double real = d[i + 3];
        System.arraycopy(d, i, d, i + 1, 3);
        d[i] = real;
      }
    }
    return data;
  }

  /** Numbers that are packed. */
  Object packed(BinaryCursor in, UsdType type, int count) throws IOException, FormatException {
    long at = in.position();
    switch (type.kind()) {
      case INT -> {
        return file.packedInts(in, count);
      }
      case UINT -> {
        int[] ints = file.packedInts(in, count);
        long[] all = new long[count];
        for (int i = 0; i < count; i++) {
          all[i] = ints[i] & 0xffff_ffffL;
        }
        return all;
      }
      case INT64, UINT64 -> {
        byte[] bytes = in.bytes(in.readLong(), "an array");
        long most = CrateInts.coded(count, 8);
        file.claim(most, at, "a packed array");
        ByteBuffer coded = CrateInts.unpack(file, bytes, most, at);
        return CrateInts.longs(file, coded, count, at);
      }
      case HALF, FLOAT, DOUBLE -> {
        return packedReals(in, type, count);
      }
      default ->
          throw file.corrupt(at, "an array of " + type.name() + " is packed, which none can be.");
    }
  }

  /** Whole numbers in place of reals, or places in a short table of them. */
  private Object packedReals(BinaryCursor in, UsdType type, int count)
      throws IOException, FormatException {
    long at = in.position();
    int code = in.readByte();
    GrowingData all = new GrowingData(type.kind());
    if (code == 'i') {
      for (int whole : file.packedInts(in, count)) {
        all.add((double) whole);
      }
      return all.data();
    }
    if (code != 't') {
      throw file.corrupt(at, "an array is packed in a way that is not known.");
    }
    int size = in.readCount("a table of numbers", in.remaining() / sizeOf(type));
    UsdValue table = new UsdValue(type, true, numbers(in, type, size));
    for (int place : file.packedInts(in, count)) {
      if (place < 0 || place >= size) {
        throw file.corrupt(at, "a packed array names a number that is not in its table.");
      }
      all.add(table.number(place));
    }
    return all.data();
  }
}
