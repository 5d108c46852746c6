package ferry.stone.core.motion;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.function.DoubleUnaryOperator;

/** Tracks whose values go through a function. */
public final class TrackValues {
  /** Pieces of a span between keys, where values go through something that is no line. */
  private static final int PIECES = 16;

  private TrackValues() {}

  /** Steps stay steps; other motion is sampled between its keys and becomes lines. */
  public static Track through(Track track, DoubleUnaryOperator function) {
    double[] keys = track.timesSeconds();
    boolean steps = track.interpolation() == Interpolation.STEP;
    DoubleList times = new DoubleList(keys.length);
    for (int k = 0; k < keys.length; k++) {
      times.add(keys[k]);
      for (int i = 1; !steps && k + 1 < keys.length && i < PIECES; i++) {
        times.add(keys[k] + (keys[k + 1] - keys[k]) * i / PIECES);
      }
    }
    int n = track.components();
    double[] seconds = times.toArray();
    double[] values = new double[n * seconds.length];
    double[] sample = new double[Math.max(4, n)];
    for (int i = 0; i < seconds.length; i++) {
      Curves.sample(track, seconds[i], sample);
      for (int c = 0; c < n; c++) {
        // The fourth number of a colour is opacity, which is always linear.
        values[n * i + c] = c < 3 ? function.applyAsDouble(sample[c]) : sample[c];
      }
    }
    return new Track(
        track.targetId(),
        track.property(),
        steps ? Interpolation.STEP : Interpolation.LINEAR,
        n,
        seconds,
        values,
        null,
        null);
  }
}
