package ferry.stone.core.scene.time;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;

/**
 * A cache as a mesh at each sample.
 *
 * @param rest the mesh whose points it moves
 */
public record CacheMeshes(PointCache of, PolygonMesh rest) implements MeshSequence, DerivedSamples {
  @Override
  public int meshId() {
    return rest.id();
  }

  @Override
  public PolygonMesh mesh(int sample) throws IOException {
    float[] points = new float[3 * of.pointCount()];
    of.read(sample, 0, of.pointCount(), points);
    return rest.withPoints(Coordinates.of(points));
  }
}
