package ferry.stone.core.format.usd.write;

import ferry.stone.core.format.usd.LightUnits;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.format.usd.write.spec.ValuesOut;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.time.Clip;
import java.util.HashMap;
import java.util.Map;

/** Cameras, in tenths of a unit, and lights, whose intensity is made of what they send out. */
final class LensOut {
  private static final double TENTH = 0.1;
  private static final double MILLIMETRES = 1000;
  private static final String INPUT = "inputs:";

  private final double metresPerUnit;
  private final TimeCodes times;

  LensOut(double metresPerUnit, TimeCodes times) {
    this.metresPerUnit = metresPerUnit;
    this.times = times;
  }

  /** A name of its own, where the part has another one. */
  private static void named(PrimSpec prim, String name, String part) {
    if (!name.equals(part) && !name.isEmpty()) {
      Spec.custom(prim, UsdNames.OWN_NAME, Spec.text("string", name));
    }
  }

  /**
   * @param part name of the part that shows it
   */
  void camera(PrimSpec prim, Camera camera, String part) {
    named(prim, camera.name(), part);
    double film = TENTH * metresPerUnit * MILLIMETRES;
    boolean flat = !(camera.verticalAngleRadians() > 0);
    double height = flat ? camera.height() / TENTH : camera.lens().gateHeight() / film;
    Spec.set(prim, "projection", Spec.text("token", flat ? "orthographic" : "perspective"));
    PropertySpec high = number(prim, "verticalAperture", height);
    number(prim, "horizontalAperture", height * camera.aspect());
    number(prim, "horizontalApertureOffset", camera.lens().shiftX() / film);
    number(prim, "verticalApertureOffset", camera.lens().shiftY() / film);
    PropertySpec focal =
        number(prim, "focalLength", flat ? 50 : focal(height, camera.verticalAngleRadians()));
    float[] range = {(float) camera.near(), (float) camera.far()};
    Spec.set(prim, "clippingRange", Spec.value("float2", false, range));
    number(prim, "focusDistance", camera.lens().focusDistance());
    number(prim, "fStop", camera.lens().fStop());
    Clip.Track angle = times.track(camera.id(), Clip.CAMERA_ANGLE);
    if (angle != null && !flat) {
      focal.samples(times.samples(angle, false, v -> Spec.number("float", focal(height, v[0]))));
    }
    Clip.Track view = times.track(camera.id(), Clip.CAMERA_HEIGHT);
    if (view != null && flat) {
      high.samples(times.samples(view, false, v -> Spec.number("float", v[0] / TENTH)));
    }
    ValuesOut.write(prim, camera.properties(), times, camera.id());
  }

  private static double focal(double height, double angle) {
    return height / 2 / Math.tan(angle / 2);
  }

  private static PropertySpec number(PrimSpec prim, String name, double value) {
    return Spec.set(prim, name, Spec.number("float", value));
  }

  /** The type of prim that a light becomes. */
  static String type(Light light) {
    Object said = light.properties().get(LightUnits.TYPE);
    if (said instanceof String type && LightUnits.kind(type, cone(light)) == light.kind()) {
      return type;
    }
    return switch (light.kind()) {
      case DIRECTIONAL -> "DistantLight";
      case AREA -> "RectLight";
      case DOME -> "DomeLight";
      default -> "SphereLight";
    };
  }

  private static double cone(Light light) {
    return light.kind() == Light.Kind.SPOT ? 0 : 180;
  }

  /**
   * @param part name of the part that shows it
   */
  void light(PrimSpec prim, Light light, String part) {
    named(prim, light.name(), part);
    String type = type(light);
    Map<String, Object> values = new HashMap<>(light.properties());
    boolean own = type.equals(values.remove(LightUnits.TYPE));
    if (!own) {
      values.keySet().removeIf(k -> k.startsWith(INPUT));
    }
    Map<String, Object> inputs = new HashMap<>();
    values.forEach(
        (name, value) -> {
          if (name.startsWith(INPUT)) {
            inputs.put(name.substring(INPUT.length()), value);
          }
        });
    values.keySet().removeIf(k -> k.startsWith(INPUT));
    if (!own && !type.equals("DomeLight")) {
      inputs.put("normalize", true);
      if (type.equals("SphereLight")) {
        Spec.set(prim, "treatAsPoint", Spec.number("bool", 1));
      }
    }
    double share = LightUnits.share(type, inputs) * LightUnits.exposure(inputs);
    inputs.replaceAll(
        (name, value) ->
            LightUnits.isLength(name) && value instanceof Number metres
                ? metres.doubleValue() / metresPerUnit
                : value);
    inputs.remove("color");
    inputs.put("intensity", share > 0 ? light.intensity() / share : light.intensity());
    inputs.forEach((name, value) -> input(prim, name, value, values.get("usdTypes")));
    float[] colour = light.linearColour().clone();
    PropertySpec shown = Spec.set(prim, INPUT + "color", Spec.value("color3f", false, colour));
    PropertySpec bright = prim.properties().get(INPUT + "intensity");
    Clip.Track moved = times.track(light.id(), Clip.LIGHT_COLOUR);
    if (moved != null) {
      shown.samples(
          times.samples(
              moved,
              false,
              v ->
                  Spec.value(
                      "color3f", false, new float[] {(float) v[0], (float) v[1], (float) v[2]})));
    }
    Clip.Track rises = times.track(light.id(), Clip.LIGHT_INTENSITY);
    if (rises != null) {
      bright.samples(times.samples(rises, false, v -> Spec.number("float", v[0] / share)));
    }
    if (light.kind() == Light.Kind.SPOT) {
      spot(prim, light);
    }
    values.remove("usdTypes");
    ValuesOut.write(prim, values, times, light.id());
  }

  private static void input(PrimSpec prim, String name, Object value, Object types) {
    Object type = types instanceof Map<?, ?> map ? map.get(INPUT + name) : null;
    String usual = value instanceof Number ? "float" : "";
    var typed = ValuesOut.typed(value, type instanceof String said ? said : usual);
    if (typed != null) {
      Spec.set(prim, INPUT + name, typed);
    }
  }

  private static void spot(PrimSpec prim, Light light) {
    Spec.api(prim, "ShapingAPI");
    double outer = light.outerAngleRadians();
    double soft = outer > 0 ? 1 - light.innerAngleRadians() / outer : 0;
    number(prim, "inputs:shaping:cone:angle", Math.toDegrees(outer));
    number(prim, "inputs:shaping:cone:softness", soft);
  }
}
