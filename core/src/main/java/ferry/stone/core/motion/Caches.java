package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.ResampledCache;
import ferry.stone.core.scene.time.Samples;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;

/** Where point caches put the vertices of meshes. */
public final class Caches {
  /** Frames a second of what says nothing of them: common practice, no source. */
  private static final double USUAL_RATE = 30;

  private static final double MOST_RATE = 240;

  private Caches() {}

  /** The cache of a mesh, or {@code null}. */
  public static PointCache of(Scene scene, int meshId) {
    for (PointCache cache : scene.caches()) {
      if (cache.meshId() == meshId) {
        return cache;
      }
    }
    return null;
  }

  /** All that is sampled over time: caches, and meshes that are others over time. */
  public static List<Samples> samples(Scene scene) {
    List<Samples> all = new ArrayList<>(scene.caches());
    all.addAll(scene.sequences());
    return all;
  }

  /**
   * Frames a second by which a scene is played and counted: the source's own rate where it has one.
   */
  public static double rate(Scene scene) {
    List<Samples> sampled = samples(scene);
    if (scene.framesPerSecond() > 0 || sampled.isEmpty()) {
      return scene.framesPerSecond() > 0 ? scene.framesPerSecond() : USUAL_RATE;
    }
    Samples cache = sampled.get(0);
    double seconds = cache.endSeconds() - cache.startSeconds();
    // A cache of one sample, or of samples beyond all measure, has no rate.
    double own = seconds > 0 ? (cache.sampleCount() - 1) / seconds : 0;
    return own >= 1 && own <= MOST_RATE ? Math.round(own * 1000) / 1000.0 : USUAL_RATE;
  }

  /**
   * What can be played: the clips, and each span of caches under the name of its first, with the id
   * of that cache.
   */
  public static List<Clip> timeline(Scene scene) {
    List<Clip> all = new ArrayList<>(scene.clips());
    for (Samples cache : samples(scene)) {
      boolean known =
          all.stream()
              .anyMatch(
                  c ->
                      c.tracks().isEmpty()
                          && c.startSeconds() == cache.startSeconds()
                          && c.endSeconds() == cache.endSeconds());
      if (!known) {
        all.add(
            new Clip(
                cache.id(), cache.name(), cache.startSeconds(), cache.endSeconds(), List.of()));
      }
    }
    return all;
  }

  /**
   * Positions at a moment, between two samples on the line; before the first the first, after the
   * last the last.
   *
   * @param seconds not a number for the rest pose
   * @return {@code double[3*v]}, {@code null} where no cache says it
   */
  static double[] points(Scene scene, PolygonMesh mesh, double seconds) {
    PointCache cache =
        Double.isNaN(seconds) || scene.caches().isEmpty() ? null : of(scene, mesh.id());
    if (cache == null || cache.pointCount() != mesh.points().count()) {
      return null;
    }
    float[] at = new float[3 * cache.pointCount()];
    try {
      sample(cache, seconds, at);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    double[] points = new double[at.length];
    for (int i = 0; i < at.length; i++) {
      points[i] = at[i];
    }
    return points;
  }

  /** Positions at a moment into {@code float[3*v]}. */
  public static void sample(PointCache cache, double seconds, float[] into) throws IOException {
    ResampledCache.between(cache, seconds, 0, cache.pointCount(), into);
  }
}
