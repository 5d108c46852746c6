package ferry.stone.core.format.usd.write.shape;

import ferry.stone.core.motion.Curves;
import ferry.stone.core.scene.time.Clip;
import java.util.List;
import java.util.TreeSet;

/**
 * Moments at which several tracks together need a value: the keys of all, and the moment before
 * where one of them jumps.
 *
 * @param seconds rising
 */
public record Keys(double[] seconds) {
  private static final double JUMP = 1e-5;
  private static final int WIDEST = 4;

  /**
   * @param tracks {@code null} for values that rest
   */
  public static Keys of(List<Clip.Track> tracks) {
    TreeSet<Double> moments = new TreeSet<>();
    for (Clip.Track track : tracks) {
      if (track == null) {
        continue;
      }
      for (int k = 0; k < track.timesSeconds().length; k++) {
        double at = track.timesSeconds()[k];
        moments.add(at);
        if (k > 0 && track.interpolation() == Clip.Interpolation.STEP) {
          moments.add(at - JUMP);
        }
      }
    }
    return new Keys(moments.stream().mapToDouble(Double::doubleValue).toArray());
  }

  /** The numbers of a track at one of the moments. */
  public double[] at(Clip.Track track, int moment, double[] rest) {
    if (track == null) {
      return rest;
    }
    double[] all = new double[Math.max(WIDEST, track.components())];
    Curves.sample(track, seconds[moment], all);
    return all;
  }
}
