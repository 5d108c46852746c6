package ferry.stone.core.geometry.mesh;

import java.util.Arrays;

/** Finds equal tuples in a flat array by open addressing; O(n). */
public final class EqualValues {
  private EqualValues() {}

  /** For each tuple the index of the first tuple with exactly the same numbers. */
  public static int[] firstOfEach(float[] values, int components) {
    int n = values.length / components;
    int capacity = Integer.highestOneBit(Math.max(16, n)) * 4;
    int[] table = new int[capacity];
    Arrays.fill(table, -1);
    int[] first = new int[n];
    for (int i = 0; i < n; i++) {
      int slot = hash(values, i * components, components) & (capacity - 1);
      while (true) {
        int other = table[slot];
        if (other < 0) {
          table[slot] = i;
          first[i] = i;
          break;
        }
        if (same(values, other * components, i * components, components)) {
          first[i] = other;
          break;
        }
        slot = (slot + 1) & (capacity - 1);
      }
    }
    return first;
  }

  private static int hash(float[] values, int at, int components) {
    int h = 17;
    for (int k = 0; k < components; k++) {
      h = h * 0x9E3779B1 + Float.floatToIntBits(values[at + k] + 0f);
    }
    h ^= h >>> 15;
    h *= 0x85EBCA6B;
    return h ^ (h >>> 13);
  }

  private static boolean same(float[] values, int a, int b, int components) {
    for (int k = 0; k < components; k++) {
      if (Float.floatToIntBits(values[a + k] + 0f) != Float.floatToIntBits(values[b + k] + 0f)) {
        return false;
      }
    }
    return true;
  }
}
