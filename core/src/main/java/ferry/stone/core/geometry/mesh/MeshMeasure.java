package ferry.stone.core.geometry.mesh;

import ferry.stone.core.geometry.triangle.Triangulation;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import org.joml.Vector3d;

/**
 * Area and signed volume of a mesh, in its own units.
 *
 * <p>Area: half the length of each face's Newell vector, exact for flat faces. Volume: sum of the
 * signed tetrahedra over a fan of each face (Zhang and Chen 2001), meaningful for closed meshes;
 * above 0 when faces turn counter-clockwise seen from outside.
 */
public record MeshMeasure(double area, double volume) {

  /** The area alone. */
  public static double area(PolygonMesh mesh) {
    Polygons faces = mesh.faces();
    Coordinates p = mesh.points();
    Vector3d n = new Vector3d();
    double area = 0;
    for (int f = 0; f < faces.faceCount(); f++) {
      area += Triangulation.newell(p, faces, faces.start(f), faces.size(f), n).length() / 2;
    }
    return area;
  }

  public static MeshMeasure of(PolygonMesh mesh) {
    Polygons faces = mesh.faces();
    Coordinates p = mesh.points();
    double volume = 0;
    for (int f = 0; f < faces.faceCount(); f++) {
      int start = faces.start(f);
      int size = faces.size(f);
      int a = faces.vertex(start);
      for (int k = 1; k + 1 < size; k++) {
        int b = faces.vertex(start + k);
        int c = faces.vertex(start + k + 1);
        volume +=
            p.x(a) * (p.y(b) * p.z(c) - p.z(b) * p.y(c))
                + p.y(a) * (p.z(b) * p.x(c) - p.x(b) * p.z(c))
                + p.z(a) * (p.x(b) * p.y(c) - p.y(b) * p.x(c));
      }
    }
    return new MeshMeasure(area(mesh), volume / 6);
  }
}
