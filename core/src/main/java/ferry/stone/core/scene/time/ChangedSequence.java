package ferry.stone.core.scene.time;

import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;
import java.util.function.UnaryOperator;

/**
 * Another sequence, each of its meshes changed as it is read: nothing is read before it is asked
 * for.
 *
 * @param id its own
 * @param meshId the mesh that it stands for
 */
public record ChangedSequence(
    MeshSequence of, int id, int meshId, UnaryOperator<PolygonMesh> change)
    implements DerivedSequence {

  /** The same sequence of the same mesh. */
  public static ChangedSequence of(MeshSequence of, UnaryOperator<PolygonMesh> change) {
    return new ChangedSequence(of, of.id(), of.meshId(), change);
  }

  @Override
  public PolygonMesh mesh(int sample) throws IOException {
    PolygonMesh changed = change.apply(of.mesh(sample));
    return changed.id() == meshId ? changed : changed.toBuilder().id(meshId).build();
  }
}
