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
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.RenamedCache;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/** Puts a cache onto other meshes: those of the chosen parts that have as many vertices. */
public final class CacheOn extends BasicStep<CacheOn.Params> {
  /**
   * @param cache its name
   */
  public record Params(String cache) {
    public Params {
      cache = cache == null ? "" : cache.strip();
    }
  }

  public CacheOn() {
    super(
        Group.MOTION,
        "cacheOn",
        "Put a cache on",
        "Puts a cache onto the chosen parts that have as many vertices, of whichever file they"
            + " are; the part that it moved before stands still. The cache that moved these is kept"
            + " as their second motion, for comparison.",
        Params.class,
        true,
        Field.text(
            "cache",
            "Cache",
            "",
            "Its name, that of its file; empty: the first. Second" + " motions can be named too."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    PointCache cache =
        Stream.concat(scene.caches().stream(), scene.secondMotions().stream())
            .filter(c -> params.cache().isEmpty() || c.name().equals(params.cache()))
            .findFirst()
            .orElse(null);
    if (cache == null) {
      return none(scene, params.cache(), "There is no cache of this name: the motion stays.");
    }
    Set<Integer> chosen = ChosenCaches.meshes(scene, selection);
    List<PolygonMesh> fitting =
        scene.meshes().stream()
            .filter(m -> chosen.contains(m.id()) && m.points().count() == cache.pointCount())
            .toList();
    if (fitting.isEmpty()) {
      return none(
          scene,
          cache.name(),
          "None of the chosen parts has as many vertices as the cache has points ("
              + Figures.count(cache.pointCount())
              + "): the motion stays.");
    }
    Map<Integer, PolygonMesh> targets = new HashMap<>();
    fitting.forEach(m -> targets.put(m.id(), m));
    SceneBuilder builder = scene.toBuilder();
    List<PointCache> caches = new ArrayList<>();
    List<PointCache> second = new ArrayList<>(scene.secondMotions());
    second.remove(cache);
    for (PointCache each : scene.caches()) {
      if (each != cache) {
        (targets.containsKey(each.meshId()) ? second : caches).add(each);
      }
    }
    boolean first = true;
    for (PolygonMesh mesh : fitting) {
      caches.add(new RenamedCache(cache, first ? cache.id() : builder.newId(), mesh.id()));
      first = false;
    }
    return StepResult.of(
        builder.caches(caches).secondMotions(second).build(),
        cache.name() + " → " + Figures.count(fitting.size(), "mesh"));
  }

  private static StepResult none(Scene scene, String where, String message) {
    return new StepResult(
        scene,
        List.of(Finding.of("cache-not-put-on", Severity.LOOK, where, message)),
        "nothing changed");
  }
}
