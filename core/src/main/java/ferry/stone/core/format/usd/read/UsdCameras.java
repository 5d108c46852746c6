package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Lens;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeSet;

/**
 * Cameras: focal length and apertures in tenths of a unit of the stage, distances in whole ones.
 * What is not said is what {@code UsdGeomCamera} says.
 */
final class UsdCameras {
  private static final double TENTH = 0.1;
  private static final double MILLIMETRES = 1000;

  private UsdCameras() {}

  static Camera read(UsdReading reading, UsdPrim prim, int id) throws IOException, FormatException {
    boolean flat = Said.text(prim, "projection", "perspective").equals("orthographic");
    double width = Said.number(prim, "horizontalAperture", 20.955);
    double height = Said.number(prim, "verticalAperture", 15.2908);
    double focal = Said.number(prim, "focalLength", 50);
    if (!(width > 0 && height > 0 && focal > 0)) {
      reading
          .report()
          .lost(
              "camera-not-read",
              prim.path(),
              "The camera has no focal length or no aperture: it is read as a group.");
      return null;
    }
    double[] range = Said.doubles(prim, "clippingRange", 1, 1_000_000);
    double film = TENTH * reading.metresPerUnit() * MILLIMETRES;
    Lens lens =
        new Lens(
            width * film,
            height * film,
            Said.number(prim, "horizontalApertureOffset", 0) * film,
            Said.number(prim, "verticalApertureOffset", 0) * film,
            Math.max(0, Said.number(prim, "focusDistance", 0)),
            Math.max(0, Said.number(prim, "fStop", 0)));
    Map<String, Object> custom = new LinkedHashMap<>();
    motion(reading, prim, id, flat);
    return new Camera(
        id,
        Said.ownName(prim),
        flat ? 0 : angle(height, focal),
        flat ? height * TENTH : 0,
        width / height,
        Math.max(0, range[0]),
        range[1] > range[0] ? range[1] : Double.POSITIVE_INFINITY,
        lens,
        custom);
  }

  private static double angle(double height, double focal) {
    return 2 * Math.atan(height / 2 / focal);
  }

  /** What changes of it: its view, and else a sentence. */
  private static void motion(UsdReading reading, UsdPrim prim, int id, boolean flat)
      throws IOException, FormatException {
    UsdProperty height = prim.property("verticalAperture");
    UsdProperty focal = prim.property("focalLength");
    TreeSet<Double> codes = new TreeSet<>();
    for (UsdProperty property : new UsdProperty[] {height, flat ? null : focal}) {
      if (Said.moves(property)) {
        for (double code : property.samples().codes()) {
          codes.add(code);
        }
      }
    }
    if (codes.size() > 1) {
      reading.report().claim(16L * codes.size(), prim.path(), "the motion of the camera");
      double[] seconds = codes.stream().mapToDouble(reading::seconds).toArray();
      double[] views = new double[seconds.length];
      int at = 0;
      for (double code : codes) {
        double high = number(height, code, 15.2908);
        views[at++] = flat ? high * TENTH : angle(high, number(focal, code, 50));
      }
      if (Arrays.stream(views).anyMatch(v -> v != views[0])) {
        reading
            .tracks()
            .add(
                new Clip.Track(
                    id,
                    flat ? Clip.CAMERA_HEIGHT : Clip.CAMERA_ANGLE,
                    Clip.Interpolation.LINEAR,
                    1,
                    seconds,
                    views,
                    null,
                    null));
      }
    }
    for (String name :
        new String[] {
          "horizontalApertureOffset",
          "verticalApertureOffset",
          "clippingRange",
          "fStop",
          "focusDistance",
          "projection"
        }) {
      if (Said.moves(prim, name)) {
        reading
            .report()
            .lost(
                "camera-motion-not-read",
                prim.path(),
                "\"" + name + "\" of the camera changes over time: it is read as it is at first.");
      }
    }
  }

  /** A number at a time code, on a line between samples. */
  private static double number(UsdProperty property, double code, double otherwise)
      throws IOException, FormatException {
    UsdSamples samples = property == null ? null : property.samples();
    if (samples == null || samples.codes().length == 0) {
      UsdValue value = Said.value(property);
      return value == null ? otherwise : value.number(0);
    }
    double[] codes = samples.codes();
    int found = Arrays.binarySearch(codes, code);
    int low = Math.max(0, found >= 0 ? found : -found - 2);
    int high = found >= 0 ? low : Math.min(low + 1, codes.length - 1);
    double a = samples.value(low) instanceof UsdValue v ? v.number(0) : otherwise;
    double b = samples.value(high) instanceof UsdValue v ? v.number(0) : a;
    double span = codes[high] - codes[low];
    return span <= 0 || code <= codes[low] ? a : a + (code - codes[low]) / span * (b - a);
  }
}
