package ferry.stone.core.format.usd;

import ferry.stone.core.scene.node.Light;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * What lights send out, from how bright their surface is: candela of a sphere of radius r are nits
 * · π r², of a flat light nits · its area; where the intensity is normalized, nits by the area of
 * the surface. Lux of a distant light of angle a are nits · π sin²(a/2), normalized nits. After the
 * documentation of {@code usdLux}.
 */
public final class LightUnits {
  /** The name of a light's type among its custom values. */
  public static final String TYPE = "usdLight";

  private static final double RIGHT_ANGLE = 90;

  /** Inputs that are lengths: values of lights have them in metres, whatever the unit of a file. */
  private static final Map<String, Double> LENGTHS =
      Map.of("radius", 0.5, "width", 1.0, "height", 1.0, "length", 1.0);

  private static final Map<String, Set<String>> SIZES =
      Map.of(
          "SphereLight", Set.of("radius"),
          "DiskLight", Set.of("radius"),
          "RectLight", Set.of("width", "height"),
          "CylinderLight", Set.of("radius", "length"));

  private LightUnits() {}

  /**
   * Lengths of a file as metres; sizes that it does not say are what the standard says, in its
   * unit.
   *
   * @param inputs by their names without {@code inputs:}
   */
  public static Map<String, Double> metres(
      String type, Map<String, Object> inputs, double metresPerUnit) {
    Map<String, Double> metres = new TreeMap<>();
    LENGTHS.forEach(
        (name, usual) -> {
          if (inputs.get(name) instanceof Number said) {
            metres.put(name, said.doubleValue() * metresPerUnit);
          } else if (SIZES.getOrDefault(type, Set.of()).contains(name)) {
            metres.put(name, usual * metresPerUnit);
          }
        });
    return metres;
  }

  public static boolean isLength(String input) {
    return LENGTHS.containsKey(input);
  }

  /**
   * @param cone half angle of a spot in degrees
   */
  public static Light.Kind kind(String type, double cone) {
    return switch (type) {
      case "DistantLight" -> Light.Kind.DIRECTIONAL;
      case "SphereLight" -> cone < RIGHT_ANGLE ? Light.Kind.SPOT : Light.Kind.POINT;
      case "DomeLight", "DomeLight_1" -> Light.Kind.DOME;
      default -> Light.Kind.AREA;
    };
  }

  private static double number(Map<String, Object> inputs, String name, double otherwise) {
    Object value = inputs.get(name);
    return value instanceof Number number
        ? number.doubleValue()
        : value instanceof Boolean truth ? truth ? 1 : 0 : otherwise;
  }

  /** What the exposure multiplies. */
  public static double exposure(Map<String, Object> inputs) {
    return Math.pow(2, number(inputs, "exposure", 0));
  }

  /** Intensity that is meant where none is said. */
  public static double usualIntensity(String type) {
    return type.equals("DistantLight") ? 50_000 : 1;
  }

  /**
   * Candela or lux for a nit.
   *
   * @param inputs by their names without {@code inputs:}, lengths in metres
   */
  public static double share(String type, Map<String, Object> inputs) {
    boolean normal = number(inputs, "normalize", 0) != 0;
    double radius = number(inputs, "radius", 0.5);
    switch (type) {
      case "DistantLight":
        double half = Math.toRadians(number(inputs, "angle", 0.53)) / 2;
        double spread = Math.PI * Math.sin(half) * Math.sin(half);
        return normal || spread == 0 ? 1 : spread;
      case "SphereLight":
        return normal ? 0.25 : Math.PI * radius * radius;
      case "DiskLight":
        return normal ? 1 : Math.PI * radius * radius;
      case "RectLight":
        double area = number(inputs, "width", 1) * number(inputs, "height", 1);
        return normal ? 1 : area;
      case "CylinderLight":
        double length = number(inputs, "length", 1);
        return normal ? 1 / Math.PI : 2 * radius * length;
      default:
        return 1;
    }
  }
}
