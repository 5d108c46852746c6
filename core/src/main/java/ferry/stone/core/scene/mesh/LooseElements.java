package ferry.stone.core.scene.mesh;

/**
 * Lines and points that share a mesh's vertices.
 *
 * @param lineOffsets {@code int[l+1]}, first place of each polyline in {@code lineVertices}
 * @param lineVertices vertices along the polylines
 * @param points vertices shown as points
 */
public record LooseElements(int[] lineOffsets, int[] lineVertices, int[] points) {
  public int lineCount() {
    return lineOffsets.length - 1;
  }

  /** How many straight segments the polylines have. */
  public int segmentCount() {
    return Math.max(0, lineVertices.length - lineCount());
  }
}
