package ferry.stone.core.format.fbx.read;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.work.Cancel;

/** Makes tracks of samples. */
final class FbxSamples {
  /** Samples that lie nearer to the line between their neighbours are left out. */
  private static final double STRAIGHT = 1e-7;

  private static final int LONGEST_RUN = 64;
  private static final int BETWEEN_CANCEL_POINTS = 256;

  private FbxSamples() {}

  /**
   * A track of samples, without those that the line between their neighbours gives; of the very
   * arrays where all are needed.
   *
   * @param samples {@code double[width*t]}
   * @param from place of the first number in a sample
   */
  static Track track(
      int node,
      String property,
      double[] times,
      double[] samples,
      int width,
      int from,
      int components) {
    int first = firstStraight(times, samples, width, from, components);
    if (first == times.length && width == components) {
      return linear(node, property, components, times, samples);
    }
    DoubleList keptTimes = new DoubleList(times.length);
    DoubleList kept = new DoubleList(components * times.length);
    for (int s = 0; s < first; s++) {
      keptTimes.add(times[s]);
      kept.addAll(samples, width * s + from, components);
    }
    int last = first - 1;
    for (int s = first; s < times.length; s++) {
      if (s % BETWEEN_CANCEL_POINTS == 0) {
        Cancel.point();
      }
      boolean end = s == times.length - 1;
      if (end || !straight(times, samples, width, from, components, last, s)) {
        keptTimes.add(times[s]);
        kept.addAll(samples, width * s + from, components);
        last = s;
      }
    }
    return linear(node, property, components, keptTimes.toArray(), kept.toArray());
  }

  private static Track linear(
      int node, String property, int components, double[] times, double[] values) {
    return new Track(node, property, Interpolation.LINEAR, components, times, values, null, null);
  }

  /** The first sample that lies between its neighbours; as many as there are where none does. */
  private static int firstStraight(
      double[] times, double[] samples, int width, int from, int components) {
    for (int s = 1; s < times.length - 1; s++) {
      if (s % BETWEEN_CANCEL_POINTS == 0) {
        Cancel.point();
      }
      if (straight(times, samples, width, from, components, s - 1, s)) {
        return s;
      }
    }
    return times.length;
  }

  /** Whether everything between the last kept sample and the next one lies on their line. */
  private static boolean straight(
      double[] times, double[] samples, int width, int from, int components, int last, int s) {
    // A long straight run is cut now and then, so that all of it was looked at.
    if (s - last >= LONGEST_RUN) {
      return false;
    }
    double span = times[s + 1] - times[last];
    for (int c = 0; c < components; c++) {
      double a = samples[width * last + from + c];
      double b = samples[width * (s + 1) + from + c];
      double size = Math.max(1, Math.max(Math.abs(a), Math.abs(b)));
      for (int i = last + 1; i <= s; i++) {
        double line = a + (b - a) * (times[i] - times[last]) / span;
        if (Math.abs(samples[width * i + from + c] - line) > STRAIGHT * size) {
          return false;
        }
      }
    }
    return true;
  }
}
