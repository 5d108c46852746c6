package ferry.stone.core.landing;

import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.MeshSequence;
import org.joml.Matrix4d;

/** A mesh that rises by one unit at each of its samples, a second apart. */
public record RisingSequence(int id, PolygonMesh rest, int sampleCount) implements MeshSequence {
  @Override
  public String name() {
    return rest.name();
  }

  @Override
  public int meshId() {
    return rest.id();
  }

  @Override
  public double timeSeconds(int sample) {
    return sample;
  }

  @Override
  public PolygonMesh mesh(int sample) {
    return rest.withPoints(rest.points().transform(new Matrix4d().translation(0, sample, 0)));
  }
}
