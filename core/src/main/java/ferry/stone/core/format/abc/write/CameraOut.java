package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.abc.raw.PropertyOut;
import ferry.stone.core.motion.Curves;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.Map;

/**
 * Cameras: 16 numbers in the order of the library's {@code CameraSample}, apertures and film
 * offsets in centimetres, the focal length in millimetres.
 */
final class CameraOut {
  static final String SCHEMA = "schema=AbcGeom_Camera_v1";

  private static final double MILLIMETRES = 10;

  /** Centimetres: the height of the film where none is said, as the library has it. */
  private static final double USUAL_HEIGHT = 2.4;

  private static final double USUAL_ASPECT = 16 / 9.0;

  /** What stands for no end: the library's own standard. */
  static final double FARTHEST = 100_000;

  private CameraOut() {}

  static void write(CompoundOut geometry, Camera camera, Clip.Track zoom) throws IOException {
    double[] seconds = zoom == null ? null : zoom.timesSeconds();
    PropertyOut core = geometry.property(".core", new Type(false, Pod.FLOAT64, 16), "", seconds);
    double[] angle = {camera.verticalAngleRadians()};
    for (int s = 0; s < (zoom == null ? 1 : seconds.length); s++) {
      if (zoom != null) {
        Curves.sample(zoom, seconds[s], angle);
      }
      core.add(numbers(camera, angle[0]));
    }
  }

  private static double[] numbers(Camera camera, double angle) {
    boolean lens = camera.lens() != null;
    double height = lens ? camera.lens().gateHeight() / MILLIMETRES : USUAL_HEIGHT;
    double aspect = camera.aspect() > 0 ? camera.aspect() : USUAL_ASPECT;
    double width = lens ? camera.lens().gateWidth() / MILLIMETRES : height * aspect;
    Map<String, Object> more = camera.properties();
    return new double[] {
      MILLIMETRES * height / 2 / Math.tan(angle / 2),
      width,
      lens ? camera.lens().shiftX() / MILLIMETRES : 0,
      height,
      lens ? camera.lens().shiftY() / MILLIMETRES : 0,
      1,
      number(more, "overscanLeft"),
      number(more, "overscanRight"),
      number(more, "overscanTop"),
      number(more, "overscanBottom"),
      lens ? camera.lens().fStop() : 0,
      lens ? camera.lens().focusDistance() : 0,
      number(more, "shutterOpen"),
      number(more, "shutterClose"),
      camera.near(),
      Double.isInfinite(camera.far()) ? FARTHEST : camera.far()
    };
  }

  private static double number(Map<String, Object> values, String name) {
    return values.get(name) instanceof Number n ? n.doubleValue() : 0;
  }
}
