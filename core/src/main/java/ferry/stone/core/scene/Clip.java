package ferry.stone.core.scene;

import java.util.List;

/**
 * A named piece of motion.
 *
 * @param startSeconds where it begins on the source's own time line
 * @param endSeconds where it ends
 */
public record Clip(
    int id, String name, double startSeconds, double endSeconds, List<Track> tracks) {

  public Clip {
    tracks = List.copyOf(tracks);
  }

  /** How values run between keys. */
  public enum Interpolation {
    STEP,
    LINEAR,
    CUBIC
  }

  /**
   * The motion of one value.
   *
   * @param targetId node, camera, light or material
   * @param property e.g. {@code translation}, {@code rotation.x}, {@code morph/blink}
   * @param components numbers a key
   * @param timesSeconds rising key times
   * @param values {@code double[components*k]}
   * @param inSlopes per second, as {@code values}; {@code null} unless cubic
   * @param outSlopes per second, as {@code values}; {@code null} unless cubic
   */
  public record Track(
      int targetId,
      String property,
      Interpolation interpolation,
      int components,
      double[] timesSeconds,
      double[] values,
      double[] inSlopes,
      double[] outSlopes) {}
}
