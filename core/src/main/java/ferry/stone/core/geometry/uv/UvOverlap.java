package ferry.stone.core.geometry.uv;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.work.Cancel;

/**
 * How much of the UV plane is covered twice, sampled at a grid of points over the UVs' own box. The
 * grid is shifted by an odd fraction, so that shared edges do not fall on its points. A triangle
 * costs at most one step for each row of the grid and each 64 points of it, however many lie on
 * each other.
 *
 * @param part 0 to 1: covered twice, of all that is covered
 * @param faces that cover what others cover, rising
 */
public record UvOverlap(double part, IntList faces) {
  /** Below this part rounding along edges may be all there is. */
  public static final double WORTH_TELLING = 0.005;

  private static final int GRID = 1024;

  /** Columns of the grid up to which trying each point is faster than working out each row. */
  private static final int NARROW = 4;

  private static final int WORDS = GRID / Long.SIZE;

  /** A large triangle costs some thousand steps. */
  private static final int BETWEEN_CANCEL_POINTS = 64;

  private static final double SHIFT = 0.3819660112501051;

  public static UvOverlap of(PolygonMesh mesh, Attribute uv) {
    double[] box = box(uv);
    IntList overlapping = new IntList(16);
    if (!(box[2] > box[0]) || !(box[3] > box[1])) {
      return new UvOverlap(0, overlapping);
    }
    double[] placed = placed(uv, box);
    int[] named = uv.domain() == Attribute.Domain.CORNER ? uv.indices() : null;
    long[] once = new long[GRID * WORDS];
    long[] twice = new long[GRID * WORDS];
    Polygons faces = mesh.faces();
    double[] t = new double[6];
    for (int f = 0; f < faces.faceCount(); f++) {
      if (f % BETWEEN_CANCEL_POINTS == 0) {
        Cancel.point();
      }
      int start = faces.start(f);
      boolean hit = false;
      for (int c = start + 1; c + 1 < faces.end(f); c++) {
        boolean whole = true;
        for (int k = 0; k < 3; k++) {
          int corner = k == 0 ? start : c + k - 1;
          int value = named != null ? named[corner] : uv.valueOf(corner, faces.vertex(corner), f);
          whole &= value >= 0;
          if (whole) {
            t[2 * k] = placed[2 * value];
            t[2 * k + 1] = placed[2 * value + 1];
          }
        }
        hit |= whole && cover(t, once, twice);
      }
      if (hit) {
        overlapping.add(f);
      }
    }
    long covered = bits(once);
    return new UvOverlap(covered == 0 ? 0 : (double) bits(twice) / covered, overlapping);
  }

  /** All values in steps of the grid. */
  private static double[] placed(Attribute uv, double[] box) {
    double scaleU = GRID / (box[2] - box[0]);
    double scaleV = GRID / (box[3] - box[1]);
    float[] values = uv.values();
    int components = uv.components();
    double[] placed = new double[2 * uv.valueCount()];
    for (int i = 0; i < placed.length / 2; i++) {
      placed[2 * i] = (values[components * i] - box[0]) * scaleU;
      placed[2 * i + 1] = (values[components * i + 1] - box[1]) * scaleV;
    }
    return placed;
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

  private static long bits(long[] words) {
    long bits = 0;
    for (long word : words) {
      bits += Long.bitCount(word);
    }
    return bits;
  }

  /** Marks the grid points inside a triangle; whether one of them was marked before. */
  private static boolean cover(double[] t, long[] once, long[] twice) {
    double area = (t[2] - t[0]) * (t[5] - t[1]) - (t[4] - t[0]) * (t[3] - t[1]);
    if (!(Math.abs(area) > 0) || Double.isInfinite(area)) {
      return false;
    }
    int fromY = Math.max(0, after(Math.min(t[1], Math.min(t[3], t[5]))));
    int toY = Math.min(GRID - 1, before(Math.max(t[1], Math.max(t[3], t[5]))));
    int fromX = Math.max(0, after(Math.min(t[0], Math.min(t[2], t[4]))));
    int toX = Math.min(GRID - 1, before(Math.max(t[0], Math.max(t[2], t[4]))));
    double sign = Math.signum(area);
    if (toX - fromX < NARROW) {
      return coverNarrow(t, sign, fromX, toX, fromY, toY, once, twice);
    }
    boolean hit = false;
    for (int y = fromY; y <= toY; y++) {
      double least = Double.NEGATIVE_INFINITY;
      double most = Double.POSITIVE_INFINITY;
      for (int a = 0; a < 6; a += 2) {
        int b = (a + 2) % 6;
        // Inside is on one side of each edge: rise · x < limit along this row.
        double rise = sign * (t[b + 1] - t[a + 1]);
        double limit = sign * (t[b] - t[a]) * (y + SHIFT - t[a + 1]) + rise * t[a];
        if (rise > 0) {
          most = Math.min(most, limit / rise);
        } else if (rise < 0) {
          least = Math.max(least, limit / rise);
        } else if (!(limit > 0)) {
          most = Double.NEGATIVE_INFINITY;
        }
      }
      int from = Math.max(0, after(least));
      int to = Math.min(GRID - 1, before(most));
      hit |= from <= to && mark(y * WORDS, from, to, once, twice);
    }
    return hit;
  }

  /** The same for a triangle so narrow that each grid point of its box is looked at. */
  private static boolean coverNarrow(
      double[] t, double sign, int fromX, int toX, int fromY, int toY, long[] once, long[] twice) {
    // Inside is on the same side of all three edges; along a row each side changes evenly.
    double rise0 = sign * (t[3] - t[1]);
    double rise1 = sign * (t[5] - t[3]);
    double rise2 = sign * (t[1] - t[5]);
    long marked = 0;
    for (int y = fromY; y <= toY; y++) {
      double v = y + SHIFT;
      double u = fromX + SHIFT;
      double side0 = sign * (t[2] - t[0]) * (v - t[1]) - rise0 * (u - t[0]);
      double side1 = sign * (t[4] - t[2]) * (v - t[3]) - rise1 * (u - t[2]);
      double side2 = sign * (t[0] - t[4]) * (v - t[5]) - rise2 * (u - t[4]);
      for (int x = fromX; x <= toX; x++) {
        // Without a branch: which points are inside cannot be guessed.
        long bit = (side0 > 0 ? 1L : 0) & (side1 > 0 ? 1L : 0) & (side2 > 0 ? 1L : 0);
        int word = y * WORDS + x / Long.SIZE;
        bit <<= x;
        long before = once[word];
        once[word] = before | bit;
        if ((before & bit) != 0) {
          twice[word] |= bit;
          marked = bit;
        }
        side0 -= rise0;
        side1 -= rise1;
        side2 -= rise2;
      }
    }
    return marked != 0;
  }

  /** Marks points of a row; whether one was marked before. */
  private static boolean mark(int row, int from, int to, long[] once, long[] twice) {
    boolean hit = false;
    for (int w = from / Long.SIZE; w <= to / Long.SIZE; w++) {
      long mask = -1L;
      if (w == from / Long.SIZE) {
        mask &= -1L << from;
      }
      if (w == to / Long.SIZE) {
        mask &= -1L >>> -(to + 1);
      }
      long again = once[row + w] & mask;
      twice[row + w] |= again;
      once[row + w] |= mask;
      hit |= again != 0;
    }
    return hit;
  }

  /** The first grid point beyond a place. */
  private static int after(double place) {
    double p = place - SHIFT;
    return p < 0 ? 0 : Math.min(GRID, (int) p) + 1;
  }

  /** The last grid point short of a place. */
  private static int before(double place) {
    double p = place - SHIFT;
    int whole = Math.min(GRID, (int) p);
    return !(p > 0) ? -1 : p > whole ? Math.min(GRID - 1, whole) : whole - 1;
  }
}
