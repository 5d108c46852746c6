package ferry.stone.core.geometry.mesh;

import static org.junit.jupiter.api.Assertions.assertSame;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import org.junit.jupiter.api.Test;

class EqualMeshesTest {
  private static PolygonMesh triangle(int id, float size) {
    return PolygonMesh.of(
        id,
        "triangle " + id,
        Coordinates.of(new float[] {0, 0, 0, size, 0, 0, 0, size, 0}),
        Polygons.triangles(new int[] {0, 1, 2}));
  }

  @Test
  void meshesOfOneSizeAreToldApartByWhatTheyHold() {
    PolygonMesh small = triangle(1, 1);
    PolygonMesh large = triangle(2, 2);
    EqualMeshes equal = new EqualMeshes();
    assertSame(small, equal.firstLike(small));
    assertSame(large, equal.firstLike(large));
    assertSame(small, equal.firstLike(triangle(3, 1)));
    assertSame(large, equal.firstLike(triangle(4, 2)));
    assertSame(small, equal.firstLike(triangle(5, 1)));
  }
}
