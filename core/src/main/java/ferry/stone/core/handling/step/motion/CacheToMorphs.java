package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * A morph target for each sample of a cache, each fully on at its moment and off at those beside
 * it: between two samples the points run straight, as the cache's do. For formats without caches,
 * within a size that a destination can hold.
 */
public final class CacheToMorphs extends BasicStep<CacheToMorphs.Params> {
  private static final double LARGEST = 4096;
  private static final double MEGABYTE = 1 << 20;

  /** Bytes of the position and the normal of a vertex in a target. */
  private static final int BYTES = 24;

  /**
   * @param most megabytes that the targets of a mesh may take
   */
  public record Params(double most) {
    public Params {
      Field.within("most", most, 0.01, LARGEST);
    }
  }

  public CacheToMorphs() {
    super(
        Group.MOTION,
        "cacheToMorphs",
        "Caches as morph targets",
        "Makes a morph target of each sample, played one after another. Resample or trim first"
            + " where that is too much.",
        Params.class,
        true,
        Field.number(
            "most", "Most for a mesh", "MB", 0.01, LARGEST, 64, "More is left a cache, and told."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    List<Finding> findings = new ArrayList<>();
    Map<PointCache, PolygonMesh> taken = ChosenCaches.fitting(scene, selection);
    taken.keySet().removeIf(cache -> isTooLarge(cache, params, findings));
    if (taken.isEmpty()) {
      return new StepResult(scene, findings, "no cache is small enough");
    }
    Unrigged unrigged =
        new Unrigged(
            scene, taken.values().stream().map(PolygonMesh::id).collect(Collectors.toSet()));
    Scene bare = unrigged.scene();
    findings.addAll(unrigged.findings());
    Map<Integer, PolygonMesh> changed = new HashMap<>();
    List<Clip.Track> tracks = new ArrayList<>();
    double all = 0;
    try {
      for (var entry : taken.entrySet()) {
        progress.checkCancelled();
        PointCache cache = entry.getKey();
        PolygonMesh morphed = morphed(bare.mesh(entry.getValue().id()).orElseThrow(), cache);
        changed.put(morphed.id(), morphed);
        tracks.addAll(tracks(bare, morphed, cache));
        all += megabytes(cache);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    SceneBuilder builder = bare.toBuilder();
    Scene result =
        builder
            .caches(scene.caches().stream().filter(c -> !taken.containsKey(c)).toList())
            .meshes(bare.meshes().stream().map(m -> changed.getOrDefault(m.id(), m)).toList())
            .clips(MotionClip.joined(bare, builder.newId(), tracks, Set.of(), taken.keySet()))
            .build();
    String size = String.format(Locale.ROOT, "%.1f MB", all);
    return new StepResult(result, findings, Figures.count(changed.size(), "cache") + " · " + size);
  }

  private static double megabytes(PointCache cache) {
    return (double) BYTES * cache.pointCount() * cache.sampleCount() / MEGABYTE;
  }

  private static boolean isTooLarge(PointCache cache, Params params, List<Finding> findings) {
    boolean tooLarge = megabytes(cache) > params.most();
    if (tooLarge) {
      findings.add(tooLarge(cache));
    }
    return tooLarge;
  }

  private static Finding tooLarge(PointCache cache) {
    return Finding.of(
            "cache-too-large-for-targets",
            Severity.LOOK,
            cache.name(),
            "A target for each sample takes more than was allowed: it stays a cache. Trim it, give"
                + " it fewer samples a second, or allow more.")
        .measured(String.format(Locale.ROOT, "%.0f MB", megabytes(cache)));
  }

  private static PolygonMesh morphed(PolygonMesh mesh, PointCache cache) throws IOException {
    int count = cache.pointCount();
    float[] first = new float[3 * count];
    cache.read(0, 0, count, first);
    float[] points = new float[first.length];
    int[] vertices = IntStream.range(0, count).toArray();
    List<MorphTarget> targets = new ArrayList<>();
    for (int s = 1; s < cache.sampleCount(); s++) {
      cache.read(s, 0, count, points);
      float[] deltas = new float[points.length];
      for (int i = 0; i < deltas.length; i++) {
        deltas[i] = points[i] - first[i];
      }
      targets.add(
          new MorphTarget(
              String.format(Locale.ROOT, "sample_%04d", s + 1),
              0,
              List.of(new MorphTarget.Shape(1, vertices, deltas, null))));
    }
    return mesh.toBuilder().points(Coordinates.of(first)).morphs(targets).build();
  }

  /** On at its own sample, off at those beside it. */
  private static List<Clip.Track> tracks(Scene scene, PolygonMesh mesh, PointCache cache) {
    List<String> keys = MorphTarget.keys(mesh.morphs());
    int last = cache.sampleCount() - 1;
    List<Clip.Track> tracks = new ArrayList<>();
    for (Node node : scene.nodes()) {
      if (!(node.content() instanceof Node.Content.MeshContent content)
          || content.meshId() != mesh.id()) {
        continue;
      }
      for (int s = 1; s <= last; s++) {
        boolean ends = s == last;
        double[] times =
            ends
                ? new double[] {cache.timeSeconds(s - 1), cache.timeSeconds(s)}
                : new double[] {
                  cache.timeSeconds(s - 1), cache.timeSeconds(s), cache.timeSeconds(s + 1)
                };
        double[] values = ends ? new double[] {0, 1} : new double[] {0, 1, 0};
        tracks.add(
            new Clip.Track(
                node.id(),
                Clip.MORPH + keys.get(s - 1),
                Clip.Interpolation.LINEAR,
                1,
                times,
                values,
                null,
                null));
      }
    }
    return tracks;
  }
}
