package ferry.stone.core.proof;

/**
 * The corners of a landed part beside those of the far side that they came from: largest
 * differences of what lies on them.
 */
interface CornerPairs {
  /** Whether each landed corner has its far one, at the same place within the tolerance. */
  boolean paired();

  /** How many vertices landed. */
  int landedVertices();

  /** Distance in metres. */
  double position();

  /** Of UVs, as a part of their size. */
  double uv();

  double normalDegrees();

  /** Of vertex colours, sRGB from 0 to 1. */
  double colour();

  /** Whether the far side shows normals, its own or those of its smoothing groups. */
  boolean farNormals();
}
