package ferry.stone.core.format.motion;

import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Samples;
import java.util.List;

/** The one clip of a file that has one time line: it holds the motion of all. */
public final class FileClip {
  private FileClip() {}

  /** Adds it to a scene where anything moves, as {@link #of} has it. */
  public static void add(
      SceneBuilder scene,
      String name,
      List<Clip.Track> tracks,
      List<Clip.Keys> keys,
      List<Clip.Words> words,
      List<Samples> samples,
      double[] range) {
    if (!tracks.isEmpty() || !words.isEmpty()) {
      scene.add(of(scene.newId(), name, tracks, keys, words, samples, range));
    }
  }

  /**
   * It, {@code null} where nothing moves; caches are played with it.
   *
   * @param range first and last second where the file says them, else {@code null}
   */
  public static Clip of(
      int id,
      String name,
      List<Clip.Track> tracks,
      List<Clip.Keys> keys,
      List<Clip.Words> words,
      List<Samples> samples,
      double[] range) {
    if (tracks.isEmpty() && words.isEmpty()) {
      return null;
    }
    double start = Double.POSITIVE_INFINITY;
    double end = Double.NEGATIVE_INFINITY;
    for (Clip.Track track : tracks) {
      start = Math.min(start, track.timesSeconds()[0]);
      end = Math.max(end, track.timesSeconds()[track.timesSeconds().length - 1]);
    }
    for (Clip.Words each : words) {
      start = Math.min(start, each.timesSeconds()[0]);
      end = Math.max(end, each.timesSeconds()[each.timesSeconds().length - 1]);
    }
    for (Samples each : samples) {
      start = Math.min(start, each.startSeconds());
      end = Math.max(end, each.endSeconds());
    }
    if (range != null) {
      start = range[0];
      end = range[1];
    }
    return new Clip(id, name, start, end, tracks, keys, words);
  }
}
