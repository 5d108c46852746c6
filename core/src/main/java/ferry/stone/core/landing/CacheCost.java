package ferry.stone.core.landing;

import ferry.stone.core.finding.Offer;
import ferry.stone.core.geometry.cache.RigidFit;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.ResampledCache;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * What playing the caches of a scene takes, against cheaper forms: positions are counted as three
 * floats of four bytes, without what a format adds to them.
 *
 * @param caches how many; 0 without any form
 * @param bytes of all their positions
 * @param bytesPerSecond that a destination must decode while they play
 * @param forms that are cheaper, or that other formats hold
 */
public record CacheCost(int caches, long bytes, double bytesPerSecond, List<Form> forms) {
  private static final int POINT = 12;

  /** Place, turn and time of a key of a moving part. */
  private static final int KEY = 4 * (3 + 4 + 1);

  /** Position and normal of a vertex in a morph target. */
  private static final int TARGET = 24;

  /** A key of a weight. */
  private static final int WEIGHT = 8;

  /** Moments at which a cache is looked at; a step measures all samples. */
  private static final int MOMENTS = 9;

  /** Metres that a point of a stiff thing may be off. */
  private static final double STIFF = 0.0005;

  /**
   * Another form of the same motion.
   *
   * @param label what it is
   * @param how what it takes and what it costs, in words
   * @param bytes that it takes
   */
  public record Form(String label, String how, long bytes, Offer offer) {}

  static CacheCost of(Scene scene) {
    if (scene.caches().isEmpty()) {
      return new CacheCost(0, 0, 0, List.of());
    }
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    long bytes = 0;
    double perSecond = 0;
    long targets = 0;
    long halved = 0;
    double rate = 0;
    List<PointCache> stiff = new ArrayList<>();
    for (PointCache cache : scene.caches()) {
      long own = (long) POINT * cache.pointCount() * cache.sampleCount();
      double seconds = cache.endSeconds() - cache.startSeconds();
      bytes += own;
      halved += (long) POINT * cache.pointCount() * ((cache.sampleCount() + 1) / 2);
      perSecond += seconds > 0 ? own / seconds : 0;
      rate = Math.max(rate, seconds > 0 ? (cache.sampleCount() - 1) / seconds : 0);
      targets += (long) cache.sampleCount() * ((long) TARGET * cache.pointCount() + 3 * WEIGHT);
      if (isStiff(scene, meshes.get(cache.meshId()), cache)) {
        stiff.add(cache);
      }
    }
    List<Form> forms = new ArrayList<>();
    if (!stiff.isEmpty()) {
      forms.add(asParts(scene, stiff));
    }
    if (rate >= 2) {
      double half = Math.max(1, Math.round(rate / 2));
      forms.add(
          new Form(
              "Half the samples",
              String.format(Locale.ROOT, "%.0f a second; straight between them.", half),
              halved,
              Offer.step("Sample anew", "timeResample", Map.of("rate", half)).asking()));
    }
    forms.add(
        new Form(
            "A morph target a sample",
            "Held by formats without caches; all of it is in memory while it plays.",
            targets,
            Offer.step("Make targets", "cacheToMorphs", Map.of()).asking()));
    return new CacheCost(scene.caches().size(), bytes, perSecond, forms);
  }

  private static Form asParts(Scene scene, List<PointCache> stiff) {
    long keys = 0;
    List<Integer> nodes = new ArrayList<>();
    for (PointCache cache : stiff) {
      keys += cache.sampleCount();
      for (Node node : scene.nodes()) {
        if (node.content() instanceof Node.Content.MeshContent content
            && content.meshId() == cache.meshId()) {
          nodes.add(node.id());
        }
      }
    }
    return new Form(
        "Stiff ones as moving parts",
        Figures.count(stiff.size(), "cache")
            + " of "
            + Figures.count(scene.caches().size())
            + " only move and turn their points, within 0.5 mm at the moments looked at.",
        KEY * keys,
        Offer.step("Move the parts", "cacheToNodes", Map.of()).on(nodes).asking());
  }

  private static boolean isStiff(Scene scene, PolygonMesh mesh, PointCache cache) {
    if (mesh == null || mesh.points().count() != cache.pointCount() || cache.pointCount() == 0) {
      return false;
    }
    double[] moments = new double[Math.min(MOMENTS, cache.sampleCount())];
    for (int i = 0; i < moments.length; i++) {
      double part = moments.length == 1 ? 0 : (double) i / (moments.length - 1);
      moments[i] = cache.timeSeconds((int) Math.round(part * (cache.sampleCount() - 1)));
    }
    try {
      double most = STIFF / scene.frame().metresPerUnit();
      return RigidFit.of(new ResampledCache(cache, moments, moments), mesh.points(), most) != null;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
