package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.LightUnits;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.format.usd.read.stage.UsdValues;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;

/**
 * Lights of {@code usdLux}. The standard says how bright their surface is (nits, times two to the
 * exposure); what a light sends out as a whole follows from its size: candela of a sphere of radius
 * r are nits · π r², of a flat light nits · its area; where the intensity is normalized, nits by
 * the area of the surface. Lux of a distant light of angle a are nits · π sin²(a/2), normalized
 * nits. Inputs that have no place of their own stay custom values under their names.
 */
final class UsdLights {
  private static final Set<String> TYPES =
      Set.of(
          "DistantLight",
          "SphereLight",
          "RectLight",
          "DiskLight",
          "CylinderLight",
          "DomeLight",
          "DomeLight_1",
          "GeometryLight",
          "PortalLight",
          "PluginLight");

  private static final String INPUT = "inputs:";
  private static final String ANGLE = "inputs:shaping:cone:angle";

  private UsdLights() {}

  static boolean is(String type) {
    return TYPES.contains(type);
  }

  static Light read(UsdReading reading, UsdPrim prim, int id) throws IOException, FormatException {
    String type = prim.typeName();
    double[] colour = Said.doubles(prim, INPUT + "color", 1, 1, 1);
    double cone = Said.number(prim, ANGLE, 180);
    Light.Kind kind = LightUnits.kind(type, cone);
    double inner = 0;
    double outer = 0;
    if (kind == Light.Kind.SPOT) {
      outer = Math.toRadians(cone);
      double soft = Said.number(prim, "inputs:shaping:cone:softness", 0);
      inner = outer * (1 - Math.max(0, Math.min(1, soft)));
    }
    if (Said.flag(prim, "inputs:enableColorTemperature", false)) {
      reading
          .report()
          .note(
              "light-temperature",
              prim.path(),
              "Its colour is that of a temperature as well: kept as values, and not in its colour.");
    }
    Map<String, Object> values = values(reading, prim, type);
    Map<String, Object> inputs = new LinkedHashMap<>();
    values.forEach((name, value) -> inputs.put(name.replaceFirst("^" + INPUT, ""), value));
    LightUnits.metres(type, inputs, reading.metresPerUnit())
        .forEach(
            (name, metres) -> {
              inputs.put(name, metres);
              values.put(INPUT + name, metres);
            });
    double share = LightUnits.share(type, inputs) * LightUnits.exposure(inputs);
    double intensity = Said.number(prim, INPUT + "intensity", LightUnits.usualIntensity(type));
    motion(reading, prim, id, share);
    return new Light(
        id,
        Said.ownName(prim),
        kind,
        new float[] {(float) colour[0], (float) colour[1], (float) colour[2]},
        intensity * share,
        Double.POSITIVE_INFINITY,
        inner,
        outer,
        values);
  }

  /** All inputs as they are, so that they can be written as they were; lengths become metres. */
  private static Map<String, Object> values(UsdReading reading, UsdPrim prim, String type)
      throws IOException, FormatException {
    Map<String, Object> values = new LinkedHashMap<>();
    values.put(LightUnits.TYPE, type);
    new UsdValues(reading, prim, 0)
        .attributes(values, name -> name.startsWith(INPUT) && !isKept(name));
    return values;
  }

  private static boolean isKept(String name) {
    return name.equals(INPUT + "color");
  }

  private static void motion(UsdReading reading, UsdPrim prim, int id, double share)
      throws IOException, FormatException {
    reading.track(
        id,
        Clip.LIGHT_COLOUR,
        prim.property(INPUT + "color"),
        Clip.Interpolation.LINEAR,
        3,
        v -> v.length() < 3 ? null : new double[] {v.number(0), v.number(1), v.number(2)});
    reading.track(
        id,
        Clip.LIGHT_INTENSITY,
        prim.property(INPUT + "intensity"),
        Clip.Interpolation.LINEAR,
        1,
        v -> v.length() < 1 ? null : new double[] {v.number(0) * share});
  }
}
