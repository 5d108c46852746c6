package ferry.stone.core.proof.corner;

/**
 * The corners of a landed part beside those of the far side that they came from: largest
 * differences of what lies on them.
 */
public interface CornerPairs {
  /** Whether each landed corner has its far one, at the same place within the tolerance. */
  boolean paired();

  /** How many vertices landed. */
  int landedVertices();

  CornerDifference difference();

  /** Whether the far side shows normals, its own or those of its smoothing groups. */
  boolean farNormals();

  /** Whether the far side has tangents with their side, its own or computed ones. */
  boolean farTangents();
}
