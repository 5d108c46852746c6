package ferry.stone.core.format.fbx;

import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Camera;
import ferry.stone.core.scene.Light;
import ferry.stone.core.texture.ColourSpace;

/** Reads cameras, which look along their +X, and lights, which shine along their −Y. */
final class FbxLensReader {
  private static final double MILLIMETRES_PER_INCH = 25.4;
  private static final double USUAL_FOCAL = 34.89;
  private static final int ORTHOGRAPHIC = 1;
  private static final int BY_HORIZONTAL_ANGLE = 1;
  private static final int BY_VERTICAL_ANGLE = 2;
  private static final int BY_FOCAL_LENGTH = 3;
  private static final double PERCENT = 100;

  private FbxLensReader() {}

  /**
   * @param frame of the scene, for the unit of distances
   */
  static Camera camera(int id, String name, FbxProperties p, Frame frame) {
    double width = p.number("FilmWidth", 0.816);
    double height = p.number("FilmHeight", 0.612);
    double aspect = p.number("AspectWidth", 0) / p.number("AspectHeight", 1);
    double filmAspect = height > 0 ? width / height : 1;
    if (!(aspect > 0) || Double.isInfinite(aspect)) {
      aspect = filmAspect;
    }
    double near = p.number("NearPlane", 10);
    double far = p.number("FarPlane", 4000);
    if ((int) p.number("CameraProjectionType", 0) == ORTHOGRAPHIC) {
      // Zoom 1 is a view 30 units wide: common practice, no source.
      double wide = 30 * p.number("OrthoZoom", 1) * 0.01 / frame.metresPerUnit();
      return new Camera(id, name, 0, wide / aspect, aspect, near, far, p.custom());
    }
    double vertical;
    double field = Math.toRadians(p.number("FieldOfView", 25.115));
    switch ((int) p.number("ApertureMode", BY_VERTICAL_ANGLE)) {
      case BY_HORIZONTAL_ANGLE -> vertical = 2 * Math.atan(Math.tan(field / 2) / filmAspect);
      case BY_FOCAL_LENGTH -> {
        double focal = p.number("FocalLength", USUAL_FOCAL);
        vertical = 2 * Math.atan(height * MILLIMETRES_PER_INCH / 2 / focal);
      }
      case BY_VERTICAL_ANGLE -> vertical = field;
      default -> vertical = Math.toRadians(p.number("FieldOfViewY", Math.toDegrees(field)));
    }
    vertical = vertical > 0.001 && vertical < 3.13 ? vertical : 0.6;
    return new Camera(id, name, vertical, 0, aspect, near, far, p.custom());
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
    return new Light(
        id,
        name,
        kind,
        colour,
        Math.max(0, p.number("Intensity", PERCENT) / PERCENT),
        Double.POSITIVE_INFINITY,
        Math.max(0, Math.min(inner, outer - 1e-4)),
        outer,
        p.custom());
  }
}
