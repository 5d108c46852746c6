package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
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
    Light.Kind kind = kind(type, cone);
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
    double share = share(reading, prim, type);
    motion(reading, prim, id, share);
    return new Light(
        id,
        prim.name(),
        kind,
        new float[] {(float) colour[0], (float) colour[1], (float) colour[2]},
        nits(prim, type) * share,
        Double.POSITIVE_INFINITY,
        inner,
        outer,
        values(reading, prim, type));
  }

  private static Light.Kind kind(String type, double cone) {
    return switch (type) {
      case "DistantLight" -> Light.Kind.DIRECTIONAL;
      case "SphereLight" -> cone < 90 ? Light.Kind.SPOT : Light.Kind.POINT;
      case "DomeLight", "DomeLight_1" -> Light.Kind.DOME;
      default -> Light.Kind.AREA;
    };
  }

  private static double nits(UsdPrim prim, String type) throws IOException, FormatException {
    double usual = type.equals("DistantLight") ? 50_000 : 1;
    double exposure = Said.number(prim, INPUT + "exposure", 0);
    return Said.number(prim, INPUT + "intensity", usual) * Math.pow(2, exposure);
  }

  /** Candela or lux for a nit. */
  private static double share(UsdReading reading, UsdPrim prim, String type)
      throws IOException, FormatException {
    boolean normal = Said.flag(prim, INPUT + "normalize", false);
    double unit = reading.metresPerUnit();
    double radius = Said.number(prim, INPUT + "radius", 0.5) * unit;
    switch (type) {
      case "DistantLight":
        double half = Math.toRadians(Said.number(prim, INPUT + "angle", 0.53)) / 2;
        double spread = Math.PI * Math.sin(half) * Math.sin(half);
        return normal || spread == 0 ? 1 : spread;
      case "SphereLight":
        return normal ? 0.25 : Math.PI * radius * radius;
      case "DiskLight":
        return normal ? 1 : Math.PI * radius * radius;
      case "RectLight":
        double area =
            Said.number(prim, INPUT + "width", 1)
                * Said.number(prim, INPUT + "height", 1)
                * unit
                * unit;
        return normal ? 1 : area;
      case "CylinderLight":
        double length = Said.number(prim, INPUT + "length", 1) * unit;
        return normal ? 1 / Math.PI : 2 * radius * length;
      default:
        return 1;
    }
  }

  /** All inputs as they are, so that they can be written as they were. */
  private static Map<String, Object> values(UsdReading reading, UsdPrim prim, String type)
      throws IOException, FormatException {
    Map<String, Object> values = new LinkedHashMap<>();
    values.put("usdLight", type);
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
    double exposure = Math.pow(2, Said.number(prim, INPUT + "exposure", 0));
    reading.track(
        id,
        Clip.LIGHT_INTENSITY,
        prim.property(INPUT + "intensity"),
        Clip.Interpolation.LINEAR,
        1,
        v -> v.length() < 1 ? null : new double[] {v.number(0) * exposure * share});
  }
}
