package ferry.stone.core.scene.time;

import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;

/** A sequence that is worked out of another one; what it does not say is the other's. */
public interface DerivedSequence extends MeshSequence {
  MeshSequence of();

  @Override
  default int id() {
    return of().id();
  }

  @Override
  default String name() {
    return of().name();
  }

  @Override
  default int meshId() {
    return of().meshId();
  }

  @Override
  default int sampleCount() {
    return of().sampleCount();
  }

  @Override
  default double timeSeconds(int sample) {
    return of().timeSeconds(sample);
  }

  @Override
  default PolygonMesh mesh(int sample) throws IOException {
    return of().mesh(sample);
  }
}
