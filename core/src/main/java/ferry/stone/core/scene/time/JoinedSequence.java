package ferry.stone.core.scene.time;

import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;
import java.util.List;

/** Sequences one after another in time as one; see {@link JoinedCache}. */
public record JoinedSequence(
    int id, String name, int meshId, List<MeshSequence> parts, int[] part, int[] sample)
    implements MeshSequence {
  /**
   * @param parts in the order of their beginnings
   */
  public static JoinedSequence of(
      int id, String name, int meshId, List<? extends MeshSequence> parts) {
    List<int[]> order = JoinedCache.order(parts);
    int[] part = order.stream().mapToInt(o -> o[0]).toArray();
    int[] sample = order.stream().mapToInt(o -> o[1]).toArray();
    return new JoinedSequence(id, name, meshId, List.copyOf(parts), part, sample);
  }

  @Override
  public int sampleCount() {
    return part.length;
  }

  @Override
  public double timeSeconds(int of) {
    return parts.get(part[of]).timeSeconds(sample[of]);
  }

  @Override
  public PolygonMesh mesh(int of) throws IOException {
    PolygonMesh mesh = parts.get(part[of]).mesh(sample[of]);
    return mesh.toBuilder().id(meshId).build();
  }
}
