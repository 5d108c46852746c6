package ferry.stone.core.format.abc.write;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Samples;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;

/** At which moments what moves is written. */
final class AbcTimes {
  /** Most samples of one part: some six hours at 48 a second. */
  private static final int MOST = 1 << 20;

  private static final double SAME = 1e-6;

  /** How much farther apart keys may be than frames, to be taken for samples. */
  private static final double LOOSE = 1.5;

  private final AbcOptions options;
  private final double rate;

  AbcTimes(Scene scene, AbcOptions options) {
    this.options = options;
    rate = options.rate() > 0 ? options.rate() : Caches.rate(scene);
  }

  double rate() {
    return rate;
  }

  private boolean isInside(double seconds) {
    return seconds >= options.from() - SAME || options.from() == 0
        ? options.to() <= 0 || seconds <= options.to() + SAME
        : false;
  }

  /** Frames of a span, cut to the range that was chosen; at least one. */
  double[] frames(double start, double end) {
    double first = options.from() == 0 ? start : Math.max(start, options.from());
    double last = options.to() <= 0 ? end : Math.min(end, options.to());
    int count = (int) Math.min(MOST, Math.floor(Math.max(0, last - first) * rate + SAME) + 1);
    double[] times = new double[count];
    for (int s = 0; s < count; s++) {
      times[s] = first + s / rate;
    }
    return times;
  }

  /** Which samples of the source are written as they are; at least one. */
  int[] own(Samples samples) {
    int[] inside =
        IntStream.range(0, samples.sampleCount())
            .filter(s -> isInside(samples.timeSeconds(s)))
            .toArray();
    return inside.length > 0 ? inside : new int[] {samples.sampleAt(options.from())};
  }

  static double[] seconds(Samples samples, int[] of) {
    return Arrays.stream(of).mapToDouble(samples::timeSeconds).toArray();
  }

  boolean asTheSource() {
    return options.rate() == 0;
  }

  /**
   * Moments of what moves a node: its own keys where they are samples already, frames of the clip
   * else.
   */
  double[] of(Clip clip, List<Clip.Track> tracks) {
    double[] keys = tracks.get(0).timesSeconds();
    boolean sampled = asTheSource() && keys.length > 1;
    for (Clip.Track track : tracks) {
      sampled &=
          track.interpolation() == Clip.Interpolation.LINEAR
              && Arrays.equals(track.timesSeconds(), keys);
    }
    for (int k = 1; sampled && k < keys.length; k++) {
      sampled = keys[k] - keys[k - 1] <= LOOSE / rate && keys[k] > keys[k - 1];
    }
    return sampled ? inside(keys) : frames(clip.startSeconds(), clip.endSeconds());
  }

  /** Moments of a value that jumps: its own, from the one that holds at the start of the range. */
  double[] inside(double[] keys) {
    DoubleList inside = new DoubleList(keys.length);
    double before = Double.NaN;
    for (double key : keys) {
      if (isInside(key)) {
        inside.add(key);
      } else if (inside.size() == 0 && key < options.from()) {
        before = key;
      }
    }
    if (inside.size() == 0) {
      return new double[] {Double.isNaN(before) ? keys[0] : options.from()};
    }
    boolean late = options.from() != 0 && inside.get(0) > options.from() + SAME;
    if (late && !Double.isNaN(before)) {
      DoubleList all = new DoubleList(inside.size() + 1);
      all.add(options.from());
      for (double key : inside.toArray()) {
        all.add(key);
      }
      return all.toArray();
    }
    return inside.toArray();
  }
}
