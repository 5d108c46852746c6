package ferry.stone.core.scene.time;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.node.LocalTransform;
import java.util.Arrays;
import java.util.List;

/**
 * A named piece of motion.
 *
 * @param startSeconds where it begins on the source's own time line
 * @param endSeconds where it ends
 * @param words custom values that are texts, over time
 * @param keys what the tracks were made from, where the source wrote it in another form: for
 *     writers that know that form. Whoever changes the tracks drops or changes the keys.
 */
public record Clip(
    int id,
    String name,
    double startSeconds,
    double endSeconds,
    List<Track> tracks,
    List<Keys> keys,
    List<Words> words) {

  public Clip {
    tracks = List.copyOf(tracks);
    keys = List.copyOf(keys);
    words = List.copyOf(words);
  }

  /** A clip whose tracks are all there is. */
  public Clip(int id, String name, double startSeconds, double endSeconds, List<Track> tracks) {
    this(id, name, startSeconds, endSeconds, tracks, List.of(), List.of());
  }

  /**
   * Keys of one number as the source wrote them.
   *
   * @param targetId as a track's
   * @param property as a track's; {@code rotation} is three angles in degrees in the order of the
   *     node's own {@link LocalTransform.PivotTransform}, {@code translation} and {@code scale} are
   *     parts of it too
   * @param component which number of the property
   */
  public record Keys(int targetId, String property, int component, KeyCurve curve) {
    public Keys withTarget(int newTargetId) {
      return new Keys(newTargetId, property, component, curve);
    }
  }

  /**
   * A custom value of a node that is a text: it holds until the next moment.
   *
   * @param property {@link #CUSTOM} and its name
   * @param timesSeconds rising
   * @param values one a moment
   */
  public record Words(int targetId, String property, double[] timesSeconds, List<String> values) {
    public Words {
      values = List.copyOf(values);
      if (timesSeconds.length != values.size()) {
        throw new IllegalArgumentException(
            property + ": " + timesSeconds.length + " moments for " + values.size() + " texts");
      }
    }

    public Words withTarget(int newTargetId) {
      return new Words(newTargetId, property, timesSeconds, values);
    }

    /** The text at a moment; the first before the first moment. */
    public String at(double seconds) {
      int found = Arrays.binarySearch(timesSeconds, seconds);
      return values.get(Math.max(0, found >= 0 ? found : -found - 2));
    }
  }

  public static final String TRANSLATION = "translation";
  public static final String ROTATION = "rotation";
  public static final String SCALE = "scale";

  /** 1 for a node that is seen, 0 for one that is not. */
  public static final String VISIBLE = "visible";

  /** Vertical angle of view in radians. */
  public static final String CAMERA_ANGLE = "camera/angle";

  /** Height of an orthographic view in scene units. */
  public static final String CAMERA_HEIGHT = "camera/height";

  /** Linear red, green and blue. */
  public static final String LIGHT_COLOUR = "light/colour";

  public static final String LIGHT_INTENSITY = "light/intensity";

  /** Reach in scene units. */
  public static final String LIGHT_RANGE = "light/range";

  /** Half angle of full light in radians. */
  public static final String LIGHT_INNER_ANGLE = "light/innerAngle";

  /** Half angle where a spot ends in radians. */
  public static final String LIGHT_OUTER_ANGLE = "light/outerAngle";

  /** Begins the property of a material's factor; the name of its {@link Channel} follows. */
  public static final String MATERIAL = "material/";

  /** Begins the property of a number among a node's custom values; its name follows. */
  public static final String CUSTOM = "custom/";

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
   * @param property one of the constants above; {@code rotation} is a quaternion x, y, z, w; {@link
   *     #MORPH} is followed by the target's key (see {@link MorphTarget#keys})
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

    /** The same motion with keys at both ends of a range that hold its first and last values. */
    public Track held(double start, double end) {
      int before = timesSeconds[0] > start ? 1 : 0;
      int after = timesSeconds[timesSeconds.length - 1] < end ? 1 : 0;
      if (before + after == 0) {
        return this;
      }
      int keys = timesSeconds.length;
      double[] times = new double[keys + before + after];
      System.arraycopy(timesSeconds, 0, times, before, keys);
      times[0] = before > 0 ? start : times[0];
      times[times.length - 1] = after > 0 ? end : times[times.length - 1];
      boolean cubic = interpolation == Interpolation.CUBIC;
      double[] newValues = spread(values, before, after, true);
      double[] newIn = cubic ? spread(inSlopes, before, after, false) : null;
      double[] newOut = cubic ? spread(outSlopes, before, after, false) : null;
      if (cubic) {
        // Beside a held end nothing runs in or out.
        for (int c = 0; c < components; c++) {
          newIn[components * before + c] = before > 0 ? 0 : newIn[components * before + c];
          int last = components * (before + keys - 1) + c;
          newOut[last] = after > 0 ? 0 : newOut[last];
        }
      }
      return new Track(
          targetId, property, interpolation, components, times, newValues, newIn, newOut);
    }

    private double[] spread(double[] old, int before, int after, boolean hold) {
      double[] result = new double[old.length + components * (before + after)];
      System.arraycopy(old, 0, result, components * before, old.length);
      for (int c = 0; hold && c < components; c++) {
        result[c] = old[c];
        result[result.length - components + c] = old[old.length - components + c];
      }
      return result;
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

    /** The same keys of another property. */
    public Track withProperty(String newProperty) {
      return newProperty.equals(property)
          ? this
          : new Track(
              targetId,
              newProperty,
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

    /** Whether it moves, turns or scales a node. */
    public boolean isTransform() {
      return property.equals(TRANSLATION) || property.equals(ROTATION) || property.equals(SCALE);
    }

    /** Whether its values are lengths in scene units, apart from translations. */
    public boolean isLength() {
      return property.equals(CAMERA_HEIGHT) || property.equals(LIGHT_RANGE);
    }

    /** All values times a number. */
    public Track scaled(double factor) {
      return factor == 1
          ? this
          : withValues(scaled(values, factor), scaled(inSlopes, factor), scaled(outSlopes, factor));
    }

    private static double[] scaled(double[] values, double factor) {
      return values == null ? null : Arrays.stream(values).map(v -> v * factor).toArray();
    }
  }

  /** The clip with other tracks, and without keys. */
  public Clip withTracks(List<Track> newTracks) {
    return new Clip(id, name, startSeconds, endSeconds, newTracks, List.of(), words);
  }

  public Clip withKeys(List<Keys> newKeys) {
    return new Clip(id, name, startSeconds, endSeconds, tracks, newKeys, words);
  }

  public Clip withWords(List<Words> newWords) {
    return new Clip(id, name, startSeconds, endSeconds, tracks, keys, newWords);
  }

  public Clip withName(String newName) {
    return new Clip(id, newName, startSeconds, endSeconds, tracks, keys, words);
  }
}
