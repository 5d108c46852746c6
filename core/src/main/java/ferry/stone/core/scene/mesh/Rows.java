package ferry.stone.core.scene.mesh;

import java.lang.reflect.Array;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntUnaryOperator;

/** Rows of a fixed number of numbers in a flat array of any primitive type. */
final class Rows {
  private static final int SPREAD = 0x9E3779B9;

  private Rows() {}

  static Object picked(Object numbers, int components, int[] rows) {
    Object result =
        Array.newInstance(numbers.getClass().getComponentType(), components * rows.length);
    for (int i = 0; i < rows.length; i++) {
      System.arraycopy(numbers, components * rows[i], result, components * i, components);
    }
    return result;
  }

  /**
   * @param like an array of the type
   * @param arrays of that type, one for each table
   */
  static Object joined(Object like, int components, Object[] arrays, List<Table> tables) {
    int count = tables.stream().mapToInt(Table::count).sum();
    Object result = Array.newInstance(like.getClass().getComponentType(), components * count);
    int at = 0;
    for (int t = 0; t < arrays.length; t++) {
      int width = tables.get(t).components();
      int shared = Math.min(components, width);
      for (int i = 0; i < tables.get(t).count(); i++) {
        System.arraycopy(arrays[t], width * i, result, components * at++, shared);
      }
    }
    return result;
  }

  /** By open addressing; nothing is made for a row. */
  static int[] firstOfEach(Table table, IntUnaryOperator hash) {
    int count = table.count();
    int[] slots = new int[Integer.highestOneBit(Math.max(16, count)) * 4];
    Arrays.fill(slots, -1);
    int mask = slots.length - 1;
    int[] first = new int[count];
    for (int row = 0; row < count; row++) {
      int h = hash.applyAsInt(row) * SPREAD;
      int at = (h ^ h >>> 15) & mask;
      while (slots[at] >= 0 && !table.same(slots[at], table, row)) {
        at = (at + 1) & mask;
      }
      if (slots[at] < 0) {
        slots[at] = row;
      }
      first[row] = slots[at];
    }
    return first;
  }
}
