package ferry.stone.core.scene.time;

import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;

/** A sequence that is worked out of another one. */
public interface DerivedSequence extends MeshSequence, DerivedSamples {
  @Override
  MeshSequence of();

  @Override
  default PolygonMesh mesh(int sample) throws IOException {
    return of().mesh(sample);
  }
}
