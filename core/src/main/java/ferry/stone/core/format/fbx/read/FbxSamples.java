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

  private FbxSamples() {}

  /**
   * A track of samples, without those that the line between their neighbours gives.
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
    DoubleList keptTimes = new DoubleList(16);
    DoubleList kept = new DoubleList(64);
    int last = -1;
    for (int s = 0; s < times.length; s++) {
      Cancel.point();
      boolean end = s == 0 || s == times.length - 1;
      if (end || !straight(times, samples, width, from, components, last, s)) {
        keptTimes.add(times[s]);
        for (int c = 0; c < components; c++) {
          kept.add(samples[width * s + from + c]);
        }
        last = s;
      }
    }
    return new Track(
        node,
        property,
        Interpolation.LINEAR,
        components,
        keptTimes.toArray(),
        kept.toArray(),
        null,
        null);
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
