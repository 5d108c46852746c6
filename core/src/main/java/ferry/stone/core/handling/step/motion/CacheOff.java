package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Takes caches off their meshes, which stand still then. */
public final class CacheOff extends BasicStep<CacheOff.Params> {
  private static final double LONGEST = 1e6;

  private static final Field STAND =
      Field.choice(
          "stand",
          "The mesh stands",
          "What is left of the motion.",
          "rest",
          "As it is without the cache",
          "moment",
          "As it is at a moment");

  /**
   * @param stand {@code rest} or {@code moment}
   * @param seconds of the moment
   */
  public record Params(String stand, double seconds) {
    public Params {
      stand = STAND.chosen(stand);
      Field.within("seconds", seconds, -LONGEST, LONGEST);
    }
  }

  public CacheOff() {
    super(
        Group.MOTION,
        "cacheOff",
        "Take a cache off",
        "Takes caches off the chosen parts: they stand still, as they are or as they were at a"
            + " moment.",
        Params.class,
        true,
        STAND,
        Field.number("seconds", "Moment", "s", -LONGEST, LONGEST, 0, "On the cache's time line.")
            .when("stand=moment"));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Map<Integer, Coordinates> stilled = new HashMap<>();
    int[] gone = new int[1];
    Scene result =
        ChosenCaches.each(
            scene,
            selection,
            cache -> {
              gone[0]++;
              if (params.stand().equals("moment")) {
                stilled.put(cache.meshId(), at(cache, params.seconds()));
              }
              return null;
            });
    // What stands as it was at a moment is moved by nothing else.
    Unrigged unrigged = new Unrigged(result, stilled.keySet());
    Scene bare = unrigged.scene();
    List<PolygonMesh> meshes =
        bare.meshes().stream()
            .map(m -> stilled.containsKey(m.id()) ? m.withPoints(stilled.get(m.id())) : m)
            .toList();
    return new StepResult(
        bare.toBuilder().meshes(meshes).build(),
        unrigged.findings(),
        Figures.count(gone[0], "cache"));
  }

  private static Coordinates at(PointCache cache, double seconds) throws IOException {
    float[] points = new float[3 * cache.pointCount()];
    Caches.sample(cache, seconds, points);
    return Coordinates.of(points);
  }
}
