package ferry.stone.core.geometry.triangle;

import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import org.joml.Vector3d;

/**
 * How large the faces of a mesh are, in one pass over them. O(c) for c corners.
 *
 * @param twice {@code double[f]}, the area of each face times two
 * @param flat faces whose area is next to nothing for their size, rising
 */
public record FaceSizes(double[] twice, IntList flat) {
  /** A face is flat when its area is below this part of its longest side squared. */
  private static final double NO_AREA = 1e-7;

  /** What else looks at each face. */
  public interface Look {
    /**
     * @param area along the face's normal, twice as long as the face is large
     */
    void at(int face, Vector3d area);
  }

  public static FaceSizes of(PolygonMesh mesh) {
    return of(mesh, (face, area) -> {});
  }

  public static FaceSizes of(PolygonMesh mesh, Look look) {
    IntList flat = new IntList(16);
    Polygons faces = mesh.faces();
    double[] twice = new double[faces.faceCount()];
    Vector3d n = new Vector3d();
    for (int f = 0; f < twice.length; f++) {
      int start = faces.start(f);
      Triangulation.newell(mesh.points(), faces, start, faces.size(f), n);
      twice[f] = n.length();
      double longest =
          faces.size(f) == 3
              ? longestOfThreeSquared(faces, mesh.points(), start)
              : longestSideSquared(faces, mesh.points(), f);
      if (twice[f] / 2 <= NO_AREA * longest && Double.isFinite(longest)) {
        flat.add(f);
      }
      look.at(f, n);
    }
    return new FaceSizes(twice, flat);
  }

  private static double longestOfThreeSquared(Polygons faces, Coordinates points, int start) {
    int a = faces.vertex(start);
    int b = faces.vertex(start + 1);
    int c = faces.vertex(start + 2);
    double ux = points.x(b) - points.x(a);
    double uy = points.y(b) - points.y(a);
    double uz = points.z(b) - points.z(a);
    double vx = points.x(c) - points.x(b);
    double vy = points.y(c) - points.y(b);
    double vz = points.z(c) - points.z(b);
    double third = (ux + vx) * (ux + vx) + (uy + vy) * (uy + vy) + (uz + vz) * (uz + vz);
    return Math.max(third, Math.max(ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz));
  }

  private static double longestSideSquared(Polygons faces, Coordinates points, int face) {
    double longest = 0;
    int start = faces.start(face);
    int end = faces.end(face);
    for (int c = start; c < end; c++) {
      int a = faces.vertex(c);
      int b = faces.vertex(c + 1 == end ? start : c + 1);
      double x = points.x(a) - points.x(b);
      double y = points.y(a) - points.y(b);
      double z = points.z(a) - points.z(b);
      longest = Math.max(longest, x * x + y * y + z * z);
    }
    return longest;
  }
}
