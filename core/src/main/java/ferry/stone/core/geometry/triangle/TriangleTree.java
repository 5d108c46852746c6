package ferry.stone.core.geometry.triangle;

import ferry.stone.core.work.Cancel;

/**
 * Nearest point on a set of triangles: a tree of boxes, built in O(t log t) by halving at the
 * median centre, asked in about O(log t).
 *
 * <p>Point to triangle after Ericson 2005, "Real-Time Collision Detection", 5.1.5.
 */
public final class TriangleTree {
  private static final int LEAF = 8;

  private final double[] tri;
  private final int[] order;
  private final double[] box;
  private final int[] first;
  private final int[] count;
  private int used;

  /**
   * @param triangles {@code double[9*t]}: three corners of each triangle
   */
  public TriangleTree(double[] triangles) {
    tri = triangles;
    int n = triangles.length / 9;
    order = new int[n];
    for (int i = 0; i < n; i++) {
      order[i] = i;
    }
    int nodes = Math.max(1, 4 * (n / LEAF + 1));
    box = new double[6 * nodes];
    first = new int[nodes];
    count = new int[nodes];
    if (n > 0) {
      build(0, n);
    }
  }

  private int build(int from, int to) {
    int node = used++;
    fit(node, from, to);
    if (to - from <= LEAF) {
      first[node] = from;
      count[node] = to - from;
      return node;
    }
    int axis = 0;
    for (int a = 1; a < 3; a++) {
      if (box[6 * node + 3 + a] - box[6 * node + a]
          > box[6 * node + 3 + axis] - box[6 * node + axis]) {
        axis = a;
      }
    }
    int middle = (from + to) >>> 1;
    select(from, to - 1, middle, axis);
    build(from, middle);
    // The left child always follows its parent; only the right one is stored.
    first[node] = build(middle, to);
    count[node] = -1;
    return node;
  }

  private void fit(int node, int from, int to) {
    for (int a = 0; a < 3; a++) {
      double lo = Double.POSITIVE_INFINITY;
      double hi = Double.NEGATIVE_INFINITY;
      for (int i = from; i < to; i++) {
        int t = 9 * order[i];
        for (int k = a; k < 9; k += 3) {
          lo = Math.min(lo, tri[t + k]);
          hi = Math.max(hi, tri[t + k]);
        }
      }
      box[6 * node + a] = lo;
      box[6 * node + 3 + a] = hi;
    }
  }

  private double centre(int place, int axis) {
    int t = 9 * order[place];
    return tri[t + axis] + tri[t + 3 + axis] + tri[t + 6 + axis];
  }

  /** Hoare's selection: puts the k-th centre in place, lower ones before it. */
  private void select(int from, int to, int k, int axis) {
    int left = from;
    int right = to;
    while (left < right) {
      Cancel.point();
      double pivot = centre((left + right) >>> 1, axis);
      int i = left;
      int j = right;
      while (i <= j) {
        while (centre(i, axis) < pivot) {
          i++;
        }
        while (centre(j, axis) > pivot) {
          j--;
        }
        if (i <= j) {
          int swap = order[i];
          order[i++] = order[j];
          order[j--] = swap;
        }
      }
      if (k <= j) {
        right = j;
      } else if (k >= i) {
        left = i;
      } else {
        return;
      }
    }
  }

  /** Distance from a point to the nearest triangle; infinite when there is none. */
  public double distance(double x, double y, double z) {
    if (order.length == 0) {
      return Double.POSITIVE_INFINITY;
    }
    return Math.sqrt(search(0, x, y, z, Double.POSITIVE_INFINITY));
  }

  private double search(int node, double x, double y, double z, double best) {
    double result = best;
    if (count[node] >= 0) {
      for (int i = first[node]; i < first[node] + count[node]; i++) {
        result = Math.min(result, toTriangle(9 * order[i], x, y, z));
      }
      return result;
    }
    int left = node + 1;
    int right = first[node];
    double toLeft = toBox(left, x, y, z);
    double toRight = toBox(right, x, y, z);
    int near = toLeft <= toRight ? left : right;
    int far = near == left ? right : left;
    if (Math.min(toLeft, toRight) < result) {
      result = search(near, x, y, z, result);
    }
    if (Math.max(toLeft, toRight) < result) {
      result = search(far, x, y, z, result);
    }
    return result;
  }

  private double toBox(int node, double x, double y, double z) {
    double dx = Math.max(0, Math.max(box[6 * node] - x, x - box[6 * node + 3]));
    double dy = Math.max(0, Math.max(box[6 * node + 1] - y, y - box[6 * node + 4]));
    double dz = Math.max(0, Math.max(box[6 * node + 2] - z, z - box[6 * node + 5]));
    return dx * dx + dy * dy + dz * dz;
  }

  private double toTriangle(int t, double px, double py, double pz) {
    double abx = tri[t + 3] - tri[t];
    double aby = tri[t + 4] - tri[t + 1];
    double abz = tri[t + 5] - tri[t + 2];
    double acx = tri[t + 6] - tri[t];
    double acy = tri[t + 7] - tri[t + 1];
    double acz = tri[t + 8] - tri[t + 2];
    double apx = px - tri[t];
    double apy = py - tri[t + 1];
    double apz = pz - tri[t + 2];
    double d1 = abx * apx + aby * apy + abz * apz;
    double d2 = acx * apx + acy * apy + acz * apz;
    double bpx = apx - abx;
    double bpy = apy - aby;
    double bpz = apz - abz;
    double d3 = abx * bpx + aby * bpy + abz * bpz;
    double d4 = acx * bpx + acy * bpy + acz * bpz;
    double cpx = apx - acx;
    double cpy = apy - acy;
    double cpz = apz - acz;
    double d5 = abx * cpx + aby * cpy + abz * cpz;
    double d6 = acx * cpx + acy * cpy + acz * cpz;
    double v;
    double w;
    double va = d3 * d6 - d5 * d4;
    double vb = d5 * d2 - d1 * d6;
    double vc = d1 * d4 - d3 * d2;
    if (d1 <= 0 && d2 <= 0) {
      v = 0;
      w = 0;
    } else if (d3 >= 0 && d4 <= d3) {
      v = 1;
      w = 0;
    } else if (d6 >= 0 && d5 <= d6) {
      v = 0;
      w = 1;
    } else if (vc <= 0 && d1 >= 0 && d3 <= 0) {
      v = d1 == d3 ? 0 : d1 / (d1 - d3);
      w = 0;
    } else if (vb <= 0 && d2 >= 0 && d6 <= 0) {
      v = 0;
      w = d2 == d6 ? 0 : d2 / (d2 - d6);
    } else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      w = (d4 - d3) + (d5 - d6) == 0 ? 0 : (d4 - d3) / ((d4 - d3) + (d5 - d6));
      v = 1 - w;
    } else {
      double sum = va + vb + vc;
      v = vb / sum;
      w = vc / sum;
    }
    double dx = apx - v * abx - w * acx;
    double dy = apy - v * aby - w * acy;
    double dz = apz - v * abz - w * acz;
    return dx * dx + dy * dy + dz * dz;
  }
}
