package ferry.stone.core.format.cache;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.motion.BakedCache;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What caches hold of a scene: each part whose points something moves, as a list of points and its
 * samples. Where nothing moves any, each part as one sample.
 */
final class CachePlan {
  /** Most samples of one part: some six hours at 48 a second. */
  private static final int MOST_SAMPLES = 1 << 20;

  /** Seconds by which a sample may be off its even place. */
  private static final double UNEVEN = 1e-5;

  private final Scene scene;
  private final CacheOptions options;
  private final Clip clip;

  /**
   * What was chosen.
   *
   * @param rate samples a second, 0 for those of the source
   * @param clip name of the clip that is baked, empty for the first
   * @param inWorld whether points stand in the world; else in the numbers of their mesh
   * @param even whether samples have to follow each other evenly
   * @param frames frames a second, where the format counts them
   */
  record CacheOptions(double rate, String clip, boolean inWorld, boolean even, double frames) {}

  CachePlan(Scene scene, CacheOptions options) {
    this.scene = scene;
    this.options = options;
    clip =
        scene.clips().stream()
            .filter(c -> options.clip().isBlank() || c.name().equals(options.clip()))
            .findFirst()
            .orElse(null);
  }

  /** Parts at the top, named as their files will be, with a cache each. */
  Scene held(String stem) {
    List<Integer> places = moving();
    SceneBuilder builder = new SceneBuilder(scene.name());
    builder.frame(scene.frame(), scene.unitSource(), scene.axesSource());
    builder.nextId(scene.toBuilder().newId());
    List<PointCache> caches = new ArrayList<>();
    FreeNames names = new FreeNames();
    for (int place : places) {
      Node node = scene.nodes().get(place);
      String free = names.take(places.size() == 1 ? stem : stem + "_" + plain(node.name()));
      PointCache cache = cache(builder.newId(), free, place);
      int mesh = builder.newId();
      try {
        builder.add(points(mesh, free, cache));
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
      builder.add(Node.of(node.id(), free, -1, Node.Content.MeshContent.of(mesh)));
      caches.add(new ferry.stone.core.scene.time.RenamedCache(cache, cache.id(), mesh));
    }
    return builder.caches(caches).build();
  }

  private static String plain(String name) {
    String plain = name.replaceAll("[\\\\/:*?\"<>|\\p{Cntrl}\\s]+", "_");
    return plain.isEmpty() ? "part" : plain;
  }

  /** The points of the first sample as a mesh. */
  static PolygonMesh points(int id, String name, PointCache cache) throws IOException {
    float[] first = new float[3 * cache.pointCount()];
    cache.read(0, 0, cache.pointCount(), first);
    int[] all = new int[cache.pointCount()];
    for (int v = 0; v < all.length; v++) {
      all[v] = v;
    }
    return PolygonMesh.of(id, name, Coordinates.of(first), Polygons.triangles(new int[0]))
        .toBuilder()
        .loose(new LooseElements(new int[] {0}, new int[0], all))
        .build();
  }

  /** Places of the parts to write. */
  private List<Integer> moving() {
    Set<Integer> moved = new HashSet<>();
    Set<Integer> bent = new HashSet<>();
    if (clip != null) {
      for (Clip.Track track : clip.tracks()) {
        (track.isMorph() ? bent : moved).add(track.targetId());
      }
    }
    boolean[] moves = new boolean[scene.nodes().size()];
    for (int i = 0; i < moves.length; i++) {
      Node node = scene.nodes().get(i);
      moves[i] = moved.contains(node.id()) || node.parent() >= 0 && moves[node.parent()];
    }
    Map<Integer, PolygonMesh> byId = scene.meshesById();
    List<Integer> shown = new ArrayList<>();
    List<Integer> moving = new ArrayList<>();
    for (int i = 0; i < moves.length; i++) {
      Node node = scene.nodes().get(i);
      if (!(node.content() instanceof Node.Content.MeshContent content)
          || byId.get(content.meshId()).points().count() == 0) {
        continue;
      }
      shown.add(i);
      boolean deforms =
          Caches.of(scene, content.meshId()) != null
              || bent.contains(node.id())
              || clip != null && content.skinId() >= 0
              || options.inWorld() && moves[i];
      if (deforms) {
        moving.add(i);
      }
    }
    return moving.isEmpty() ? shown : moving;
  }

  private PointCache cache(int id, String name, int place) {
    Node.Content.MeshContent content =
        (Node.Content.MeshContent) scene.nodes().get(place).content();
    PointCache own = Caches.of(scene, content.meshId());
    if (own != null && asTheSource(own) && !options.inWorld()) {
      return new ferry.stone.core.scene.time.RenamedCache(own, id, own.meshId());
    }
    double start = own != null ? own.startSeconds() : clip == null ? 0 : clip.startSeconds();
    double end = own != null ? own.endSeconds() : clip == null ? 0 : clip.endSeconds();
    Clip baked = clip != null ? clip : new Clip(-1, "", start, end, List.of());
    return new BakedCache(id, name, scene, baked, place, times(own, start, end), options.inWorld());
  }

  private double[] times(PointCache own, double start, double end) {
    if (own != null && asTheSource(own)) {
      double[] times = new double[own.sampleCount()];
      for (int s = 0; s < times.length; s++) {
        times[s] = own.timeSeconds(s);
      }
      return times;
    }
    double rate = rate();
    int count =
        (int) Math.min(MOST_SAMPLES, Math.floor(Math.max(0, end - start) * rate + 1e-6) + 1);
    double[] times = new double[count];
    for (int s = 0; s < count; s++) {
      times[s] = start + s / rate;
    }
    return times;
  }

  private boolean asTheSource(PointCache own) {
    return options.rate() == 0 && (!options.even() || isEven(own));
  }

  private static boolean isEven(PointCache cache) {
    double step = cache.sampleCount() < 2 ? 0 : cache.timeSeconds(1) - cache.timeSeconds(0);
    for (int s = 0; s < cache.sampleCount(); s++) {
      if (Math.abs(cache.timeSeconds(s) - cache.timeSeconds(0) - s * step) > UNEVEN) {
        return false;
      }
    }
    return true;
  }

  /** What is changed. */
  List<Finding> said() {
    Findings said = new Findings();
    for (PointCache cache : scene.caches()) {
      if (options.even() && options.rate() == 0 && !isEven(cache)) {
        said.add(
            Finding.of(
                    "samples-evened",
                    Severity.NOTE,
                    cache.name(),
                    "The format holds samples that follow each other evenly: these do not, so they"
                        + " are taken anew.")
                .measured((int) rate() + " a second"));
      }
    }
    return said.list();
  }

  /** Samples a second where the source's own do not count. */
  private double rate() {
    return options.rate() > 0
        ? options.rate()
        : scene.framesPerSecond() > 0 ? scene.framesPerSecond() : options.frames();
  }
}
