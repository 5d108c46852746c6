package ferry.stone.core.format.flat;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Table;

/** What kinds of custom layers there are, by what formats can make of them. */
public final class LayerKinds {
  /** Whole numbers up to here are the same as 32-bit floats. */
  private static final int EXACT = 1 << 24;

  private static final int MATRIX_3 = 9;

  private LayerKinds() {}

  public static boolean isText(Attribute layer) {
    return layer.table() instanceof Table.Texts;
  }

  /**
   * Whether a layer is of one to four numbers, or a matrix of 3 × 3 or 4 × 4, all of which are
   * finite as 32-bit floats and, if whole, exact.
   */
  public static boolean isPlain(Attribute layer) {
    int n = layer.components();
    if (isText(layer) || n > 4 && n != MATRIX_3 && n != Attribute.MOST) {
      return false;
    }
    boolean whole = layer.table() instanceof Table.Wholes;
    for (int row = 0; row < layer.valueCount(); row++) {
      for (int k = 0; k < n; k++) {
        double value = layer.table().number(row, k);
        if (!Float.isFinite((float) value) || whole && Math.abs(value) > EXACT) {
          return false;
        }
      }
    }
    return true;
  }
}
