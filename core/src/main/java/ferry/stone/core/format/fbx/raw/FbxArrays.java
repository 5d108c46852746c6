package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.work.Beside;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.Supplier;
import java.util.zip.DataFormatException;
import java.util.zip.Inflater;

/**
 * Unpacks the arrays of the binary form on all cores while the records after them are read: nearly
 * all of a file is deflated arrays. Few are on their way at once. Key times that stand in a file
 * again and again become one array: nobody changes what is unpacked.
 */
final class FbxArrays implements AutoCloseable {
  /** Bytes that are unpacked before they become numbers, few enough to stay near the core. */
  private static final int SOME = 1 << 15;

  /** So many arrays may wait, so that no core does. */
  private static final int MOST_BEGUN = 64;

  /** Bytes of the file that may wait. */
  private static final long MOST_RAW = 64 << 20;

  /** Bytes from which handing an array to another core costs less than unpacking it. */
  private static final int WORTH_GIVING = 1 << 10;

  /**
   * An array as the file has it.
   *
   * @param type letter of the format for what its values are
   * @param raw its bytes, deflated or not, little end first
   * @param at place in the file, for errors
   */
  record Packed(char type, int count, boolean deflated, byte[] raw, long at) {
    int width() {
      return switch (type) {
        case 'd', 'l' -> Double.BYTES;
        case 'f', 'i' -> Float.BYTES;
        default -> 1;
      };
    }

    boolean isSame(Packed other) {
      return other != null
          && type == other.type
          && count == other.count
          && deflated == other.deflated
          && Arrays.equals(raw, other.raw);
    }
  }

  /** One on its way; its record has room for it. */
  private record Begun(FbxRecord record, int place, int raw, Supplier<Object> array) {}

  private final String resource;
  private final Beside beside = new Beside();
  private final ArrayDeque<Begun> begun = new ArrayDeque<>();
  private final ConcurrentLinkedQueue<Inflater> inflaters = new ConcurrentLinkedQueue<>();
  private long rawBytes;

  /** Times of the last long curve: those after it mostly have their keys at the same times. */
  private Packed lastTimes;

  private Supplier<Object> lastTimesArray;

  FbxArrays(String resource) {
    this.resource = resource;
  }

  /** Adds an array to a record's values: it is there after {@link #finish}. */
  void add(FbxRecord record, Packed packed) throws FormatException {
    if (packed.raw().length < WORTH_GIVING) {
      Object array = unpackedOrFault(packed, record.name());
      if (array instanceof FormatException fault) {
        finish();
        throw fault;
      }
      record.values().add(array);
      return;
    }
    while (begun.size() >= MOST_BEGUN || rawBytes > MOST_RAW) {
      finishFirst();
    }
    rawBytes += packed.raw().length;
    int place = record.values().size();
    record.values().add(packed);
    begun.add(
        new Begun(
            record,
            place,
            packed.raw().length,
            packed.type() == 'l' ? times(packed, record.name()) : given(packed, record.name())));
  }

  private Supplier<Object> given(Packed packed, String name) {
    return beside.give(() -> unpackedOrFault(packed, name));
  }

  private Supplier<Object> times(Packed packed, String name) {
    if (!packed.isSame(lastTimes)) {
      lastTimes = packed;
      lastTimesArray = given(packed, name);
    }
    return lastTimesArray;
  }

  /** Waits for all arrays; throws what is wrong with the first that is damaged. */
  void finish() throws FormatException {
    while (!begun.isEmpty()) {
      finishFirst();
    }
  }

  private void finishFirst() throws FormatException {
    Begun first = begun.remove();
    rawBytes -= first.raw();
    Object array = first.array().get();
    if (array instanceof FormatException fault) {
      begun.clear();
      throw fault;
    }
    first.record().values().set(first.place(), array);
  }

  @Override
  public void close() {
    beside.close();
    // What another core is about to hand back is let go of with it.
    for (Inflater each = inflaters.poll(); each != null; each = inflaters.poll()) {
      each.end();
    }
  }

  private Object unpackedOrFault(Packed packed, String name) {
    try {
      return packed.deflated() ? inflated(packed, name) : plain(packed);
    } catch (FormatException fault) {
      return fault;
    }
  }

  private static Object plain(Packed packed) {
    Object target = room(packed);
    put(packed, ByteBuffer.wrap(packed.raw()), target, 0, packed.count());
    return target;
  }

  private Object inflated(Packed packed, String name) throws FormatException {
    Object target = room(packed);
    int width = packed.width();
    byte[] some = new byte[(int) Math.min(SOME, (long) packed.count() * width)];
    ByteBuffer bytes = ByteBuffer.wrap(some);
    Inflater inflater = inflaters.poll();
    inflater = inflater == null ? new Inflater() : inflater;
    try {
      inflater.setInput(packed.raw());
      int done = 0;
      while (done < packed.count()) {
        int values = Math.min(some.length / width, packed.count() - done);
        int filled = 0;
        while (filled < values * width) {
          int got = inflater.inflate(some, filled, values * width - filled);
          if (got == 0) {
            throw fault(Kind.TRUNCATED, packed, name, "ends too early.");
          }
          filled += got;
        }
        put(packed, bytes, target, done, values);
        done += values;
      }
    } catch (DataFormatException e) {
      throw fault(Kind.CORRUPT, packed, name, "is damaged.");
    } finally {
      inflater.reset();
      inflaters.add(inflater);
    }
    return target;
  }

  private FormatException fault(Kind kind, Packed packed, String name, String problem) {
    return new FormatException(
        kind, resource, "byte " + packed.at(), "the packed array of " + name + " " + problem);
  }

  private static Object room(Packed packed) {
    return switch (packed.type()) {
      case 'f', 'd' -> new double[packed.count()];
      case 'l' -> new long[packed.count()];
      default -> new int[packed.count()];
    };
  }

  /** So many values from the beginning of the bytes to a place of the array. */
  private static void put(Packed packed, ByteBuffer bytes, Object target, int at, int count) {
    ByteBuffer data = bytes.clear().order(ByteOrder.LITTLE_ENDIAN);
    switch (packed.type()) {
      case 'f' -> {
        double[] values = (double[]) target;
        for (int i = 0; i < count; i++) {
          values[at + i] = data.getFloat(Float.BYTES * i);
        }
      }
      case 'd' -> data.asDoubleBuffer().get((double[]) target, at, count);
      case 'l' -> data.asLongBuffer().get((long[]) target, at, count);
      case 'i' -> data.asIntBuffer().get((int[]) target, at, count);
      default -> {
        int[] values = (int[]) target;
        for (int i = 0; i < count; i++) {
          values[at + i] = data.get(i);
        }
      }
    }
  }
}
