package ferry.stone.core.scene.node;

/**
 * How joints move a mesh's vertices.
 *
 * @param jointNodeIds nodes of the joints
 * @param inverseBind {@code double[16*j]}, column-major: mesh space at bind to joint space
 * @param offsets {@code int[v+1]}: first influence of each vertex
 * @param joints index into {@code jointNodeIds} of each influence
 * @param weights weight of each influence
 * @param method {@code linear} or {@code dualQuaternion}
 * @param bindMatrix {@code double[16]}, column-major: mesh space to the scene when the skin was
 *     bound; {@code null} if unsaid
 */
public record Skin(
    int id,
    String name,
    int meshId,
    int[] jointNodeIds,
    double[] inverseBind,
    int[] offsets,
    int[] joints,
    float[] weights,
    String method,
    double[] bindMatrix) {

  /** A skin that does not say where its mesh stood when it was bound. */
  public Skin(
      int id,
      String name,
      int meshId,
      int[] jointNodeIds,
      double[] inverseBind,
      int[] offsets,
      int[] joints,
      float[] weights,
      String method) {
    this(id, name, meshId, jointNodeIds, inverseBind, offsets, joints, weights, method, null);
  }

  /** Most influences of any vertex. */
  public int mostInfluences() {
    int most = 0;
    for (int v = 0; v + 1 < offsets.length; v++) {
      most = Math.max(most, offsets[v + 1] - offsets[v]);
    }
    return most;
  }

  public Skin withInverseBind(double[] matrices) {
    return withBind(matrices, bindMatrix);
  }

  public Skin withBind(double[] matrices, double[] newBindMatrix) {
    return new Skin(
        id, name, meshId, jointNodeIds, matrices, offsets, joints, weights, method, newBindMatrix);
  }

  /** The same joints with other weights. */
  public Skin withWeights(int[] newOffsets, int[] newJoints, float[] newWeights) {
    return new Skin(
        id,
        name,
        meshId,
        jointNodeIds,
        inverseBind,
        newOffsets,
        newJoints,
        newWeights,
        method,
        bindMatrix);
  }

  /** The same weights under another id, for another mesh of the same vertices. */
  public Skin of(int newId, int newMeshId) {
    return new Skin(
        newId,
        name,
        newMeshId,
        jointNodeIds,
        inverseBind,
        offsets,
        joints,
        weights,
        method,
        bindMatrix);
  }
}
