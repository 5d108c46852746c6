package ferry.stone.core.view;

import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.nio.ByteBuffer;
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
  static List<MovedPoints> of(Scene scene) {
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
      List<RenderPrimitive> primitives = RenderMesh.of(mesh, Progress.NONE);
      int count = primitives.stream().mapToInt(RenderPrimitive::vertexCount).sum();
      int[] source = new int[count];
      int at = 0;
      for (RenderPrimitive p : primitives) {
        System.arraycopy(p.sourceVertex(), 0, source, at, p.vertexCount());
        at += p.vertexCount();
      }
      all.add(new MovedPoints(cache, nodes, source, LooseView.of(mesh)));
    }
    return all;
  }

  /** Puts where the vertices stand at a moment. */
  void put(double seconds, ByteBuffer out) throws IOException {
    float[] points = new float[3 * cache.pointCount()];
    Caches.sample(cache, seconds, points);
    for (int v : sourceVertex) {
      out.putFloat(points[3 * v]).putFloat(points[3 * v + 1]).putFloat(points[3 * v + 2]);
    }
    for (LooseView view : loose) {
      for (float coordinate : view.positions(i -> points[i])) {
        out.putFloat(coordinate);
      }
    }
  }

  /** Vertices of all of it. */
  int vertexCount() {
    return sourceVertex.length + loose.stream().mapToInt(LooseView::vertexCount).sum();
  }
}
