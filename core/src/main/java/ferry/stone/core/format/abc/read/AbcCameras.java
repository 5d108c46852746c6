package ferry.stone.core.format.abc.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcObject;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Lens;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Cameras: 16 numbers, apertures and film offsets in centimetres, the focal length in millimetres.
 */
final class AbcCameras {
  private static final int NUMBERS = 16;
  private static final int FOCAL = 0;
  private static final int WIDTH = 1;
  private static final int OFFSET_X = 2;
  private static final int HEIGHT = 3;
  private static final int OFFSET_Y = 4;
  private static final int SQUEEZE = 5;
  private static final int F_STOP = 10;
  private static final int FOCUS = 11;
  private static final int NEAR = 14;
  private static final int FAR = 15;
  private static final double MILLIMETRES = 10;

  /** Overscan and shutter under their names, for people. */
  private static final Map<Integer, String> NAMES =
      Map.of(
          6, "overscanLeft",
          7, "overscanRight",
          8, "overscanTop",
          9, "overscanBottom",
          12, "shutterOpen",
          13, "shutterClose");

  private AbcCameras() {}

  /** The camera of an object, as it is at its first sample; {@code null} where nothing is said. */
  static Camera read(ReadReport report, AbcObject object, int id, List<Clip.Track> tracks)
      throws IOException, FormatException {
    AbcCompound geometry = object.properties().compound(".geom").orElse(null);
    AbcProperty core = geometry == null ? null : geometry.value(".core").orElse(null);
    double[] v = core == null ? new double[0] : core.doubles(0);
    if (v.length < NUMBERS || !(v[FOCAL] > 0 && v[WIDTH] > 0 && v[HEIGHT] > 0)) {
      report.lost(
          "camera-not-read",
          object.path(),
          "The camera has no focal length or no film: it is read as a group.");
      return null;
    }
    motion(report, object, id, core, tracks);
    double[] window = AbcFilmBack.read(report, object, geometry);
    v[OFFSET_X] += window[2] * v[WIDTH] / 2;
    v[OFFSET_Y] += window[3] * v[WIDTH] / 2;
    v[WIDTH] *= window[0];
    v[HEIGHT] *= window[1];
    double squeeze = v[SQUEEZE] > 0 ? v[SQUEEZE] : 1;
    Map<String, Object> more = new LinkedHashMap<>();
    NAMES.forEach(
        (place, name) -> {
          if (v[place] != 0) {
            more.put(name, v[place]);
          }
        });
    Lens lens =
        new Lens(
            MILLIMETRES * v[WIDTH] * squeeze,
            MILLIMETRES * v[HEIGHT],
            MILLIMETRES * v[OFFSET_X],
            MILLIMETRES * v[OFFSET_Y],
            Math.max(0, v[FOCUS]),
            Math.max(0, v[F_STOP]));
    double far = v[FAR] > v[NEAR] ? v[FAR] : Double.POSITIVE_INFINITY;
    return new Camera(
        id,
        object.name(),
        angle(v),
        0,
        v[WIDTH] * squeeze / v[HEIGHT],
        Math.max(0, v[NEAR]),
        far,
        lens,
        more);
  }

  private static double angle(double[] v) {
    return 2 * Math.atan(MILLIMETRES * v[HEIGHT] / 2 / v[FOCAL]);
  }

  /** What changes of it: its angle of view, and else a sentence. */
  private static void motion(
      ReadReport report, AbcObject object, int id, AbcProperty core, List<Clip.Track> tracks)
      throws IOException, FormatException {
    int samples = core.isConstant() ? 1 : core.sampleCount();
    report.claim(16L * samples, object.path(), "the motion of the camera");
    double[] first = core.doubles(0);
    double[] seconds = new double[samples];
    double[] angles = new double[samples];
    boolean other = false;
    boolean zooms = false;
    for (int s = 0; s < samples; s++) {
      double[] v = core.doubles(s);
      seconds[s] = core.seconds(s);
      angles[s] = v[FOCAL] > 0 && v[HEIGHT] > 0 ? angle(v) : angle(first);
      zooms |= angles[s] != angles[0];
      for (int i = 0; i < NUMBERS; i++) {
        other |= i != FOCAL && v[i] != first[i];
      }
    }
    if (zooms) {
      tracks.add(
          new Clip.Track(
              id, Clip.CAMERA_ANGLE, Clip.Interpolation.LINEAR, 1, seconds, angles, null, null));
    }
    if (other) {
      report.lost(
          "camera-motion-not-read",
          object.path(),
          "More than the focal length of the camera changes over time: only the angle of view"
              + " is read.");
    }
  }
}
