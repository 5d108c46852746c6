package ferry.stone.core.format.abc.raw;

import java.util.Arrays;

/** Growing list of places. */
final class LongList {
  private long[] values = new long[4];
  private int size;

  void add(long value) {
    if (size == values.length) {
      values = Arrays.copyOf(values, 2 * size);
    }
    values[size++] = value;
  }

  long get(int index) {
    return values[index];
  }

  int size() {
    return size;
  }
}
