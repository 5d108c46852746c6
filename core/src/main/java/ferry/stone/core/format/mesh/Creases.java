package ferry.stone.core.format.mesh;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;

/**
 * Runs of sharp edges as pairs of vertices with a sharpness each.
 *
 * @param pairs two vertices an edge
 * @param sharpness one an edge
 */
public record Creases(int[] pairs, float[] sharpness) {
  /**
   * @param indices vertices along the runs, one run after another
   * @param lengths vertices of each run
   * @param said a sharpness a run, or one an edge
   */
  public static Creases of(int[] indices, int[] lengths, float[] said, int vertices) {
    long edges = 0;
    for (int length : lengths) {
      edges += Math.max(0, length - 1);
    }
    boolean each = said.length == edges && said.length != lengths.length;
    IntList pairs = new IntList(indices.length);
    FloatList sharp = new FloatList(indices.length);
    int at = 0;
    int edge = 0;
    for (int c = 0; c < lengths.length && at + lengths[c] <= indices.length; c++) {
      for (int k = 1; k < lengths[c]; k++, edge++) {
        int from = indices[at + k - 1];
        int to = indices[at + k];
        if (from >= 0 && to >= 0 && from < vertices && to < vertices) {
          pairs.add(from);
          pairs.add(to);
          int place = each ? edge : c;
          sharp.add(place < said.length ? said[place] : 0);
        }
      }
      at += Math.max(0, lengths[c]);
    }
    return new Creases(pairs.toArray(), sharp.toArray());
  }
}
