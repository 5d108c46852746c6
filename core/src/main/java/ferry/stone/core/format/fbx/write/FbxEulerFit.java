package ferry.stone.core.format.fbx.write;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.motion.Curves;
import ferry.stone.core.motion.NearestAngles;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.scene.time.KeyCurve;
import ferry.stone.core.work.Cancel;
import java.util.Arrays;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Turns a track of quaternions into three curves of angles. Each span between keys becomes a line
 * where that is within the tolerance, else a cubic with the slopes of the motion, else two spans.
 */
final class FbxEulerFit {
  /** Angles in degrees that differ by less are the same: one key is enough. */
  private static final double STILL = 1e-9;

  private static final int DEEPEST = 12;
  private static final int CHECKS = 4;

  /** Part of a span over which slopes are measured. */
  private static final double SLOPE_STEP = 1e-4;

  private final Track track;
  private final EulerOrder order;
  private final Quaterniond before;
  private final Quaterniond after;
  private final double tolerance;
  private final DoubleList times = new DoubleList(64);
  private final DoubleList[] values = {new DoubleList(64), new DoubleList(64), new DoubleList(64)};
  private final DoubleList modes = new DoubleList(64);
  private final DoubleList[] right = {new DoubleList(64), new DoubleList(64), new DoubleList(64)};
  private final DoubleList[] left = {new DoubleList(64), new DoubleList(64), new DoubleList(64)};
  private final double[] sample = new double[4];

  private FbxEulerFit(
      Track track, EulerOrder order, Quaterniond before, Quaterniond after, double tolerance) {
    this.track = track;
    this.order = order;
    this.before = before;
    this.after = after;
    this.tolerance = tolerance;
  }

  /**
   * Curves about x, y and z in degrees.
   *
   * @param before turns the track's rotation from the left
   * @param after turns it from the right
   * @param tolerance in radians
   */
  static KeyCurve[] fit(
      Track track, EulerOrder order, Quaterniond before, Quaterniond after, double tolerance) {
    return new FbxEulerFit(track, order, before, after, tolerance).run();
  }

  private KeyCurve[] run() {
    double[] keys = track.timesSeconds();
    Vector3d angles = order.degrees(at(keys[0]));
    if (track.interpolation() == Interpolation.STEP) {
      for (double t : keys) {
        angles = NearestAngles.of(order, at(t), angles);
        add(t, angles, KeyCurve.HOLD, new Vector3d(), new Vector3d());
      }
      return curves();
    }
    for (int k = 0; k + 1 < keys.length; k++) {
      Cancel.point();
      if (keys[k + 1] > keys[k]) {
        angles = span(keys[k], angles, keys[k + 1], DEEPEST);
      }
    }
    add(keys[keys.length - 1], angles, KeyCurve.LINE, new Vector3d(), new Vector3d());
    return curves();
  }

  private Quaterniond at(double t) {
    Curves.sample(track, t, sample);
    return new Quaterniond(before)
        .mul(new Quaterniond(sample[0], sample[1], sample[2], sample[3]))
        .mul(after)
        .normalize();
  }

  /** Adds the keys of a span but its last one, whose angles it gives. */
  private Vector3d span(double from, Vector3d a, double to, int depth) {
    Vector3d b = NearestAngles.of(order, at(to), a);
    Vector3d none = new Vector3d();
    if (fits(from, a, to, b, null, null)) {
      add(from, a, KeyCurve.LINE, none, none);
      return b;
    }
    double h = SLOPE_STEP * (to - from);
    Vector3d leaving = NearestAngles.of(order, at(from + h), a).sub(a).div(h);
    Vector3d reaching = new Vector3d(b).sub(NearestAngles.of(order, at(to - h), b)).div(h);
    if (depth == 0 || fits(from, a, to, b, leaving, reaching)) {
      add(from, a, KeyCurve.CURVE, leaving, reaching);
      return b;
    }
    double middle = (from + to) / 2;
    return span(middle, span(from, a, middle, depth - 1), to, depth - 1);
  }

  private boolean fits(
      double from, Vector3d a, double to, Vector3d b, Vector3d leaving, Vector3d reaching) {
    Vector3d played = new Vector3d();
    for (int i = 1; i < CHECKS; i++) {
      double p = (double) i / CHECKS;
      double span = to - from;
      for (int c = 0; c < 3; c++) {
        double v = a.get(c) + p * (b.get(c) - a.get(c));
        if (leaving != null) {
          double p2 = p * p;
          double p3 = p2 * p;
          v =
              (2 * p3 - 3 * p2 + 1) * a.get(c)
                  + span * (p3 - 2 * p2 + p) * leaving.get(c)
                  + (3 * p2 - 2 * p3) * b.get(c)
                  + span * (p3 - p2) * reaching.get(c);
        }
        played.setComponent(c, v);
      }
      Quaterniond wanted = at(from + p * span);
      Quaterniond q = order.quaternion(played);
      double x = wanted.conjugate().mul(q).normalize().w;
      double sine = Math.sqrt(Math.max(0, 1 - x * x));
      if (2 * sine > tolerance) {
        return false;
      }
    }
    return true;
  }

  private void add(double t, Vector3d angles, byte mode, Vector3d leaving, Vector3d reaching) {
    times.add(t);
    modes.add(mode);
    for (int c = 0; c < 3; c++) {
      values[c].add(angles.get(c));
      right[c].add(leaving.get(c));
      left[c].add(reaching.get(c));
    }
  }

  private static boolean stands(double[] values) {
    for (double v : values) {
      if (Math.abs(v - values[0]) > STILL) {
        return false;
      }
    }
    return true;
  }

  private KeyCurve[] curves() {
    KeyCurve[] curves = new KeyCurve[3];
    double[] seconds = times.toArray();
    for (int c = 0; c < 3; c++) {
      double[] angles = values[c].toArray();
      if (stands(angles)) {
        curves[c] = KeyCurve.of(new double[] {seconds[0]}, new double[] {angles[0]});
        continue;
      }
      curves[c] = KeyCurve.of(seconds, angles);
      Arrays.fill(curves[c].modes(), KeyCurve.LINE);
      for (int k = 0; k < seconds.length; k++) {
        curves[c].modes()[k] = (byte) modes.get(k);
        curves[c].rightSlopes()[k] = (float) right[c].get(k);
        curves[c].nextLeftSlopes()[k] = (float) left[c].get(k);
      }
    }
    return curves;
  }
}
