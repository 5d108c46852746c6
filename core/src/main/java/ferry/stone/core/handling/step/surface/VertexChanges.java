package ferry.stone.core.handling.step.surface;

import ferry.stone.core.geometry.cache.PickedCache;
import ferry.stone.core.geometry.mesh.SkinVertices;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Meshes whose vertices were taken from those of the old: skins and point caches follow. */
public final class VertexChanges {
  private final Map<Integer, PolygonMesh> meshes = new HashMap<>();
  private final Map<Integer, int[]> sources = new HashMap<>();

  /**
   * @param sourceVertex vertex before for each vertex, {@code null} when they are the same
   */
  public void put(PolygonMesh mesh, int[] sourceVertex) {
    meshes.put(mesh.id(), mesh);
    if (sourceVertex != null) {
      sources.put(mesh.id(), sourceVertex);
    }
  }

  public Scene apply(Scene scene) {
    List<Skin> skins = new ArrayList<>();
    for (Skin skin : scene.skins()) {
      int[] source = sources.get(skin.meshId());
      skins.add(source == null ? skin : SkinVertices.picked(skin, source));
    }
    return scene.toBuilder()
        .meshes(scene.meshes().stream().map(m -> meshes.getOrDefault(m.id(), m)).toList())
        .skins(skins)
        .mapCaches(
            cache -> {
              int[] source = sources.get(cache.meshId());
              return source == null ? cache : new PickedCache(cache, source);
            })
        .build();
  }

  static Map<Integer, Skin> skinsByMesh(Scene scene) {
    Map<Integer, Skin> byMesh = new HashMap<>();
    scene.skins().forEach(s -> byMesh.putIfAbsent(s.meshId(), s));
    return byMesh;
  }
}
