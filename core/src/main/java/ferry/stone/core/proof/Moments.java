package ferry.stone.core.proof;

import ferry.stone.core.scene.time.Clip;
import java.util.Arrays;

/**
 * At which moments two motions are compared: at every key, and halfway between keys, where readers
 * that join them otherwise differ the most; evenly spread ones where those are too many.
 */
final class Moments {
  /** However short a clip is and however few its keys are. */
  private static final int LEAST = 9;

  private static final int MOST = 1200;

  /** Vertices that are placed for one clip, over all moments. */
  private static final long WORK = 30_000_000;

  private Moments() {}

  /**
   * Rising moments on the clip's own time line, the first its start and the last its end.
   *
   * @param vertices that are placed at each moment
   */
  static double[] of(Clip clip, long vertices) {
    int most = (int) Math.max(LEAST, Math.min(MOST, WORK / Math.max(1, vertices)));
    double[] keys = keys(clip);
    double[] all = new double[LEAST + 2 * keys.length];
    double length = clip.endSeconds() - clip.startSeconds();
    for (int i = 0; i < LEAST; i++) {
      all[i] = clip.startSeconds() + length * i / (LEAST - 1);
    }
    for (int k = 0; k < keys.length; k++) {
      all[LEAST + 2 * k] = keys[k];
      all[LEAST + 2 * k + 1] = k == 0 ? keys[k] : (keys[k - 1] + keys[k]) / 2;
    }
    double[] moments = distinct(all);
    if (moments.length <= most) {
      return moments;
    }
    double[] fewer = new double[most];
    for (int i = 0; i < most; i++) {
      fewer[i] = moments[(int) ((long) i * (moments.length - 1) / (most - 1))];
    }
    return fewer;
  }

  /** Times of all keys within the clip. */
  private static double[] keys(Clip clip) {
    int count = clip.tracks().stream().mapToInt(t -> t.timesSeconds().length).sum();
    double[] all = new double[count];
    int at = 0;
    for (Clip.Track track : clip.tracks()) {
      for (double time : track.timesSeconds()) {
        if (time >= clip.startSeconds() && time <= clip.endSeconds()) {
          all[at++] = time;
        }
      }
    }
    return distinct(Arrays.copyOf(all, at));
  }

  private static double[] distinct(double[] times) {
    Arrays.sort(times);
    int kept = 0;
    for (double time : times) {
      // Rounded keys of several tracks are one moment.
      if (kept == 0 || time - times[kept - 1] > 1e-6) {
        times[kept++] = time;
      }
    }
    return Arrays.copyOf(times, kept);
  }
}
