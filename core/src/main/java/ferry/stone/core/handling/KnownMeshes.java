package ferry.stone.core.handling;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.Map;

/**
 * What an equal step made of meshes in an earlier run; a mesh that is still the same need not wait.
 */
public final class KnownMeshes {
  public static final KnownMeshes NONE = new KnownMeshes();

  private final Map<PolygonMesh, PolygonMesh> results = new IdentityHashMap<>();

  private KnownMeshes() {}

  static KnownMeshes between(Scene before, Scene after) {
    KnownMeshes known = new KnownMeshes();
    Map<Integer, PolygonMesh> results = new HashMap<>(after.meshesById());
    for (PolygonMesh mesh : before.meshes()) {
      PolygonMesh result = results.get(mesh.id());
      if (result != null) {
        known.results.put(mesh, result);
      }
    }
    return known;
  }

  /** What became of the mesh, or {@code null} when that is not known. */
  public PolygonMesh of(PolygonMesh mesh) {
    return results.get(mesh);
  }
}
