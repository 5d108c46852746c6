package ferry.stone.core.format.fbx.read;

import ferry.stone.core.format.fbx.raw.FbxProperties;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Lens;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.texture.ColourSpace;
import java.util.HashMap;
import java.util.Map;

/** Reads cameras, which look along their +X, and lights, which shine along their −Y. */
public final class FbxLensReader {
  public static final double MILLIMETRES_PER_INCH = 25.4;
  public static final double PERCENT = 100;
  public static final int BY_VERTICAL_ANGLE = 2;

  /** Marks of what the format has to put a number to. */
  public static final String OPEN_ASPECT = "aspectLeftToViewer";

  public static final String OPEN_FAR = "farUnlimited";

  static final double USUAL_FOCAL = 34.89;
  static final double USUAL_FIELD = 25.115;
  private static final int ORTHOGRAPHIC = 1;
  private static final int BY_HORIZONTAL_ANGLE = 1;
  private static final int BY_FOCAL_LENGTH = 3;

  private FbxLensReader() {}

  /** How wide an orthographic view at zoom 1 is, in scene units: common practice, no source. */
  public static double zoomOneWidth(Frame frame) {
    return 30 * 0.01 / frame.metresPerUnit();
  }

  /**
   * @param frame of the scene, for the unit of distances
   */
  static Camera camera(int id, String name, FbxProperties p, Frame frame) {
    double width = p.number("FilmWidth", 0.816);
    double height = p.number("FilmHeight", 0.612);
    double filmAspect = height > 0 && width > 0 ? width / height : 1;
    double aspect = aspect(p, filmAspect);
    double near = p.number("NearPlane", 10);
    double far = p.number("FarPlane", 4000);
    Map<String, Object> properties = new HashMap<>(p.custom());
    double shown = properties.remove(OPEN_ASPECT) == null ? aspect : 0;
    far = properties.remove(OPEN_FAR) == null ? far : Double.POSITIVE_INFINITY;
    if ((int) p.number("CameraProjectionType", 0) == ORTHOGRAPHIC) {
      double wide = zoomOneWidth(frame) * p.number("OrthoZoom", 1);
      return new Camera(id, name, 0, wide / aspect, shown, near, far, properties);
    }
    double vertical = vertical(p);
    // A lens that other formats left among custom values is not there twice.
    Lens beside = Lens.take(properties);
    Lens lens = p.has("FilmHeight") && height > 0 && width > 0 ? lens(p, properties) : beside;
    return new Camera(id, name, vertical, 0, shown, near, far, lens, properties);
  }

  private static Lens lens(FbxProperties p, Map<String, Object> properties) {
    Object stop = properties.remove(Lens.F_STOP);
    return new Lens(
        p.number("FilmWidth", 0.816) * MILLIMETRES_PER_INCH,
        p.number("FilmHeight", 0.612) * MILLIMETRES_PER_INCH,
        p.number("FilmOffsetX", 0) * MILLIMETRES_PER_INCH,
        p.number("FilmOffsetY", 0) * MILLIMETRES_PER_INCH,
        Math.max(0, p.number("FocusDistance", 0)),
        stop instanceof Number n ? n.doubleValue() : 0);
  }

  private static double aspect(FbxProperties p, double filmAspect) {
    double aspect = p.number("AspectWidth", 0) / p.number("AspectHeight", 1);
    return aspect > 0 && Double.isFinite(aspect) ? aspect : filmAspect;
  }

  private static double vertical(FbxProperties p) {
    String property = movingProperty(p);
    double usual = property.equals("FocalLength") ? USUAL_FOCAL : USUAL_FIELD;
    double vertical = angle(p, property, p.number(property, usual));
    return vertical > 0.001 && vertical < 3.13 ? vertical : 0.6;
  }

  /** The property that says the angle of view, by the aperture mode. */
  static String movingProperty(FbxProperties p) {
    return switch ((int) p.number("ApertureMode", BY_VERTICAL_ANGLE)) {
      case BY_FOCAL_LENGTH -> "FocalLength";
      case 0 -> "FieldOfViewY";
      default -> "FieldOfView";
    };
  }

  /** The vertical angle in radians for a value of that property: millimetres or degrees. */
  static double angle(FbxProperties p, String property, double value) {
    double height = p.number("FilmHeight", 0.612);
    double width = p.number("FilmWidth", 0.816);
    if (property.equals("FocalLength")) {
      return 2 * Math.atan(height * MILLIMETRES_PER_INCH / 2 / Math.max(1e-3, value));
    }
    double field = Math.toRadians(value);
    boolean across = (int) p.number("ApertureMode", BY_VERTICAL_ANGLE) == BY_HORIZONTAL_ANGLE;
    return across ? 2 * Math.atan(Math.tan(field / 2) * height / Math.max(1e-9, width)) : field;
  }

  /** Intensity is a percentage; 100 is read as 1 candela or lux: common practice, no source. */
  static Light light(int id, String name, FbxProperties p) {
    Light.Kind kind =
        switch ((int) p.number("LightType", 0)) {
          case 1 -> Light.Kind.DIRECTIONAL;
          case 2 -> Light.Kind.SPOT;
          case 3, 4 -> Light.Kind.AREA;
          default -> Light.Kind.POINT;
        };
    double[] written = p.colour("Color");
    float[] colour = {1, 1, 1};
    for (int k = 0; written != null && k < 3; k++) {
      colour[k] = (float) ColourSpace.toLinear(Math.max(0, Math.min(1, written[k])));
    }
    double inner = Math.toRadians(p.number("InnerAngle", 0)) / 2;
    double outer = Math.toRadians(p.number("OuterAngle", 45)) / 2;
    outer = Math.max(0.001, Math.min(Math.PI / 2, outer));
    boolean ends = p.flag("EnableFarAttenuation", false);
    double range = p.number("FarAttenuationEnd", 0);
    return new Light(
        id,
        name,
        kind,
        colour,
        Math.max(0, p.number("Intensity", PERCENT) / PERCENT),
        ends && range > 0 ? range : Double.POSITIVE_INFINITY,
        Math.max(0, Math.min(inner, outer)),
        outer,
        p.custom());
  }
}
