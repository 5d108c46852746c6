package ferry.stone.core.scene.time;

import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;

/**
 * A mesh that is another one at each sample: vertices, faces and layers may change their number.
 * Between two samples the earlier one is shown.
 */
public interface MeshSequence extends Samples {
  /**
   * The mesh of a sample, with the id of the mesh that it stands for and materials of the scene.
   *
   * @throws IOException when the file behind it cannot be read
   */
  PolygonMesh mesh(int sample) throws IOException;
}
