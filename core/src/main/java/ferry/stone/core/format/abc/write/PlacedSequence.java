package ferry.stone.core.format.abc.write;

import ferry.stone.core.geometry.mesh.MeshMove;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.DerivedSequence;
import ferry.stone.core.scene.time.MeshSequence;
import java.io.IOException;

/**
 * A sequence in the world: each mesh where its part stands at that moment.
 *
 * @param place of the node that shows it
 */
record PlacedSequence(MeshSequence of, ClipPoses poses, int place) implements DerivedSequence {

  @Override
  public PolygonMesh mesh(int sample) throws IOException {
    return MeshMove.by(of.mesh(sample), poses.at(timeSeconds(sample)).world()[place]);
  }
}
