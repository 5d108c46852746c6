package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.PointCache;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;

/**
 * What surveys found on meshes. A mesh that a step left alone is the same object: where it is shown
 * by the same part it need not be looked at again. May be shared by threads.
 */
public final class SurveyMemo {
  private final Map<PolygonMesh, Known> known =
      Collections.synchronizedMap(new IdentityHashMap<>());
  private final Map<PolygonMesh, Inventory.MeshFacts> facts =
      Collections.synchronizedMap(new IdentityHashMap<>());

  private final Map<PointCache, KnownCache> caches =
      Collections.synchronizedMap(new IdentityHashMap<>());

  private record Known(int nodeId, String path, double scale, List<Finding> findings) {}

  List<Finding> of(Scene.ShownMesh shown, double metresPerUnit, Supplier<List<Finding>> check) {
    double scale = metresPerUnit * shown.world().determinant3x3();
    Known before = known.get(shown.mesh());
    if (before != null
        && before.nodeId == shown.node().id()
        && before.path.equals(shown.path())
        && before.scale == scale) {
      return before.findings;
    }
    List<Finding> found = check.get();
    known.put(shown.mesh(), new Known(shown.node().id(), shown.path(), scale, found));
    return found;
  }

  private record KnownCache(PolygonMesh mesh, int nodeId, double metres, List<Finding> findings) {}

  List<Finding> of(
      PointCache cache,
      PolygonMesh mesh,
      int nodeId,
      double metres,
      Supplier<List<Finding>> check) {
    KnownCache before = caches.get(cache);
    if (before != null
        && before.mesh == mesh
        && before.nodeId == nodeId
        && before.metres == metres) {
      return before.findings;
    }
    List<Finding> found = check.get();
    caches.put(cache, new KnownCache(mesh, nodeId, metres, found));
    return found;
  }

  void facts(PolygonMesh mesh, Inventory.MeshFacts found) {
    facts.put(mesh, found);
  }

  Inventory inventory(Scene scene) {
    return Inventory.of(
        scene,
        mesh -> {
          Inventory.MeshFacts before = facts.get(mesh);
          Inventory.MeshFacts now = before == null ? Inventory.facts(mesh) : before;
          facts.put(mesh, now);
          return now;
        });
  }

  /** Forgets meshes that are in none of these scenes. */
  public void keepOnly(List<Scene> scenes) {
    Set<PolygonMesh> kept = Collections.newSetFromMap(new IdentityHashMap<>());
    scenes.forEach(s -> kept.addAll(s.meshes()));
    known.keySet().retainAll(kept);
    facts.keySet().retainAll(kept);
    Set<PointCache> played = Collections.newSetFromMap(new IdentityHashMap<>());
    scenes.forEach(s -> played.addAll(s.caches()));
    caches.keySet().retainAll(played);
  }
}
