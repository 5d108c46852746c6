package ferry.stone.core.format.obj.read;

import ferry.stone.core.math.IntList;
import java.util.Arrays;

/** Renumbers the values that one part uses from 0, keeping their order in the file. */
final class Compaction {
  private final int[] place;
  private IntList used = new IntList(16);
  private boolean allUsed;

  Compaction(int count) {
    place = new int[count];
  }

  /** Marks values as used; −1 is passed over. */
  void use(int[] indices) {
    for (int index : indices) {
      if (index >= 0 && place[index] == 0) {
        place[index] = 1;
        used.add(index);
      }
    }
  }

  /** Whether all values are used. */
  boolean isFull() {
    return used.size() == place.length;
  }

  /** Ends marking; the used values in file order. */
  int[] finish() {
    int[] kept = used.toArray().clone();
    allUsed = kept.length == place.length;
    if (allUsed) {
      for (int i = 0; i < kept.length; i++) {
        kept[i] = i;
      }
    } else {
      Arrays.sort(kept);
      for (int i = 0; i < kept.length; i++) {
        place[kept[i]] = i + 1;
      }
    }
    return kept;
  }

  /** Replaces old places by new ones, in the array itself. */
  int[] apply(int[] indices) {
    if (!allUsed) {
      for (int i = 0; i < indices.length; i++) {
        indices[i] = indices[i] < 0 ? -1 : place[indices[i]] - 1;
      }
    }
    return indices;
  }

  /** Makes ready for the next part. */
  void clear(int[] kept) {
    for (int index : kept) {
      place[index] = 0;
    }
    used = new IntList(16);
  }
}
