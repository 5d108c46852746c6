package ferry.stone.core.view;

import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * A point cache at the vertices that the page's views show of its mesh.
 *
 * @param nodeIds nodes that show the mesh
 * @param sourceVertex mesh vertex of each vertex of {@link Preview}, primitive after primitive
 * @param loose its lines and points, which follow
 */
record MovedPoints(
    PointCache cache, List<Integer> nodeIds, int[] sourceVertex, List<LooseView> loose) {

  /** All caches whose number of points is that of their mesh. */
  static List<MovedPoints> of(Scene scene, PointShapes shapes) {
    List<MovedPoints> all = new ArrayList<>();
    for (PointCache cache : scene.caches()) {
      PolygonMesh mesh = scene.mesh(cache.meshId()).orElse(null);
      if (mesh == null || mesh.points().count() != cache.pointCount()) {
        continue;
      }
      List<Integer> nodes = new ArrayList<>();
      for (Node node : scene.nodes()) {
        if (node.content() instanceof Node.Content.MeshContent content
            && content.meshId() == mesh.id()) {
          nodes.add(node.id());
        }
      }
      all.add(new MovedPoints(cache, nodes, shapes.of(mesh), LooseView.of(mesh)));
    }
    return all;
  }

  /** Where the vertices stand at a moment: {@code float[3*n]}. */
  float[] at(double seconds) throws IOException {
    float[] points = new float[3 * cache.pointCount()];
    Caches.sample(cache, seconds, points);
    float[] all = new float[3 * vertexCount()];
    int at = 0;
    for (int v : sourceVertex) {
      System.arraycopy(points, 3 * v, all, at, 3);
      at += 3;
    }
    for (LooseView view : loose) {
      float[] own = view.positions(i -> points[i]);
      System.arraycopy(own, 0, all, at, own.length);
      at += own.length;
    }
    return all;
  }

  /** Vertices of all of it. */
  int vertexCount() {
    return sourceVertex.length + loose.stream().mapToInt(LooseView::vertexCount).sum();
  }
}
