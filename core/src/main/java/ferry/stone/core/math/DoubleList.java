package ferry.stone.core.math;

import java.util.Arrays;
import java.util.List;

/** A growing {@code double[]} for readers and builders. */
public final class DoubleList {
  private double[] values;
  private int size;

  public DoubleList(int capacity) {
    values = new double[capacity];
  }

  public void add(double value) {
    if (size == values.length) {
      grow(size + 1);
    }
    values[size++] = value;
  }

  /** Adds one value many times. */
  public void fill(double value, int count) {
    grow(size + count);
    Arrays.fill(values, size, size + count, value);
    size += count;
  }

  public void addAll(double[] more) {
    addAll(more, 0, more.length);
  }

  /** Adds so many values of an array. */
  public void addAll(double[] more, int from, int count) {
    grow(size + count);
    System.arraycopy(more, from, values, size, count);
    size += count;
  }

  public double get(int index) {
    return values[index];
  }

  public int size() {
    return size;
  }

  /** A copy of the right length; the array itself when it is already full. */
  public double[] toArray() {
    return size == values.length ? values : Arrays.copyOf(values, size);
  }

  /** One list of the right length from several; refuses more than an array can hold. */
  public static DoubleList join(List<DoubleList> lists) {
    long size = lists.stream().mapToLong(DoubleList::size).sum();
    DoubleList all = new DoubleList(Math.toIntExact(size));
    for (DoubleList list : lists) {
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
