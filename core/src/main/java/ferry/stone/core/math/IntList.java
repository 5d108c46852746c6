package ferry.stone.core.math;

import java.util.Arrays;
import java.util.List;

/** A growing {@code int[]} for readers and builders. */
public final class IntList {
  private int[] values;
  private int size;

  public IntList(int capacity) {
    values = new int[capacity];
  }

  public void add(int value) {
    if (size == values.length) {
      grow(size + 1);
    }
    values[size++] = value;
  }

  /** Adds one value many times. */
  public void fill(int value, int count) {
    grow(size + count);
    Arrays.fill(values, size, size + count, value);
    size += count;
  }

  /**
   * Adds many values at once, each with a shift.
   *
   * @param count how many of the first
   */
  public void addAll(int[] more, int count, int shift) {
    grow(size + count);
    if (shift == 0) {
      System.arraycopy(more, 0, values, size, count);
    } else {
      for (int i = 0; i < count; i++) {
        values[size + i] = more[i] + shift;
      }
    }
    size += count;
  }

  /** Adds values of an array that the caller leaves alone from now on: an empty list keeps it. */
  public void take(int[] whole) {
    if (size == 0) {
      values = whole;
      size = whole.length;
    } else {
      addAll(whole, whole.length, 0);
    }
  }

  public int get(int index) {
    return values[index];
  }

  public void set(int index, int value) {
    values[index] = value;
  }

  public int size() {
    return size;
  }

  /** Takes the last value off. */
  public int removeLast() {
    return values[--size];
  }

  /** Leaves out what comes after the first so many. */
  public void cutTo(int count) {
    size = Math.min(size, count);
  }

  /** Empties the list; its memory stays. */
  public void clear() {
    size = 0;
  }

  /** A copy of the right length; the array itself when it is already full. */
  public int[] toArray() {
    return size == values.length ? values : Arrays.copyOf(values, size);
  }

  /** One list of the right length from several; refuses more than an array can hold. */
  public static IntList join(List<IntList> lists) {
    long size = lists.stream().mapToLong(IntList::size).sum();
    IntList all = new IntList(Math.toIntExact(size));
    for (IntList list : lists) {
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
