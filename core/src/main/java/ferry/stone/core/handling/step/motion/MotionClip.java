package ferry.stone.core.handling.step.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;

/** Where tracks go that a step makes of a cache. */
final class MotionClip {
  private MotionClip() {}

  /**
   * The clips with more motion: the one clip that is there takes it, since it is played with the
   * caches; else it gets a clip of its own.
   *
   * @param id of a new clip
   * @param placed nodes whose places these tracks say anew
   * @param caches that it was
   */
  static List<Clip> joined(
      Scene scene,
      int id,
      List<Clip.Track> tracks,
      Set<Integer> placed,
      Collection<PointCache> caches) {
    double start = caches.stream().mapToDouble(PointCache::startSeconds).min().orElseThrow();
    double end = caches.stream().mapToDouble(PointCache::endSeconds).max().orElseThrow();
    List<Clip> clips = new ArrayList<>(scene.clips());
    if (clips.size() != 1) {
      clips.add(new Clip(id, scene.name(), start, end, tracks));
      return clips;
    }
    Clip clip = clips.get(0);
    List<Clip.Track> all = new ArrayList<>();
    for (Clip.Track track : clip.tracks()) {
      if (!placed.contains(track.targetId()) || !track.isTransform()) {
        all.add(track);
      }
    }
    all.addAll(tracks);
    clips.set(
        0,
        new Clip(
            clip.id(),
            clip.name(),
            Math.min(start, clip.startSeconds()),
            Math.max(end, clip.endSeconds()),
            all,
            List.of(),
            clip.words()));
    return clips;
  }
}
