package ferry.stone.core.cargo;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.geometry.cache.PickedCache;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.RenamedCache;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * Puts point caches onto the meshes of a cargo: by the number of points, and among meshes of the
 * same number by name. A cache of all vertices of all parts is divided among them in their order.
 */
final class CacheMatch {
  private final Scene scene;
  private final Findings findings;
  private final SceneBuilder builder;
  private final Map<Integer, String> names = new HashMap<>();
  private final Set<Integer> taken = new HashSet<>();
  private final List<PointCache> caches = new ArrayList<>();
  private final List<PointCache> second = new ArrayList<>();

  private CacheMatch(Scene scene, Findings findings) {
    this.scene = scene;
    this.findings = findings;
    builder = scene.toBuilder();
    scene.shownMeshes().forEach(s -> names.merge(s.mesh().id(), s.node().name(), (a, b) -> a));
    scene.caches().forEach(c -> taken.add(c.meshId()));
  }

  /**
   * @param read each cache as a scene of its own
   * @param files where they come from
   */
  static Scene put(Scene scene, List<Scene> read, List<String> files, Findings findings) {
    CacheMatch match = new CacheMatch(scene, findings);
    for (int i = 0; i < read.size(); i++) {
      match.put(read.get(i).caches().get(0), files.get(i));
    }
    return match.builder.addCaches(match.caches).addSecondMotions(match.second).build();
  }

  private void put(PointCache cache, String file) {
    List<PolygonMesh> fitting =
        scene.meshes().stream()
            .filter(m -> m.points().count() == cache.pointCount() && names.containsKey(m.id()))
            .filter(m -> !taken.contains(m.id()))
            .toList();
    if (fitting.isEmpty()) {
      if (!divided(cache, file) && !second(cache, file)) {
        findings.add(none(cache, file));
      }
      return;
    }
    List<PolygonMesh> named =
        fitting.stream().filter(m -> isNamed(file, names.get(m.id()), m.name())).toList();
    List<PolygonMesh> best = named.isEmpty() ? fitting : named;
    PolygonMesh mesh = best.get(0);
    add(new RenamedCache(cache, builder.newId(), mesh.id()));
    boolean sure = best.size() == 1;
    findings.add(
        Finding.of(
                sure ? "cache-put-on" : "cache-put-on-one-of-several",
                sure ? Severity.NOTE : Severity.LOOK,
                file,
                "The cache moves "
                    + names.get(mesh.id())
                    + (sure
                        ? "."
                        : ", the first of several that have as many vertices. Name the file after"
                            + " the part that is meant."))
            .measured(Figures.count(cache.pointCount(), "point"))
            .evidence(named.isEmpty() ? "as many vertices" : "as many vertices, and its name"));
  }

  /** What fits a part that moves already is kept, so that both motions can be compared. */
  private boolean second(PointCache cache, String file) {
    List<PolygonMesh> fitting =
        scene.meshes().stream()
            .filter(m -> m.points().count() == cache.pointCount() && names.containsKey(m.id()))
            .toList();
    if (fitting.isEmpty()) {
      return false;
    }
    PolygonMesh mesh =
        fitting.stream()
            .filter(m -> isNamed(file, names.get(m.id()), m.name()))
            .findFirst()
            .orElse(fitting.get(0));
    second.add(new RenamedCache(cache, builder.newId(), mesh.id()));
    int node =
        scene.shownMeshes().stream()
            .filter(s -> s.mesh().id() == mesh.id())
            .findFirst()
            .orElseThrow()
            .node()
            .id();
    findings.add(
        Finding.of(
                "cache-is-second",
                Severity.LOOK,
                file,
                names.get(mesh.id())
                    + " moves already: this cache is kept as its second motion, for comparison. Put"
                    + " it on to have it play and land instead.")
            .measured(Figures.count(cache.sampleCount(), "sample"))
            .nodes(List.of(node))
            .offer(
                Offer.step("Put it on", "cacheOn", Map.of("cache", cache.name()))
                    .on(List.of(node))));
    return true;
  }

  private void add(PointCache cache) {
    caches.add(cache);
    taken.add(cache.meshId());
  }

  private static boolean isNamed(String file, String part, String mesh) {
    String stem = plain(CargoPath.stem(file));
    return !plain(part).isEmpty() && stem.contains(plain(part))
        || !plain(mesh).isEmpty() && stem.contains(plain(mesh));
  }

  private static String plain(String name) {
    return name.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{Nd}]", "");
  }

  /** Exporters write one cache for a file of several parts, their vertices one after another. */
  private boolean divided(PointCache cache, String file) {
    List<PolygonMesh> all = scene.meshes().stream().filter(m -> names.containsKey(m.id())).toList();
    long points = all.stream().mapToLong(m -> m.points().count()).sum();
    if (points != cache.pointCount() || all.stream().anyMatch(m -> taken.contains(m.id()))) {
      return false;
    }
    int first = 0;
    for (PolygonMesh mesh : all) {
      int[] source = new int[mesh.points().count()];
      for (int v = 0; v < source.length; v++) {
        source[v] = first + v;
      }
      first += source.length;
      if (source.length > 0) {
        add(new RenamedCache(new PickedCache(cache, source), builder.newId(), mesh.id()));
      }
    }
    findings.add(
        Finding.of(
                "cache-divided",
                Severity.LOOK,
                file,
                "The cache has as many points as all parts together: each part gets its own, in"
                    + " their order.")
            .measured(Figures.count(all.size(), "part")));
    return true;
  }

  private Finding none(PointCache cache, String file) {
    String nearest = "";
    long least = Long.MAX_VALUE;
    for (PolygonMesh mesh : scene.meshes()) {
      long off = Math.abs((long) mesh.points().count() - cache.pointCount());
      if (names.containsKey(mesh.id()) && off < least) {
        least = off;
        nearest = names.get(mesh.id()) + " has " + Figures.count(mesh.points().count(), "vertex");
      }
    }
    return Finding.of(
            "cache-without-mesh",
            Severity.FIX,
            file,
            "No part has as many vertices as the cache has points, so it moves nothing. Export mesh"
                + " and cache from the same state, without cutting or welding.")
        .measured(Figures.count(cache.pointCount(), "point"))
        .evidence(nearest);
  }
}
