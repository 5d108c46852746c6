package ferry.stone.core.format.fbx.read;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.scene.time.KeyCurve;
import ferry.stone.core.work.Cancel;
import java.util.ArrayList;
import java.util.List;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * The motion of one part whose place in its parent is its own transform. Translations and scales
 * keep their keys where pivots do not bend them; rotations are sampled, as densely as the motion
 * between needs it.
 */
final class FbxPartMotion {
  private static final int DEEPEST = 6;
  private static final double CLOSEST = 1e-5;
  private static final int MOST_SAMPLES = 1_000_000;
  private static final int WIDTH = 7;

  /** Where in a row the quaternion begins. */
  private static final int TURN = 3;

  private static final int BETWEEN_CANCEL_POINTS = 64;

  /** Degrees below which two quaternions are played the way that they were turned. */
  private static final double EVEN = 90;

  private final PivotTransform rest;
  private final FbxMotion.Value[] values;
  private final Quaterniond pre;
  private final Quaterniond post;
  private final boolean bends;
  private final boolean turned;
  private final boolean pivoted;
  private final double tolerance;

  /** The only axis about which it turns, evenly between keys; −1 for any other motion. */
  private final int axis;

  private final Quaterniond turn = new Quaterniond();
  private final Vector3d angles = new Vector3d();
  private final Vector3d arm = new Vector3d();

  /**
   * @param values of translation, rotation and scale, {@code null} for those that stand still
   * @param tolerance how far sampled places may be off, in scene units
   */
  FbxPartMotion(PivotTransform rest, FbxMotion.Value[] values, double tolerance) {
    this.tolerance = tolerance;
    this.rest = rest;
    this.values = values;
    pre = EulerOrder.XYZ.quaternion(rest.preRotation());
    post = EulerOrder.XYZ.quaternion(rest.postRotation()).invert();
    boolean turns = values[1] != null || values[2] != null;
    double pivots =
        rest.rotationPivot().lengthSquared()
            + rest.scalingOffset().lengthSquared()
            + rest.scalingPivot().lengthSquared();
    pivoted = pivots > 0;
    turned = !rest.preRotation().equals(0, 0, 0) || !rest.postRotation().equals(0, 0, 0);
    bends = turns && pivoted;
    axis = values[1] == null ? -1 : evenAxis(values[1].curves());
  }

  private static int evenAxis(KeyCurve[] curves) {
    int axis = -1;
    for (int c = 0; curves != null && c < curves.length; c++) {
      if (curves[c] != null && curves[c].seconds().length > 1) {
        if (axis >= 0 || !curves[c].all(KeyCurve.LINE)) {
          return -1;
        }
        axis = c;
      }
    }
    return axis;
  }

  private double at(int value, int component, double t) {
    if (values[value] != null) {
      return values[value].at(component, t);
    }
    return switch (value) {
      case 0 -> rest.translation().get(component);
      case 1 -> rest.rotation().get(component);
      default -> rest.scaling().get(component);
    };
  }

  /** The part's transform at a time, with its pivots. */
  PivotTransform own(double t) {
    return rest.with(
        new Vector3d(at(0, 0, t), at(0, 1, t), at(0, 2, t)),
        new Vector3d(at(1, 0, t), at(1, 1, t), at(1, 2, t)),
        new Vector3d(at(2, 0, t), at(2, 1, t), at(2, 2, t)));
  }

  /**
   * Its tracks.
   *
   * @param times moments to look at: keys and frames
   */
  List<Track> tracks(int node, double[] times) {
    List<Track> tracks = new ArrayList<>();
    KeyCurve[] direct = values[0] == null || bends ? null : values[0].curves();
    boolean sampledPlace = bends || values[0] != null && direct == null;
    if (direct != null) {
      tracks.add(translation(node, direct, times));
    }
    KeyCurve[] scales = values[2] == null ? null : values[2].curves();
    boolean turns = values[1] != null || values[2] != null;
    if (sampledPlace || turns) {
      sample(node, times, sampledPlace, turns, values[2] != null && scales == null, tracks);
    }
    if (turns && (values[2] == null || scales != null)) {
      KeyCurve[] curves = scales == null ? new KeyCurve[3] : scales;
      double[] still = {rest.scaling().x(), rest.scaling().y(), rest.scaling().z()};
      tracks.add(
          scales == null
              ? constant(node, Clip.SCALE, times[0], still)
              : FbxTracks.of(node, Clip.SCALE, curves, still, 1));
    }
    return tracks;
  }

  private static Track constant(int node, String property, double time, double[] value) {
    return new Track(
        node, property, Interpolation.LINEAR, value.length, new double[] {time}, value, null, null);
  }

  /** Without turning, the pivots shift the part by the same all the time. */
  private Track translation(int node, KeyCurve[] curves, double[] times) {
    double[] row = new double[WIDTH];
    row(times[0], row, true);
    KeyCurve[] moved = new KeyCurve[3];
    double[] still = new double[3];
    for (int c = 0; c < 3; c++) {
      double shift = row[c] - at(0, c, times[0]);
      still[c] = rest.translation().get(c) + shift;
      moved[c] = curves[c] == null ? null : curves[c].mapped(1, shift);
    }
    return FbxTracks.of(node, Clip.TRANSLATION, moved, still, 1, tolerance);
  }

  /**
   * Translation and quaternion at a time.
   *
   * @param placed whether the translation is asked for
   */
  private void row(double t, double[] row, boolean placed) {
    angles.set(at(1, 0, t), at(1, 1, t), at(1, 2, t));
    rest.order().quaternion(angles, turn);
    if (turned) {
      pre.mul(turn, turn).mul(post);
    }
    if (!placed) {
      // Only the turn is asked for.
    } else if (!pivoted) {
      for (int c = 0; c < 3; c++) {
        row[c] = at(0, c, t) + rest.rotationOffset().get(c);
      }
    } else {
      arm.set(rest.scalingOffset()).sub(rest.rotationPivot()).add(rest.scalingPivot());
      for (int c = 0; c < 3; c++) {
        double pivot = rest.scalingPivot().get(c);
        arm.setComponent(c, arm.get(c) - pivot * (pivot == 0 ? 0 : at(2, c, t)));
      }
      turn.transform(arm);
      for (int c = 0; c < 3; c++) {
        row[c] =
            at(0, c, t) + rest.rotationOffset().get(c) + rest.rotationPivot().get(c) + arm.get(c);
      }
    }
    row[3] = turn.x;
    row[4] = turn.y;
    row[5] = turn.z;
    row[6] = turn.w;
  }

  private void sample(
      int node, double[] times, boolean place, boolean turns, boolean scales, List<Track> tracks) {
    // Without samples between them they are the moments themselves.
    int room = place || axis < 0 ? 2 * times.length : times.length;
    DoubleList seconds = new DoubleList(room);
    int width = place ? WIDTH : WIDTH - TURN;
    DoubleList rows = new DoubleList(width * room);
    double[] a = new double[WIDTH];
    double[] b = new double[WIDTH];
    row(times[0], a, place);
    double angle = angle();
    add(seconds, rows, times[0], a, place);
    for (int i = 0; i + 1 < times.length; i++) {
      if (i % BETWEEN_CANCEL_POINTS == 0) {
        Cancel.point();
      }
      row(times[i + 1], b, place);
      keepSide(a, b);
      double reached = angle();
      if (place || axis < 0 || Math.abs(reached - angle) >= EVEN) {
        span(times[i], a, times[i + 1], b, DEEPEST, place, seconds, rows);
      }
      angle = reached;
      add(seconds, rows, times[i + 1], b, place);
      double[] free = a;
      a = b;
      b = free;
    }
    double[] all = seconds.size() == times.length ? times : seconds.toArray();
    double[] samples = rows.toArray();
    if (place) {
      tracks.add(FbxSamples.track(node, Clip.TRANSLATION, all, samples, width, 0, 3));
    }
    if (turns) {
      tracks.add(FbxSamples.track(node, Clip.ROTATION, all, samples, width, width - 4, 4));
    }
    if (scales) {
      double[] s = new double[3 * all.length];
      for (int i = 0; i < s.length; i++) {
        s[i] = at(2, i % 3, all[i / 3]);
      }
      tracks.add(FbxSamples.track(node, Clip.SCALE, all, s, 3, 0, 3));
    }
  }

  /** About the only axis, at the moment of the last row. */
  private double angle() {
    return axis < 0 ? 0 : angles.get(axis);
  }

  private static void add(
      DoubleList seconds, DoubleList rows, double t, double[] row, boolean place) {
    seconds.add(t);
    int from = place ? 0 : TURN;
    rows.addAll(row, from, WIDTH - from);
  }

  /** Halves a span until what lies in its middle is what is played there. */
  private void span(
      double from,
      double[] a,
      double to,
      double[] b,
      int depth,
      boolean place,
      DoubleList seconds,
      DoubleList rows) {
    if (depth == 0 || to - from < CLOSEST || seconds.size() > MOST_SAMPLES) {
      return;
    }
    double t = (from + to) / 2;
    double[] middle = new double[WIDTH];
    row(t, middle, place);
    keepSide(a, middle);
    if (played(a, b, middle, place)) {
      return;
    }
    span(from, a, t, middle, depth - 1, place, seconds, rows);
    add(seconds, rows, t, middle, place);
    span(t, middle, to, b, depth - 1, place, seconds, rows);
  }

  /** A quaternion and its opposite turn alike: the second takes the side of the first. */
  private static void keepSide(double[] a, double[] b) {
    if (a[3] * b[3] + a[4] * b[4] + a[5] * b[5] + a[6] * b[6] < 0) {
      for (int k = 3; k < WIDTH; k++) {
        b[k] = -b[k];
      }
    }
  }

  private boolean played(double[] a, double[] b, double[] middle, boolean place) {
    for (int k = 0; k < 3 && place; k++) {
      if (Math.abs((a[k] + b[k]) / 2 - middle[k]) > tolerance) {
        return false;
      }
    }
    // Half way between two unit quaternions lies their sum.
    double length = 0;
    double dot = 0;
    for (int k = 3; k < WIDTH; k++) {
      double sum = a[k] + b[k];
      length += sum * sum;
      dot += sum * middle[k];
    }
    // 1 minus the cosine of half an angle is an eighth of its square.
    double off = 1 - Math.abs(dot) / Math.sqrt(length);
    return off <= FbxTracks.BETWEEN * FbxTracks.BETWEEN / 8;
  }
}
