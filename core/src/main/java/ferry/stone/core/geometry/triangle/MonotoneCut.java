package ferry.stone.core.geometry.triangle;

import ferry.stone.core.math.IntList;
import ferry.stone.core.work.Cancel;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.TreeSet;

/**
 * Cuts a large simple polygon into triangles: first into pieces that are monotone in y by a sweep,
 * then each piece by a stack. Garey, Johnson, Preparata and Tarjan 1978, "Triangulating a simple
 * polygon", as in de Berg et al., Computational Geometry, chapter 3 (from memory). Time O(n log n).
 *
 * <p>Polygons that cross or touch themselves are noticed by what comes out: the triangles must be n
 * − 2 and have the polygon's area.
 */
public final class MonotoneCut {
  private static final double AREA_TOLERANCE = 1e-9;
  private static final int ROUNDS = 1024;

  private final double[] px;
  private final double[] py;
  private final int n;
  private final int[] helper;
  private final boolean[] merges;
  private final List<int[]> diagonals = new ArrayList<>();
  private final TreeSet<Integer> status = new TreeSet<>(this::compare);
  private double sweepX;
  private double sweepY;

  private MonotoneCut(double[] px, double[] py, int n) {
    this.px = px;
    this.py = py;
    this.n = n;
    helper = new int[n];
    merges = new boolean[n];
  }

  /**
   * @param px first coordinates of the corners, counter-clockwise
   * @param py second ones
   * @return {@code int[3*(n-2)]} corners, or {@code null} when the polygon is not simple
   */
  public static int[] of(double[] px, double[] py, int n) {
    for (int i = 0; i < n; i++) {
      if (!Double.isFinite(px[i]) || !Double.isFinite(py[i])) {
        return null;
      }
    }
    try {
      MonotoneCut cut = new MonotoneCut(px, py, n);
      cut.sweep();
      int[] triangles = cut.triangles();
      return triangles != null && cut.covers(triangles) ? triangles : null;
    } catch (NotSimple e) {
      return null;
    }
  }

  /** The sweep met what no simple polygon has. */
  private static final class NotSimple extends RuntimeException {
    private static final long serialVersionUID = 1L;

    NotSimple() {
      super("", null, false, false);
    }
  }

  private boolean above(int a, int b) {
    return py[a] != py[b] ? py[a] > py[b] : px[a] != px[b] ? px[a] < px[b] : a < b;
  }

  private double turns(int a, int b, int c) {
    return (px[b] - px[a]) * (py[c] - py[a]) - (py[b] - py[a]) * (px[c] - px[a]);
  }

  private int next(int i) {
    return i + 1 == n ? 0 : i + 1;
  }

  private int previous(int i) {
    return i == 0 ? n - 1 : i - 1;
  }

  /** Where an edge crosses the sweep; −1 stands for the point at which the sweep is. */
  private double at(int edge) {
    if (edge < 0) {
      return sweepX;
    }
    int to = next(edge);
    double dy = py[to] - py[edge];
    if (dy == 0) {
      return Math.min(Math.max(sweepX, Math.min(px[edge], px[to])), Math.max(px[edge], px[to]));
    }
    return px[edge] + (sweepY - py[edge]) / dy * (px[to] - px[edge]);
  }

  private int compare(int a, int b) {
    if (a == b) {
      return 0;
    }
    double xa = at(a);
    double xb = at(b);
    if (xa != xb) {
      return xa < xb ? -1 : 1;
    }
    if (a < 0 || b < 0) {
      // An edge that runs through the point counts as left of it.
      return a < 0 ? 1 : -1;
    }
    // Edges that part here are told by where they go.
    int low = above(next(a), next(b)) ? next(a) : next(b);
    double side = low == next(a) ? turns(b, next(b), next(a)) : -turns(a, next(a), next(b));
    return side > 0 ? 1 : side < 0 ? -1 : Integer.compare(a, b);
  }

  private void sweep() {
    Integer[] order = new Integer[n];
    for (int i = 0; i < n; i++) {
      order[i] = i;
    }
    Arrays.sort(order, (a, b) -> a.equals(b) ? 0 : above(a, b) ? -1 : 1);
    for (int k = 0; k < n; k++) {
      if (k % ROUNDS == 0) {
        Cancel.point();
      }
      int v = order[k];
      sweepX = px[v];
      sweepY = py[v];
      visit(v);
    }
  }

  private void visit(int v) {
    boolean fromAbove = above(previous(v), v);
    boolean toBelow = above(v, next(v));
    boolean convex = turns(previous(v), v, next(v)) > 0;
    if (!fromAbove && toBelow) {
      if (!convex) {
        connectLeft(v, true);
      }
      insert(v, v);
    } else if (fromAbove && !toBelow) {
      close(previous(v), v);
      merges[v] = !convex;
      if (!convex) {
        connectLeft(v, false);
      }
    } else if (fromAbove) {
      close(previous(v), v);
      insert(v, v);
    } else {
      connectLeft(v, false);
    }
  }

  private void insert(int edge, int v) {
    helper[edge] = v;
    if (!status.add(edge)) {
      throw new NotSimple();
    }
  }

  /** Ends an edge at a corner. */
  private void close(int edge, int v) {
    if (merges[helper[edge]]) {
      diagonals.add(new int[] {v, helper[edge]});
    }
    if (!status.remove(edge)) {
      throw new NotSimple();
    }
  }

  /** Makes a corner the helper of the edge left of it. */
  private void connectLeft(int v, boolean split) {
    Integer left = status.lower(-1);
    if (left == null) {
      throw new NotSimple();
    }
    if (split || merges[helper[left]]) {
      diagonals.add(new int[] {v, helper[left]});
    }
    helper[left] = v;
  }

  /** Walks round each piece and cuts it. */
  private int[] triangles() {
    IntList out = new IntList(3 * (n - 2));
    int[][] outgoing = outgoing();
    boolean[][] used = new boolean[n][];
    for (int i = 0; i < n; i++) {
      used[i] = new boolean[outgoing[i].length];
    }
    IntList piece = new IntList(64);
    for (int i = 0; i < n; i++) {
      for (int k = 0; k < outgoing[i].length; k++) {
        if (used[i][k]) {
          continue;
        }
        piece.clear();
        int from = i;
        int edge = k;
        while (!used[from][edge]) {
          used[from][edge] = true;
          piece.add(from);
          int to = outgoing[from][edge];
          edge = turn(outgoing[to], to, from);
          from = to;
        }
        if (piece.size() < 3) {
          return null;
        }
        cut(piece.toArray().clone(), piece.size(), out);
      }
    }
    return out.size() == 3 * (n - 2) ? out.toArray() : null;
  }

  /** Ends of the edges and diagonals that leave each corner, by rising angle. */
  private int[][] outgoing() {
    int[] count = new int[n];
    Arrays.fill(count, 1);
    for (int[] d : diagonals) {
      count[d[0]]++;
      count[d[1]]++;
    }
    int[][] all = new int[n][];
    int[] filled = new int[n];
    for (int i = 0; i < n; i++) {
      all[i] = new int[count[i]];
      all[i][filled[i]++] = next(i);
    }
    for (int[] d : diagonals) {
      all[d[0]][filled[d[0]]++] = d[1];
      all[d[1]][filled[d[1]]++] = d[0];
    }
    for (int i = 0; i < n; i++) {
      if (all[i].length > 1) {
        sortByAngle(i, all[i]);
      }
    }
    return all;
  }

  private void sortByAngle(int at, int[] ends) {
    Integer[] boxed = Arrays.stream(ends).boxed().toArray(Integer[]::new);
    Arrays.sort(boxed, (a, b) -> Double.compare(angle(at, a), angle(at, b)));
    for (int i = 0; i < ends.length; i++) {
      ends[i] = boxed[i];
    }
  }

  private double angle(int from, int to) {
    return Math.atan2(py[to] - py[from], px[to] - px[from]);
  }

  /** The edge that leaves next, going clockwise from where one came from. */
  private int turn(int[] ends, int at, int from) {
    double back = angle(at, from);
    int best = -1;
    for (int k = 0; k < ends.length; k++) {
      if (angle(at, ends[k]) < back) {
        best = k;
      }
    }
    return best >= 0 ? best : ends.length - 1;
  }

  private void cut(int[] piece, int size, IntList out) {
    if (size == 3) {
      put(out, piece[0], piece[1], piece[2]);
      return;
    }
    int top = 0;
    int bottom = 0;
    for (int i = 1; i < size; i++) {
      top = above(piece[i], piece[top]) ? i : top;
      bottom = above(piece[bottom], piece[i]) ? i : bottom;
    }
    // Counter-clockwise from the top is the left chain; both run downwards.
    int[] order = new int[size];
    boolean[] isLeft = new boolean[size];
    order[0] = piece[top];
    isLeft[0] = true;
    int left = (top + 1) % size;
    int right = (top + size - 1) % size;
    for (int k = 1; k < size; k++) {
      boolean takeLeft = left != bottom && (right == bottom || above(piece[left], piece[right]));
      if (k == size - 1) {
        order[k] = piece[bottom];
      } else {
        order[k] = piece[takeLeft ? left : right];
        isLeft[k] = takeLeft;
        left = takeLeft ? (left + 1) % size : left;
        right = takeLeft ? right : (right + size - 1) % size;
      }
    }
    stack(order, isLeft, size, out);
  }

  private void stack(int[] order, boolean[] isLeft, int size, IntList out) {
    IntList stack = new IntList(size);
    stack.add(0);
    stack.add(1);
    for (int j = 2; j < size - 1; j++) {
      int top = stack.get(stack.size() - 1);
      if (isLeft[j] != isLeft[top]) {
        for (int i = 0; i + 1 < stack.size(); i++) {
          put(out, order[j], order[stack.get(i)], order[stack.get(i + 1)]);
        }
        stack.clear();
        stack.add(j - 1);
      } else {
        int last = stack.removeLast();
        while (stack.size() > 0
            && isInside(order, isLeft[j], j, last, stack.get(stack.size() - 1))) {
          put(out, order[j], order[last], order[stack.get(stack.size() - 1)]);
          last = stack.removeLast();
        }
        stack.add(last);
      }
      stack.add(j);
    }
    for (int i = 0; i + 1 < stack.size(); i++) {
      put(out, order[size - 1], order[stack.get(i)], order[stack.get(i + 1)]);
    }
  }

  private boolean isInside(int[] order, boolean left, int low, int middle, int high) {
    return left
        ? turns(order[high], order[middle], order[low]) > 0
        : turns(order[low], order[middle], order[high]) > 0;
  }

  private void put(IntList out, int a, int b, int c) {
    boolean counter = turns(a, b, c) >= 0;
    out.add(a);
    out.add(counter ? b : c);
    out.add(counter ? c : b);
  }

  private boolean covers(int[] triangles) {
    double whole = 0;
    for (int i = 0; i < n; i++) {
      // Relative to the first corner, so that a far place does not swallow the digits.
      whole += turns(0, i, next(i));
    }
    double sum = 0;
    for (int i = 0; i < triangles.length; i += 3) {
      sum += turns(triangles[i], triangles[i + 1], triangles[i + 2]);
    }
    return Math.abs(sum - whole) <= AREA_TOLERANCE * Math.abs(whole);
  }
}
