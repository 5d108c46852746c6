package ferry.stone.core.geometry.curve;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.CurveForm.Basis;
import ferry.stone.core.scene.mesh.LooseElements;

/** Lines as runs of points of their own, as formats of caches have them. */
public final class LineRuns {
  private LineRuns() {}

  /** How many points the end of each curve has in common with its start: closed curves. */
  public static int again(LooseElements loose) {
    Basis basis = loose.form() == null ? null : loose.form().basis();
    if (basis == Basis.NURBS || basis == Basis.BEZIER && loose.form().degree() != 3) {
      return 0;
    }
    int again = basis == null || basis == Basis.BEZIER ? 1 : 3;
    for (int c = 0; c < loose.lineCount(); c++) {
      int start = loose.lineOffsets()[c];
      int end = loose.lineOffsets()[c + 1];
      if (end - start < again + 2) {
        return 0;
      }
      for (int k = 0; k < again; k++) {
        if (loose.lineVertices()[start + k] != loose.lineVertices()[end - again + k]) {
          return 0;
        }
      }
    }
    return again;
  }

  /** Vertices along all lines; those that close a line once. */
  public static int[] along(LooseElements loose, int again) {
    IntList order = new IntList(loose.lineVertices().length);
    for (int c = 0; c < loose.lineCount(); c++) {
      for (int i = loose.lineOffsets()[c]; i < loose.lineOffsets()[c + 1] - again; i++) {
        order.add(loose.lineVertices()[i]);
      }
    }
    return order.toArray();
  }

  /** Bézier pieces of another degree than 3 as what they are among NURBS. */
  public static double[] knots(int[] counts, int degree) {
    int all = 0;
    for (int count : counts) {
      all += count + degree + 1;
    }
    double[] knots = new double[all];
    int at = 0;
    for (int count : counts) {
      for (int k = 0; k < count + degree + 1; k++) {
        int pieces = Math.max(1, (count - 1) / degree);
        knots[at++] = Math.min(pieces, Math.max(0, (k - 1) / degree));
      }
    }
    return knots;
  }
}
