package ferry.stone.core.scene.time;

import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;

/**
 * Samples of another sequence at times of their own.
 *
 * @param samples of the other sequence, one for each of this
 * @param seconds rising, as many
 */
public record RetimedSequence(MeshSequence of, int[] samples, double[] seconds)
    implements DerivedSequence, Retimed {
  public RetimedSequence {
    Retimed.check(samples, seconds);
  }

  @Override
  public PolygonMesh mesh(int sample) throws IOException {
    return of.mesh(samples[sample]);
  }
}
