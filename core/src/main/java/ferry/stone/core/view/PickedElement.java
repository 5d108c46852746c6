package ferry.stone.core.view;

import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.List;

/**
 * The face and vertex of a mesh behind a triangle of its view.
 *
 * @param face index of the face
 * @param vertex index of the face's vertex that is nearest to the point
 * @param position of that vertex in the mesh's own numbers
 * @param corners vertices of the face in order
 */
public record PickedElement(int face, int vertex, double[] position, int[] corners) {

  /**
   * @param primitive place among the view's primitives of the mesh
   * @param triangle place in the primitive
   * @param x point on it in the mesh's own numbers
   * @throws IllegalArgumentException when there is no such triangle
   */
  public static PickedElement of(
      PolygonMesh mesh, int primitive, int triangle, double x, double y, double z) {
    List<RenderPrimitive> primitives = RenderMesh.of(mesh, Progress.NONE);
    if (primitive < 0
        || primitive >= primitives.size()
        || triangle < 0
        || triangle >= primitives.get(primitive).triangleCount()) {
      throw new IllegalArgumentException("The mesh has no such triangle any more: pick again.");
    }
    int face = primitives.get(primitive).triangleFace()[triangle];
    int[] corners = new int[mesh.faces().size(face)];
    int best = -1;
    double nearest = Double.POSITIVE_INFINITY;
    for (int i = 0; i < corners.length; i++) {
      int v = mesh.faces().vertex(mesh.faces().start(face) + i);
      corners[i] = v;
      double dx = mesh.points().x(v) - x;
      double dy = mesh.points().y(v) - y;
      double dz = mesh.points().z(v) - z;
      double distance = dx * dx + dy * dy + dz * dz;
      if (distance < nearest) {
        nearest = distance;
        best = v;
      }
    }
    double[] position = {mesh.points().x(best), mesh.points().y(best), mesh.points().z(best)};
    return new PickedElement(face, best, position, corners);
  }
}
