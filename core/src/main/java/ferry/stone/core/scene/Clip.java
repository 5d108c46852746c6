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

  public static final String TRANSLATION = "translation";
  public static final String ROTATION = "rotation";
  public static final String SCALE = "scale";

  /** Begins the property of a morph weight. */
  public static final String MORPH = "morph/";

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
   * @param property {@code translation}, {@code rotation} (quaternion x, y, z, w), {@code scale},
   *     or {@link #MORPH} and the target's key (see {@link MorphTarget#keys})
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
      double[] outSlopes) {

    /** The same keys with other values. */
    public Track withValues(double[] newValues, double[] newIn, double[] newOut) {
      return new Track(
          targetId, property, interpolation, components, timesSeconds, newValues, newIn, newOut);
    }

    /** The same motion of another target. */
    public Track withTarget(int newTargetId) {
      return new Track(
          newTargetId,
          property,
          interpolation,
          components,
          timesSeconds,
          values,
          inSlopes,
          outSlopes);
    }

    public boolean isMorph() {
      return property.startsWith(MORPH);
    }
  }

  public Clip withTracks(List<Track> newTracks) {
    return new Clip(id, name, startSeconds, endSeconds, newTracks);
  }
}
