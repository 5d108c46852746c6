package ferry.stone.core.scene.mesh;

/**
 * Lines and points that share a mesh's vertices.
 *
 * @param lineOffsets {@code int[l+1]}, first place of each polyline in {@code lineVertices}
 * @param lineVertices vertices along the polylines
 * @param points vertices shown as points
 * @param form what the lines are control points of; {@code null} for straight lines
 */
public record LooseElements(int[] lineOffsets, int[] lineVertices, int[] points, CurveForm form) {
  public LooseElements {
    int expected =
        lineVertices.length + (lineOffsets.length - 1) * (form == null ? 0 : form.degree() + 1);
    if (form != null && form.knots() != null && form.knots().length != expected) {
      throw new IllegalArgumentException(
          form.knots().length + " knots for " + lineVertices.length + " control points");
    }
  }

  /** Straight lines, and points. */
  public LooseElements(int[] lineOffsets, int[] lineVertices, int[] points) {
    this(lineOffsets, lineVertices, points, null);
  }

  /** The same of other vertices. */
  public LooseElements of(int[] newLineVertices, int[] newPoints) {
    return new LooseElements(lineOffsets, newLineVertices, newPoints, form);
  }

  public int lineCount() {
    return lineOffsets.length - 1;
  }

  /** How many straight segments the polylines have. */
  public int segmentCount() {
    return Math.max(0, lineVertices.length - lineCount());
  }
}
