package ferry.stone.core.view;

import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Which vertex of a mesh each vertex of its picture is, known once found: a frame that is scrubbed
 * to must not cut the mesh into triangles again. May be shared by threads.
 */
public final class PointShapes {
  private final Map<PolygonMesh, int[]> known =
      Collections.synchronizedMap(new IdentityHashMap<>());

  /** Mesh vertex of each vertex of {@link Preview}, primitive after primitive. */
  int[] of(PolygonMesh mesh) {
    int[] there = known.get(mesh);
    if (there == null) {
      there = sourceVertices(mesh);
      known.put(mesh, there);
    }
    return there;
  }

  private static int[] sourceVertices(PolygonMesh mesh) {
    List<RenderPrimitive> primitives = RenderMesh.of(mesh, Progress.NONE);
    int[] source = new int[primitives.stream().mapToInt(RenderPrimitive::vertexCount).sum()];
    int at = 0;
    for (RenderPrimitive p : primitives) {
      System.arraycopy(p.sourceVertex(), 0, source, at, p.vertexCount());
      at += p.vertexCount();
    }
    return source;
  }

  /** Forgets meshes that are in none of these scenes. */
  public void keepOnly(List<Scene> scenes) {
    Set<PolygonMesh> kept = Collections.newSetFromMap(new IdentityHashMap<>());
    scenes.forEach(s -> kept.addAll(s.meshes()));
    known.keySet().retainAll(kept);
  }
}
