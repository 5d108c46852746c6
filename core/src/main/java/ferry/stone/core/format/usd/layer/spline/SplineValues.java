package ferry.stone.core.format.usd.layer.spline;

import ferry.stone.core.format.usd.layer.spline.UsdSpline.Beyond;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Knot;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Loop;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Segment;
import ferry.stone.core.format.usd.layer.spline.UsdSpline.Way;
import ferry.stone.core.math.BezierTime;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;

/**
 * What a curve is at a moment, as the standard's library evaluates it ({@code pxr/base/ts}): Bézier
 * segments by the parameter at which their time is met, tangents that would run back in time made
 * shorter together until they do not, slopes beyond the ends, and repetitions.
 */
public final class SplineValues {
  /** How long before a jump the value before it still holds, in time codes. */
  public static final double JUST = 1.0 / 1024;

  private static final int MOST_KNOTS = 1 << 16;
  private static final int MOST = 1 << 16;

  private final UsdSpline spline;
  private final List<Knot> knots;

  public SplineValues(UsdSpline spline) {
    this.spline = spline;
    knots = repeated(spline);
  }

  /** With the knots that a loop says again in their places. */
  private static List<Knot> repeated(UsdSpline spline) {
    Loop loop = spline.loop();
    if (loop == null || !(loop.end() > loop.start())) {
      return spline.knots();
    }
    List<Knot> inside =
        spline.knots().stream()
            .filter(k -> k.time() >= loop.start() && k.time() < loop.end())
            .toList();
    if (inside.isEmpty() || inside.get(0).time() != loop.start()) {
      return spline.knots();
    }
    int most = Math.max(1, MOST_KNOTS / inside.size());
    int before = Math.min(Math.max(0, loop.before()), most);
    int after = Math.min(Math.max(0, loop.after()), most);
    double length = loop.end() - loop.start();
    double first = loop.start() - before * length;
    double last = loop.end() + after * length;
    List<Knot> all = new ArrayList<>();
    spline.knots().stream().filter(k -> k.time() < first).forEach(all::add);
    for (int i = -before; i <= after; i++) {
      for (Knot knot : inside) {
        all.add(knot.moved(i * length, i * loop.offset()));
      }
    }
    all.add(inside.get(0).moved((after + 1) * length, (after + 1) * loop.offset()));
    spline.knots().stream().filter(k -> k.time() > last).forEach(all::add);
    return all;
  }

  /**
   * Where a curve has to be looked at so that straight lines follow it: every whole code, its
   * knots, and just before those where it jumps.
   *
   * @param start where what is played begins
   * @param end where it ends
   */
  public double[] moments(double start, double end) {
    if (knots.isEmpty()) {
      return new double[0];
    }
    double first = knots.get(0).time();
    double last = knots.get(knots.size() - 1).time();
    TreeSet<Double> all = new TreeSet<>();
    for (Knot knot : knots) {
      moment(all, knot.time());
    }
    boolean curved = knots.stream().anyMatch(k -> k.next() == Segment.CURVE);
    double from = beyond(spline.before()) ? Math.min(start, first) : first;
    double to = beyond(spline.after()) ? Math.max(end, last) : last;
    boolean loops = loops(from, first, spline.before()) || loops(last, to, spline.after());
    all.add(from);
    all.add(to);
    if (curved || loops) {
      double step = Math.max(1, Math.ceil((to - from) / MOST));
      for (double code = Math.ceil(from); code < to; code += step) {
        all.add(code);
      }
    }
    if (loops) {
      again(all, from, to, first, last);
    }
    return all.stream().mapToDouble(Double::doubleValue).toArray();
  }

  private static boolean loops(double from, double to, Beyond beyond) {
    return to > from && beyond.way().loops();
  }

  private static boolean beyond(Beyond beyond) {
    return beyond.way() != Way.HELD && beyond.way() != Way.NONE;
  }

  /** Knots in the repetitions beyond the ends. */
  private void again(TreeSet<Double> all, double from, double to, double first, double last) {
    double length = last - first;
    if (length <= 0 || (to - from) / length * knots.size() > MOST) {
      return;
    }
    for (double turn = Math.floor((from - first) / length); first + turn * length < to; turn++) {
      for (Knot knot : knots) {
        double own = first + turn * length + (knot.time() - first);
        double mirrored = first + turn * length + (last - knot.time());
        double time = turn % 2 != 0 && oscillates(turn) ? mirrored : own;
        if (time >= from && time <= to) {
          moment(all, time);
        }
      }
    }
  }

  private boolean oscillates(double turn) {
    return (turn < 0 ? spline.before() : spline.after()).way() == Way.OSCILLATE;
  }

  private static void moment(TreeSet<Double> all, double time) {
    all.add(time - JUST);
    all.add(time);
  }

  /** The value at a time code; not a number where there is none. */
  public double at(double code) {
    if (knots.isEmpty()) {
      return Double.NaN;
    }
    Knot first = knots.get(0);
    Knot last = knots.get(knots.size() - 1);
    if (code < first.time()) {
      return outside(code, first, last, spline.before(), true);
    }
    if (code > last.time() || code == last.time() && spline.after().way().loops()) {
      return outside(code, first, last, spline.after(), false);
    }
    return within(code);
  }

  private double outside(double code, Knot first, Knot last, Beyond beyond, boolean before) {
    Knot end = before ? first : last;
    double held = before ? end.before() : end.value();
    return switch (beyond.way()) {
      case NONE -> Double.NaN;
      case HELD -> held;
      case SLOPED -> held + beyond.slope() * (code - end.time());
      case LINEAR -> held + slope(before) * (code - end.time());
      default -> again(code, first, last, beyond.way());
    };
  }

  private double again(double code, Knot first, Knot last, Way way) {
    double length = last.time() - first.time();
    if (length <= 0) {
      return first.value();
    }
    double turn = Math.floor((code - first.time()) / length);
    double within = code - turn * length;
    if (way == Way.OSCILLATE && Math.abs(turn % 2) == 1) {
      within = first.time() + last.time() - within;
    }
    double rise = turn < 0 ? last.before() - first.before() : last.value() - first.value();
    double offset = way == Way.REPEAT ? turn * rise : 0;
    return within(Math.min(Math.max(within, first.time()), last.time())) + offset;
  }

  /** How the curve leaves its ends. */
  private double slope(boolean before) {
    if (knots.size() < 2) {
      return 0;
    }
    Knot from = before ? knots.get(0) : knots.get(knots.size() - 2);
    Knot to = before ? knots.get(1) : knots.get(knots.size() - 1);
    Knot end = before ? from : to;
    if (end.jumps()) {
      return 0;
    }
    return switch (from.next()) {
      case CURVE -> before ? from.afterSlope() : to.beforeSlope();
      case LINEAR -> (to.before() - from.value()) / (to.time() - from.time());
      default -> 0;
    };
  }

  private double within(double code) {
    int low = 0;
    int high = knots.size() - 1;
    while (low < high) {
      int middle = (low + high + 1) >>> 1;
      if (knots.get(middle).time() <= code) {
        low = middle;
      } else {
        high = middle - 1;
      }
    }
    Knot from = knots.get(low);
    if (code == from.time() || low == knots.size() - 1) {
      return from.next() == Segment.NONE && low < knots.size() - 1 ? Double.NaN : from.value();
    }
    Knot to = knots.get(low + 1);
    double length = to.time() - from.time();
    return switch (from.next()) {
      case NONE -> Double.NaN;
      case HELD -> from.value();
      case LINEAR -> from.value() + (to.before() - from.value()) * (code - from.time()) / length;
      case CURVE ->
          spline.hermite()
              ? hermite(from, to, (code - from.time()) / length)
              : bezier(from, to, (code - from.time()) / length);
    };
  }

  private static double hermite(Knot from, Knot to, double u) {
    double length = to.time() - from.time();
    double u2 = u * u;
    double u3 = u2 * u;
    return (2 * u3 - 3 * u2 + 1) * from.value()
        + (u3 - 2 * u2 + u) * length * from.afterSlope()
        + (3 * u2 - 2 * u3) * to.before()
        + (u3 - u2) * length * to.beforeSlope();
  }

  /**
   * @param u how far between both times, 0 to 1
   */
  private static double bezier(Knot from, Knot to, double u) {
    double length = to.time() - from.time();
    double out = Math.max(0, from.afterWidth() / length);
    double in = Math.max(0, to.beforeWidth() / length);
    // Time runs back where out + in − 1 is more than √(out · in).
    if (out + in - 1 > Math.sqrt(out * in)) {
      boolean larger = out >= in;
      double ratio = larger ? in / out : out / in;
      double width = 1 / (1 + ratio - Math.sqrt(ratio));
      out = larger ? width : width * ratio;
      in = larger ? width * ratio : width;
    }
    double t = BezierTime.solve(u, out, 1 - in);
    double second = from.value() + from.afterSlope() * out * length;
    double third = to.before() - to.beforeSlope() * in * length;
    return BezierTime.value(t, from.value(), second, third, to.before());
  }
}
