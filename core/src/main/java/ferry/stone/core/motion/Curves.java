package ferry.stone.core.motion;

import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.Arrays;

/**
 * Values of tracks between their keys, after glTF 2.0 appendix C: step, linear, spherical linear
 * for quaternions, and cubic Hermite with slopes. Before the first key the first value holds, after
 * the last the last.
 */
public final class Curves {
  /** Above this cosine two quaternions are blended linearly: the sine would vanish. */
  private static final double NEARLY_SAME = 1 - 1e-10;

  private Curves() {}

  /**
   * The value at a time, into the first {@code components} places of {@code out}. Rotations come
   * out at length 1.
   */
  public static void sample(Track track, double seconds, double[] out) {
    double[] times = track.timesSeconds();
    int n = track.components();
    int last = times.length - 1;
    int key = Arrays.binarySearch(times, seconds);
    if (key < 0) {
      key = -key - 2;
    }
    boolean rotation = isRotation(track);
    if (key < 0 || key >= last) {
      System.arraycopy(track.values(), n * Math.max(0, Math.min(last, key)), out, 0, n);
    } else if (track.interpolation() == Clip.Interpolation.STEP) {
      System.arraycopy(track.values(), n * key, out, 0, n);
    } else {
      double span = times[key + 1] - times[key];
      double t = (seconds - times[key]) / span;
      if (track.interpolation() == Clip.Interpolation.CUBIC) {
        hermite(track, key, t, span, out);
      } else if (rotation) {
        slerp(track.values(), n * key, n * (key + 1), t, out);
      } else {
        for (int c = 0; c < n; c++) {
          double a = track.values()[n * key + c];
          out[c] = a + t * (track.values()[n * (key + 1) + c] - a);
        }
      }
    }
    if (rotation) {
      normalise(out);
    }
  }

  /**
   * How fast a track of one component changes at a time, per second.
   *
   * @param before whether the side before the time is meant: they differ at a key
   */
  public static double slope(Track track, double seconds, boolean before) {
    double[] times = track.timesSeconds();
    int last = times.length - 1;
    int key = Arrays.binarySearch(times, seconds);
    boolean atKey = key >= 0;
    key = atKey ? (before ? key - 1 : key) : -key - 2;
    if (key < 0 || key >= last || track.interpolation() == Clip.Interpolation.STEP) {
      return 0;
    }
    double span = times[key + 1] - times[key];
    double a = track.values()[key];
    double b = track.values()[key + 1];
    if (track.interpolation() == Clip.Interpolation.LINEAR) {
      return (b - a) / span;
    }
    double t = (seconds - times[key]) / span;
    double t2 = t * t;
    return (6 * t2 - 6 * t) / span * a
        + (3 * t2 - 4 * t + 1) * track.outSlopes()[key]
        + (6 * t - 6 * t2) / span * b
        + (3 * t2 - 2 * t) * track.inSlopes()[key + 1];
  }

  private static boolean isRotation(Track track) {
    return track.components() == 4 && track.property().equals(Clip.ROTATION);
  }

  private static void hermite(Track track, int key, double t, double span, double[] out) {
    int n = track.components();
    double t2 = t * t;
    double t3 = t2 * t;
    for (int c = 0; c < n; c++) {
      out[c] =
          (2 * t3 - 3 * t2 + 1) * track.values()[n * key + c]
              + span * (t3 - 2 * t2 + t) * track.outSlopes()[n * key + c]
              + (3 * t2 - 2 * t3) * track.values()[n * (key + 1) + c]
              + span * (t3 - t2) * track.inSlopes()[n * (key + 1) + c];
    }
  }

  /** The short way round: Shoemake 1985, "Animating rotation with quaternion curves". */
  private static void slerp(double[] q, int a, int b, double t, double[] out) {
    double dot = 0;
    for (int c = 0; c < 4; c++) {
      dot += q[a + c] * q[b + c];
    }
    double sign = dot < 0 ? -1 : 1;
    dot = Math.min(1, Math.abs(dot));
    double wa = 1 - t;
    double wb = t;
    if (dot < NEARLY_SAME) {
      double angle = Math.acos(dot);
      double sine = Math.sin(angle);
      wa = Math.sin((1 - t) * angle) / sine;
      wb = Math.sin(t * angle) / sine;
    }
    for (int c = 0; c < 4; c++) {
      out[c] = wa * q[a + c] + sign * wb * q[b + c];
    }
  }

  private static void normalise(double[] q) {
    double length = Math.sqrt(q[0] * q[0] + q[1] * q[1] + q[2] * q[2] + q[3] * q[3]);
    if (length > 0) {
      for (int c = 0; c < 4; c++) {
        q[c] /= length;
      }
    } else {
      q[3] = 1;
    }
  }
}
