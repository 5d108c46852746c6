package ferry.stone.core.math;

import java.util.Arrays;
import java.util.List;

/** A growing {@code float[]} for readers and builders. */
public final class FloatList {
  private float[] values;
  private int size;

  public FloatList(int capacity) {
    values = new float[capacity];
  }

  public void add(float value) {
    if (size == values.length) {
      grow(size + 1);
    }
    values[size++] = value;
  }

  public void addAll(float[] more) {
    grow(size + more.length);
    System.arraycopy(more, 0, values, size, more.length);
    size += more.length;
  }

  /** Adds values of an array that the caller leaves alone from now on: an empty list keeps it. */
  public void take(float[] whole) {
    if (size == 0) {
      values = whole;
      size = whole.length;
    } else {
      addAll(whole);
    }
  }

  /** Adds one value many times. */
  public void fill(float value, int count) {
    grow(size + count);
    Arrays.fill(values, size, size + count, value);
    size += count;
  }

  public float get(int index) {
    return values[index];
  }

  public int size() {
    return size;
  }

  /** A copy of the right length; the array itself when it is already full. */
  public float[] toArray() {
    return size == values.length ? values : Arrays.copyOf(values, size);
  }

  /** One list of the right length from several; refuses more than an array can hold. */
  public static FloatList join(List<FloatList> lists) {
    long size = lists.stream().mapToLong(FloatList::size).sum();
    FloatList all = new FloatList(Math.toIntExact(size));
    for (FloatList list : lists) {
      System.arraycopy(list.values, 0, all.values, all.size, list.size);
      all.size += list.size;
    }
    return all;
  }

  private void grow(int needed) {
    if (needed > values.length) {
      long wanted = Math.max(needed, values.length + (values.length >> 1) + 16L);
      values = Arrays.copyOf(values, (int) Math.min(wanted, Integer.MAX_VALUE - 8));
    }
  }
}
