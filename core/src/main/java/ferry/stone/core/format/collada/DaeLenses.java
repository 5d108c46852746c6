package ferry.stone.core.format.collada;

import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.texture.ColourSpace;
import java.util.Map;

/** Cameras and lights. A light's colour is read as its strength too: 1 candela or lux for white. */
final class DaeLenses {
  private DaeLenses() {}

  /** {@code null} for a projection that is none of the two. */
  static Camera camera(DaeElement element, int id) {
    DaeElement common = element.at("optics", "technique_common");
    DaeElement perspective = common == null ? null : common.child("perspective");
    DaeElement orthographic = common == null ? null : common.child("orthographic");
    DaeElement lens = perspective != null ? perspective : orthographic;
    if (lens == null) {
      return null;
    }
    double near = value(lens, "znear", 0.1);
    double far = value(lens, "zfar", Double.POSITIVE_INFINITY);
    double aspect = value(lens, "aspect_ratio", 0);
    String x = perspective != null ? "xfov" : "xmag";
    String y = perspective != null ? "yfov" : "ymag";
    double across = value(lens, x, Double.NaN);
    double up = value(lens, y, Double.NaN);
    String name = element.label("camera");
    if (perspective == null) {
      // Magnifications are half sizes of the view.
      double half = Double.isNaN(up) ? across / (aspect > 0 ? aspect : 1) : up;
      double shown = aspect > 0 || Double.isNaN(across) || Double.isNaN(up) ? aspect : across / up;
      return new Camera(id, name, 0, 2 * orOne(half), shown, near, far, Map.of());
    }
    double angle = Math.toRadians(up);
    if (Double.isNaN(up)) {
      double wide = Math.tan(Math.toRadians(across) / 2);
      angle = 2 * Math.atan(wide / (aspect > 0 ? aspect : 1));
    } else if (aspect == 0 && !Double.isNaN(across)) {
      aspect = Math.tan(Math.toRadians(across) / 2) / Math.tan(angle / 2);
    }
    boolean right = angle > 1e-4 && angle < Math.PI - 1e-4;
    return new Camera(id, name, right ? angle : 0.6, 0, aspect, near, far, Map.of());
  }

  private static double orOne(double half) {
    return half > 0 && Double.isFinite(half) ? half : 1;
  }

  private static double value(DaeElement holder, String name, double otherwise) {
    DaeElement element = holder.child(name);
    return element == null ? otherwise : element.scalar(otherwise);
  }

  /** {@code null} for light that comes from nowhere. */
  static Light light(DaeElement element, int id) {
    DaeElement common = element.child("technique_common");
    DaeElement source = null;
    for (DaeElement child : common == null ? java.util.List.<DaeElement>of() : common.children) {
      source = child.name.equals("ambient") ? source : child;
    }
    if (source == null) {
      return null;
    }
    double[] written = source.child("color") == null ? null : source.child("color").numbers();
    double strength = 0;
    double[] rgb = {1, 1, 1};
    for (int k = 0; k < 3; k++) {
      rgb[k] = written != null && written.length > k && written[k] >= 0 ? written[k] : 1;
      strength = Math.max(strength, rgb[k]);
    }
    float[] linear = new float[3];
    for (int k = 0; k < 3; k++) {
      linear[k] = (float) ColourSpace.toLinear(strength > 0 ? rgb[k] / strength : 0);
    }
    Light.Kind kind =
        switch (source.name) {
          case "directional" -> Light.Kind.DIRECTIONAL;
          case "spot" -> Light.Kind.SPOT;
          default -> Light.Kind.POINT;
        };
    double outer = Math.toRadians(value(source, "falloff_angle", 180)) / 2;
    outer = Math.max(1e-3, Math.min(Math.PI / 2, outer));
    return new Light(
        id,
        element.label("light"),
        kind,
        linear,
        strength,
        Double.POSITIVE_INFINITY,
        0,
        kind == Light.Kind.SPOT ? outer : 0,
        Map.of());
  }
}
