package ferry.stone.core.geometry;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Attribute;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Polygons;
import ferry.stone.core.work.Cancel;
import java.util.BitSet;

/**
 * How much of the UV plane is covered twice, sampled at a grid of points over the UVs' own box. The
 * grid is shifted by an odd fraction, so that shared edges do not fall on its points. O(c +
 * points).
 *
 * @param part 0 to 1: covered twice, of all that is covered
 * @param faces that cover what others cover, rising
 */
public record UvOverlap(double part, IntList faces) {
  /** Below this part rounding along edges may be all there is. */
  public static final double WORTH_TELLING = 0.005;

  private static final int GRID = 1024;
  private static final double SHIFT = 0.3819660112501051;

  public static UvOverlap of(PolygonMesh mesh, Attribute uv) {
    double[] box = box(uv);
    IntList overlapping = new IntList(16);
    if (!(box[2] > box[0]) || !(box[3] > box[1])) {
      return new UvOverlap(0, overlapping);
    }
    double scaleU = GRID / (box[2] - box[0]);
    double scaleV = GRID / (box[3] - box[1]);
    BitSet once = new BitSet(GRID * GRID);
    BitSet twice = new BitSet(GRID * GRID);
    Polygons faces = mesh.faces();
    double[] t = new double[6];
    for (int f = 0; f < faces.faceCount(); f++) {
      int start = faces.start(f);
      boolean hit = false;
      for (int c = start + 1; c + 1 < faces.end(f); c++) {
        int[] corners = {start, c, c + 1};
        boolean whole = true;
        for (int k = 0; k < 3; k++) {
          int value = uv.valueOf(corners[k], faces.vertex(corners[k]), f);
          whole &= value >= 0;
          if (whole) {
            t[2 * k] = (uv.values()[uv.components() * value] - box[0]) * scaleU;
            t[2 * k + 1] = (uv.values()[uv.components() * value + 1] - box[1]) * scaleV;
          }
        }
        hit |= whole && cover(t, once, twice);
      }
      if (hit) {
        overlapping.add(f);
      }
    }
    int covered = once.cardinality();
    return new UvOverlap(covered == 0 ? 0 : (double) twice.cardinality() / covered, overlapping);
  }

  private static double[] box(Attribute uv) {
    double[] box = {
      Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY,
      Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY
    };
    for (int i = 0; i + 1 < uv.values().length; i += uv.components()) {
      float u = uv.values()[i];
      float v = uv.values()[i + 1];
      if (Float.isFinite(u + v)) {
        box[0] = Math.min(box[0], u);
        box[1] = Math.min(box[1], v);
        box[2] = Math.max(box[2], u);
        box[3] = Math.max(box[3], v);
      }
    }
    return box;
  }

  /** Marks the grid points inside a triangle; whether one of them was marked before. */
  private static boolean cover(double[] t, BitSet once, BitSet twice) {
    double area = (t[2] - t[0]) * (t[5] - t[1]) - (t[4] - t[0]) * (t[3] - t[1]);
    if (!(Math.abs(area) > 0) || Double.isInfinite(area)) {
      return false;
    }
    int fromX = first(Math.min(t[0], Math.min(t[2], t[4])));
    int toX = last(Math.max(t[0], Math.max(t[2], t[4])));
    int fromY = first(Math.min(t[1], Math.min(t[3], t[5])));
    int toY = last(Math.max(t[1], Math.max(t[3], t[5])));
    double sign = Math.signum(area);
    boolean hit = false;
    for (int y = fromY; y <= toY; y++) {
      Cancel.point();
      for (int x = fromX; x <= toX; x++) {
        double px = x + SHIFT;
        double py = y + SHIFT;
        boolean inside =
            side(t, 0, 2, px, py) * sign > 0
                && side(t, 2, 4, px, py) * sign > 0
                && side(t, 4, 0, px, py) * sign > 0;
        if (inside) {
          int at = y * GRID + x;
          if (once.get(at)) {
            twice.set(at);
            hit = true;
          }
          once.set(at);
        }
      }
    }
    return hit;
  }

  private static int first(double value) {
    return Math.max(0, (int) Math.ceil(value - SHIFT));
  }

  private static int last(double value) {
    return Math.min(GRID - 1, (int) Math.floor(value - SHIFT));
  }

  private static double side(double[] t, int a, int b, double x, double y) {
    return (t[b] - t[a]) * (y - t[a + 1]) - (t[b + 1] - t[a + 1]) * (x - t[a]);
  }
}
