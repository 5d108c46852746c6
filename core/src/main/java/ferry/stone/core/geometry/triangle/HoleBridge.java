package ferry.stone.core.geometry.triangle;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.joml.Vector3d;

/**
 * Joins the outline of a polygon with its holes into one loop, which runs along a bridge to each
 * hole, round it, and back. After D. Eberly, "Triangulation by Ear Clipping" (2002), section 3: the
 * hole's corner farthest along an axis is joined to a corner of the outline that it sees. O(h·n)
 * for h holes and n corners.
 */
public final class HoleBridge {
  private final double[] px;
  private final double[] py;

  private HoleBridge(double[] xyz, int outline) {
    int n = xyz.length / 3;
    px = new double[n];
    py = new double[n];
    Vector3d normal = newell(xyz, 0, outline);
    // Drop the axis the outline faces most; the sign makes it turn counter-clockwise.
    int dropped = normal.maxComponent();
    int u = (dropped + 1) % 3;
    int v = (dropped + 2) % 3;
    double flip = normal.get(dropped) < 0 ? -1 : 1;
    for (int i = 0; i < n; i++) {
      px[i] = flip * xyz[3 * i + u];
      py[i] = xyz[3 * i + v];
    }
  }

  /**
   * @param xyz {@code double[3*n]}: the outline's corners, then those of each hole
   * @param sizes corners of the outline and of each hole
   * @return places of corners in {@code xyz}, in the order of the joined loop
   */
  public static int[] join(double[] xyz, int[] sizes) {
    HoleBridge bridge = new HoleBridge(xyz, sizes[0]);
    List<Integer> loop = new ArrayList<>();
    for (int i = 0; i < sizes[0]; i++) {
      loop.add(i);
    }
    List<List<Integer>> holes = new ArrayList<>();
    int at = sizes[0];
    for (int h = 1; h < sizes.length; h++) {
      List<Integer> hole = new ArrayList<>();
      for (int i = 0; i < sizes[h]; i++) {
        hole.add(at + i);
      }
      if (bridge.area(hole) > 0) {
        java.util.Collections.reverse(hole);
      }
      holes.add(hole);
      at += sizes[h];
    }
    holes.sort(Comparator.comparingDouble((List<Integer> h) -> -bridge.px[bridge.farthest(h)]));
    holes.forEach(hole -> bridge.add(loop, hole));
    return loop.stream().mapToInt(Integer::intValue).toArray();
  }

  private double area(List<Integer> loop) {
    double twice = 0;
    for (int i = 0; i < loop.size(); i++) {
      int a = loop.get(i);
      int b = loop.get((i + 1) % loop.size());
      twice += px[a] * py[b] - px[b] * py[a];
    }
    return twice;
  }

  private int farthest(List<Integer> loop) {
    return loop.stream().max(Comparator.comparingDouble(i -> px[i])).orElseThrow();
  }

  private void add(List<Integer> loop, List<Integer> hole) {
    int from = farthest(hole);
    int to = seen(loop, from);
    int first = hole.indexOf(from);
    List<Integer> way = new ArrayList<>();
    for (int i = 0; i <= hole.size(); i++) {
      way.add(hole.get((first + i) % hole.size()));
    }
    way.add(loop.get(to));
    loop.addAll(to + 1, way);
  }

  /** Place in the loop of a corner that a point inside sees, looking along the axis first. */
  private int seen(List<Integer> loop, int from) {
    double x = px[from];
    double y = py[from];
    double nearest = Double.POSITIVE_INFINITY;
    int best = -1;
    int n = loop.size();
    for (int i = 0; i < n; i++) {
      int a = loop.get(i);
      int b = loop.get((i + 1) % n);
      // Edges that run upwards have the inside at their left, where the point is.
      if (py[a] > y || py[b] < y || py[a] == py[b]) {
        continue;
      }
      double cut = px[a] + (y - py[a]) / (py[b] - py[a]) * (px[b] - px[a]);
      if (cut >= x && cut < nearest) {
        nearest = cut;
        best = px[a] > px[b] ? i : (i + 1) % n;
      }
    }
    if (best < 0) {
      // The hole lies outside: any bridge is as good as another.
      return 0;
    }
    return hidden(loop, from, nearest, best);
  }

  /** Another corner where one stands between the point and the end of the edge that it hits. */
  private int hidden(List<Integer> loop, int from, double hit, int best) {
    int end = loop.get(best);
    double x = px[from];
    double y = py[from];
    double slope = Double.POSITIVE_INFINITY;
    int result = best;
    for (int i = 0; i < loop.size(); i++) {
      int c = loop.get(i);
      boolean isEnd = px[c] == px[end] && py[c] == py[end];
      if (isEnd || px[c] < x || !inside(x, y, hit, y, px[end], py[end], px[c], py[c])) {
        continue;
      }
      double tangent = Math.abs(py[c] - y) / (px[c] - x);
      if (tangent < slope) {
        slope = tangent;
        result = i;
      }
    }
    return result;
  }

  private static boolean inside(
      double ax, double ay, double bx, double by, double cx, double cy, double x, double y) {
    double one = (bx - ax) * (y - ay) - (by - ay) * (x - ax);
    double two = (cx - bx) * (y - by) - (cy - by) * (x - bx);
    double three = (ax - cx) * (y - cy) - (ay - cy) * (x - cx);
    return one >= 0 && two >= 0 && three >= 0 || one <= 0 && two <= 0 && three <= 0;
  }

  private static Vector3d newell(double[] xyz, int from, int count) {
    Vector3d normal = new Vector3d();
    for (int i = 0; i < count; i++) {
      int a = 3 * (from + i);
      int b = 3 * (from + (i + 1) % count);
      normal.add(
          (xyz[a + 1] - xyz[b + 1]) * (xyz[a + 2] + xyz[b + 2]),
          (xyz[a + 2] - xyz[b + 2]) * (xyz[a] + xyz[b]),
          (xyz[a] - xyz[b]) * (xyz[a + 1] + xyz[b + 1]));
    }
    return normal;
  }
}
